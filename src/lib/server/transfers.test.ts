import { describe, expect, it } from 'vitest';
import { toHex } from '../core/midi';
import { anOrrery, freshStudio } from './studio.fixture';
import {
	abandonTransfer,
	dropUnfinished,
	keepUnfinished,
	resumeTransfer,
	unfinishedCaptures
} from './unfinished';
import {
	appendMessages,
	beginTransfer,
	finishTransfer,
	getTransfer,
	keepSafetyCopy,
	receivedMessages
} from './transfers';
import { appendTrace } from './transfer-trace';
import { finishSchema } from './transfer-orders';
import { getVersion } from './drawer';
import { getDevice } from './gear';
import { saveUnit, putUnit, getUnit } from './bench';
import { shippedProfile } from './profiles';

const here = freshStudio();

async function begun(direction: 'capture' | 'restore' = 'capture') {
	const orrery = await anOrrery(here.studio);
	const transfer = await beginTransfer(here.studio, {
		deviceId: orrery.device.id,
		direction,
		scope: { kind: 'all' },
		kind: 'routine',
		title: 'T',
		sourceVersionId: null
	});
	return { ...orrery, transfer, hex: orrery.dump().map((bytes) => toHex(bytes)) };
}
const finish = (order: object) => finishSchema.parse({ status: 'complete', reason: null, ...order });

describe('a capture', () => {
	it('becomes a verified version when it is complete', async () => {
		const { transfer, hex } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex });
		const ended = await finishTransfer(here.studio, transfer.id, finish({ firmware: '1.04' }));
		expect(ended.status).toBe('complete');
		expect(await getVersion(here.studio, ended.versionId!)).toMatchObject({
			verified: true,
			slots: 65,
			missing: 0,
			title: 'T',
			firmware: '1.04'
		});
	});

	it('is not believed to be complete when slots are not stored', async () => {
		const { transfer, hex } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex.slice(0, 1) });
		await expect(finishTransfer(here.studio, transfer.id, finish({}))).rejects.toMatchObject({
			code: 'transfer.not-whole'
		});
		expect((await getTransfer(here.studio, transfer.id)).versionId).toBeNull();
	});

	it('takes messages twice without harm, and refuses gaps and contradictions', async () => {
		const { transfer, hex } = await begun();
		expect(await appendMessages(here.studio, transfer.id, { position: 0, messages: [hex[0]] })).toBe(1);
		expect(await appendMessages(here.studio, transfer.id, { position: 0, messages: hex })).toBe(2);
		await expect(
			appendMessages(here.studio, transfer.id, { position: 5, messages: [hex[0]] })
		).rejects.toMatchObject({ code: 'transfer.gap' });
		await expect(
			appendMessages(here.studio, transfer.id, { position: 0, messages: [hex[1]] })
		).rejects.toMatchObject({ code: 'transfer.conflict' });
		expect(await receivedMessages(here.studio, transfer.id)).toHaveLength(2);
	});

	it('that was left alone can be resumed, kept as it is, or let go', async () => {
		const { transfer, hex, device } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex.slice(0, 1) });
		await appendTrace(here.studio, transfer.id, {
			part: 0,
			lines: [{ atMs: 1, way: 'received', hex: '', says: 'Damaged message: checksum 1' }]
		});
		await abandonTransfer(here.studio, transfer.id);
		expect(await unfinishedCaptures(here.studio)).toMatchObject([
			{ id: transfer.id, received: 1, status: 'unfinished' }
		]);
		expect(await resumeTransfer(here.studio, transfer.id)).toMatchObject({
			part: 1,
			distrusted: true,
			messages: [{ length: hex[0].length / 2 }]
		});
		await expect(resumeTransfer(here.studio, transfer.id)).rejects.toMatchObject({ code: 'transfer.ended' });
		await abandonTransfer(here.studio, transfer.id);
		const id = await keepUnfinished(here.studio, transfer.id);
		expect(await getVersion(here.studio, id)).toMatchObject({
			kind: 'unfinished',
			verified: false,
			missing: 1,
			deviceId: device.id
		});
		expect(await unfinishedCaptures(here.studio)).toEqual([]);
		const other = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'capture',
			scope: { kind: 'all' },
			kind: 'routine',
			title: '',
			sourceVersionId: null
		});
		await appendMessages(here.studio, other.id, { position: 0, messages: hex.slice(0, 1) });
		await dropUnfinished(here.studio, other.id);
		expect(await unfinishedCaptures(here.studio)).toEqual([]);
	});

	it('makes a version of the messages that were believed, and no others', async () => {
		const { transfer, hex, dump, memory } = await begun();
		const wrong = toHex(dump([memory.programs[1], ...memory.programs.slice(1)])[0]);
		await appendMessages(here.studio, transfer.id, { position: 0, messages: [wrong, hex[1], hex[0]] });
		const { versionId } = await finishTransfer(here.studio, transfer.id, finish({ use: [1, 2] }));
		expect((await getVersion(here.studio, versionId!)).messages).toHaveLength(2);
	});
});

describe('a restore', () => {
	it('counts the device as changed from its safety copy on, until it is proved', async () => {
		const { transfer, hex, device } = await begun('restore');
		const safety = await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: '1.04' });
		expect(await getVersion(here.studio, safety)).toMatchObject({ kind: 'safety', verified: true });
		expect((await getDevice(here.studio, device.id)).touchedAt).not.toBeNull();
		const ended = await finishTransfer(
			here.studio,
			transfer.id,
			finish({ status: 'verified', readBack: hex })
		);
		expect(await getVersion(here.studio, ended.versionId!)).toMatchObject({
			kind: 'after restore',
			verified: true
		});
		expect((await getDevice(here.studio, device.id)).touchedAt).toBeNull();
	});

	it('whose read-back differs leaves an unverified version', async () => {
		const { transfer, hex, device } = await begun('restore');
		await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null });
		const ended = await finishTransfer(
			here.studio,
			transfer.id,
			finish({ status: 'differs', readBack: hex, reason: { code: 'damaged', says: 's', remedy: 'r' } })
		);
		expect(await getVersion(here.studio, ended.versionId!)).toMatchObject({ verified: false });
		expect((await getDevice(here.studio, device.id)).touchedAt).not.toBeNull();
	});
});

it('two tabs cannot overwrite each other’s bench', async () => {
	const { id } = await putUnit(here.studio, 'ternhill-umbra', 'U', 3);
	const unit = await getUnit(here.studio, id);
	const profile = shippedProfile('ternhill-umbra');
	expect(await saveUnit(here.studio, id, unit.revision, profile, unit.state, [])).toBe(unit.revision + 1);
	await expect(saveUnit(here.studio, id, unit.revision, profile, unit.state, [])).rejects.toMatchObject({
		code: 'bench.conflict'
	});
	expect((await getUnit(here.studio, id)).state.memory).toEqual(unit.state.memory);
});
