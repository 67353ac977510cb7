import { describe, expect, it } from 'vitest';
import { QueryTypes } from 'sequelize';
import { finishSchema, lastSeen, standingOf } from '../core/drawer';
import { toHex } from '../core/midi';
import { readName, type Profile } from '../core/profile';
import { keepDump } from './heart.fixture';
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
	appendTrace,
	beginTransfer,
	finishTransfer,
	getTransfer,
	keepSafetyCopy,
	listTransfers,
	receivedMessages
} from './transfers';
import { acceptVersion, getVersion, listVersions } from './drawer';
import { findSounds } from './find';
import { hashOf } from './hash';
import { readableSlots } from './knowing';
import { backupCandidates } from './snapshots';
import { readKnowledge } from './store/knowledge';
import { readTrace } from './store/traces';
import { insertTransfer } from './store/transfers';
import { today } from './today';
import { saveUnit, putUnit, getUnit } from './bench';
import { shippedProfile } from './profiles';

const here = freshStudio();

async function begun(direction: 'capture' | 'restore' = 'capture') {
	const orrery = await anOrrery(here.studio);
	const transfer = await beginTransfer(here.studio, {
		world: 'hardware',
		deviceId: orrery.device.id,
		direction,
		scope: { kind: 'all' },
		kind: 'routine',
		title: 'T',
		sourceVersionId: null
	});
	return { ...orrery, transfer, hex: orrery.dump().map((bytes) => toHex(bytes)) };
}
const shippedName = (profile: Profile, bytes: Uint8Array) =>
	readName(profile, profile.records[profile.areas[0].record], bytes)!;
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
			distrusted: true,
			lines: [{ atMs: 1, way: 'received', hex: '', says: 'whatever it says' }]
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
			world: 'hardware',
			deviceId: device.id,
			direction: 'capture',
			scope: { kind: 'all' },
			kind: 'routine',
			title: '',
			sourceVersionId: null
		});
		await appendMessages(here.studio, other.id, { position: 0, messages: hex.slice(0, 1) });
		await expect(dropUnfinished(here.studio, other.id)).rejects.toMatchObject({ code: 'transfer.ended' });
		await abandonTransfer(here.studio, other.id);
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

describe('a transfer that has ended', () => {
	it('stands as it is: nothing is added to it, and nothing lets it go', async () => {
		const { transfer, hex, device } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex });
		const line = { atMs: 1, way: 'note' as const, hex: '', says: 'x' };
		const ended = await finishTransfer(here.studio, transfer.id, finish({}));
		expect(ended.status).toBe('complete');
		const log = await readTrace(here.studio, transfer.id);
		for (const added of [
			() => appendMessages(here.studio, transfer.id, { position: hex.length, messages: hex.slice(0, 1) }),
			() => appendTrace(here.studio, transfer.id, { part: 9, lines: [line] }),
			() => keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null }),
			() => dropUnfinished(here.studio, transfer.id),
			() => keepUnfinished(here.studio, transfer.id),
			() => resumeTransfer(here.studio, transfer.id)
		])
			await expect(added()).rejects.toMatchObject({ code: 'transfer.ended' });
		// Told again, what is stored already is no addition; another end changes nothing.
		expect(await appendMessages(here.studio, transfer.id, { position: 0, messages: hex })).toBe(hex.length);
		await finishTransfer(here.studio, transfer.id, finish({ status: 'refused' }));
		await abandonTransfer(here.studio, transfer.id);
		expect(await getTransfer(here.studio, transfer.id)).toEqual(ended);
		expect(await readTrace(here.studio, transfer.id)).toEqual(log);
		expect(await receivedMessages(here.studio, transfer.id)).toHaveLength(hex.length);
		expect((await listVersions(here.studio, device.id)).map(({ id }) => id)).toEqual([ended.versionId]);
	});

	it('stands where it was refused or let go, too: it is not kept, resumed or let go afterwards', async () => {
		const { transfer, hex } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex.slice(0, 1) });
		await abandonTransfer(here.studio, transfer.id);
		await dropUnfinished(here.studio, transfer.id);
		const ended = await getTransfer(here.studio, transfer.id);
		for (const more of [keepUnfinished, resumeTransfer, dropUnfinished])
			await expect(more(here.studio, transfer.id)).rejects.toMatchObject({ code: 'transfer.ended' });
		expect(await getTransfer(here.studio, transfer.id)).toEqual(ended);
	});

	it('leaves its device to the next: two at a time are refused, also where both begin at once', async () => {
		const { transfer, hex, device } = await begun();
		const next = (world: 'hardware' | 'bench' = 'hardware') =>
			beginTransfer(here.studio, {
				...{ world, deviceId: device.id, direction: 'capture', scope: { kind: 'all' } }
			});
		await expect(next()).rejects.toMatchObject({ code: 'transfer.taken' });
		// On the bench it is another instrument.
		await next('bench');
		await abandonTransfer(here.studio, transfer.id);
		const both = await Promise.allSettled([next(), next()]);
		expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
		// The one that broke off is not resumed beside it.
		await expect(resumeTransfer(here.studio, transfer.id)).rejects.toMatchObject({ code: 'transfer.taken' });
		const [{ id }] = (await listTransfers(here.studio)).filter(
			({ status, world }) => status === 'running' && world === 'hardware'
		);
		await appendMessages(here.studio, id, { position: 0, messages: hex });
		await finishTransfer(here.studio, id, finish({}));
		expect((await resumeTransfer(here.studio, transfer.id)).transfer.status).toBe('running');
	});

	it('no safety copy is kept that nothing could be brought back from', async () => {
		const { transfer, hex } = await begun('restore');
		for (const strange of ['F07D55F7', hex[1].slice(0, -6) + 'F7'])
			await expect(
				keepSafetyCopy(here.studio, transfer.id, { messages: [hex[0], strange], firmware: null })
			).rejects.toMatchObject({ code: 'transfer.safety-unreadable' });
		expect((await getTransfer(here.studio, transfer.id)).safetyVersionId).toBeNull();
	});
});

/** How the slots of a device stand, by state. */
async function states(deviceId: string) {
	const knowledge = await readKnowledge(here.studio, deviceId, 'hardware');
	const { states } = standingOf(knowledge, readableSlots(shippedProfile('vellbrook-orrery')));
	return Object.fromEntries(Object.entries(states).filter(([, count]) => count > 0));
}

describe('a restore', () => {
	it('leaves unknown what may be overwritten from its safety copy on, until it was read back', async () => {
		const { transfer, hex, device } = await begun('restore');
		const safety = await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: '1.04' });
		expect(await getVersion(here.studio, safety)).toMatchObject({ kind: 'safety', verified: true });
		expect(await states(device.id)).toEqual({ unknown: 65 });
		// While it goes on nothing has broken off; once its page is gone, it has.
		expect((await today(here.studio))[0].known.torn).toEqual([]);
		here.studio.heardAt.clear();
		expect((await today(here.studio))[0].known.torn).toEqual([{ transferId: transfer.id, slots: 65 }]);
		const ended = await finishTransfer(
			here.studio,
			transfer.id,
			finish({ status: 'verified', readBack: hex })
		);
		expect(await getVersion(here.studio, ended.versionId!)).toMatchObject({
			kind: 'after restore',
			proof: 'read back',
			verified: true
		});
		expect(await states(device.id)).toEqual({ proved: 65 });
	});

	it('a safety copy whose answer was lost is stored once', async () => {
		const { transfer, hex, device } = await begun('restore');
		const first = await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null });
		expect(await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null })).toBe(first);
		expect(await listVersions(here.studio, device.id)).toHaveLength(1);
		const order = finish({ status: 'verified', readBack: hex });
		const [one, other] = await Promise.all([
			finishTransfer(here.studio, transfer.id, order),
			finishTransfer(here.studio, transfer.id, order)
		]);
		expect(one.versionId).toBe(other.versionId);
		expect(await listVersions(here.studio, device.id)).toHaveLength(2);
	});

	it('whose read-back differs is a reading of what is there now, and does not count as proof of what was sent', async () => {
		const { transfer, hex, device } = await begun('restore');
		await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null });
		const ended = await finishTransfer(
			here.studio,
			transfer.id,
			finish({ status: 'differs', readBack: hex, reason: { code: 'damaged', says: 's', remedy: 'r' } })
		);
		expect(await getVersion(here.studio, ended.versionId!)).toMatchObject({ proof: 'checksum' });
		expect(await states(device.id)).toEqual({ proved: 65 });
	});

	it('that broke off leaves its slots unknown; what it never touched is as it was known', async () => {
		const { transfer, hex, device } = await begun('restore');
		await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null });
		await finishTransfer(
			here.studio,
			transfer.id,
			finish({
				status: 'incomplete',
				reason: { code: 'unplugged', says: 's', remedy: 'r' },
				touched: [0, 1, 2].map((index) => ({ area: 'programs', index }))
			})
		);
		expect(await states(device.id)).toEqual({ unknown: 3, proved: 62 });
		const [row] = await today(here.studio);
		expect(row).toMatchObject({
			risk: { action: 'mend' },
			known: { torn: [{ transferId: transfer.id, slots: 3 }] }
		});
		expect(row.risk.parts.map(({ action }) => action)).not.toContain('capture');
		const { candidates } = await backupCandidates(here.studio);
		expect(candidates[0].torn).toBe(true);
	});

	it('whose page vanished before anything was written says nothing of the device; after its safety copy it does', async () => {
		const { transfer, hex, device } = await begun('restore');
		await abandonTransfer(here.studio, transfer.id);
		expect(await states(device.id)).toEqual({ never: 65 });
		await keepSafetyCopy(here.studio, transfer.id, { messages: hex, firmware: null });
		await abandonTransfer(here.studio, transfer.id);
		expect(await states(device.id)).toEqual({ unknown: 65 });
	});

	it('ends only as such a transfer can end, whatever a page says', async () => {
		const { transfer } = await begun('capture');
		await expect(
			finishTransfer(here.studio, transfer.id, finish({ status: 'verified' }))
		).rejects.toMatchObject({ code: 'transfer.status' });
		const restore = (await begun('restore')).transfer;
		await expect(finishTransfer(here.studio, restore.id, finish({}))).rejects.toMatchObject({
			code: 'transfer.status'
		});
		await expect(
			finishTransfer(here.studio, restore.id, finish({ status: 'verified' }))
		).rejects.toMatchObject({ code: 'transfer.not-verified' });
	});

	it('a result that is no list of slots is refused', () => {
		expect(finishSchema.safeParse({ status: 'sent', reason: null, outcome: { slots: 'lies' } }).success).toBe(
			false
		);
		const slots = [{ area: 'a', index: 0, label: '1', name: null, result: 'proved' }];
		expect(finishSchema.safeParse({ status: 'sent', reason: null, outcome: { slots } }).success).toBe(false);
	});

	it('is not called verified where what was read back is not what was wanted', async () => {
		const { device, dump, memory, profile } = await anOrrery(here.studio);
		const version = await keepDump(here.studio, device, profile, dump());
		const transfer = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'restore',
			world: 'hardware',
			scope: { kind: 'all' },
			sourceVersionId: version.id
		});
		const other = dump([memory.programs[1], ...memory.programs.slice(1)]).map((bytes) => toHex(bytes));
		await keepSafetyCopy(here.studio, transfer.id, { messages: other, firmware: null });
		await expect(
			finishTransfer(here.studio, transfer.id, finish({ status: 'verified', readBack: other }))
		).rejects.toMatchObject({ code: 'transfer.not-verified' });
		await expect(
			finishTransfer(here.studio, transfer.id, finish({ status: 'verified' }))
		).rejects.toMatchObject({ code: 'transfer.not-verified' });
	});
});

describe('time', () => {
	it('a capture that broke off and is kept later stays in the past, message by message', async () => {
		const { transfer, hex, device, dump, memory, profile } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex.slice(0, 1) });
		await abandonTransfer(here.studio, transfer.id);
		const swapped = dump([memory.programs[1], memory.programs[0], ...memory.programs.slice(2)]);
		const newer = await keepDump(here.studio, device, profile, swapped);
		const before = await readKnowledge(here.studio, device.id, 'hardware');
		const kept = await getVersion(here.studio, await keepUnfinished(here.studio, transfer.id));
		expect(kept.takenAt < newer.takenAt).toBe(true);
		const after = await readKnowledge(here.studio, device.id, 'hardware');
		expect([...after.slots]).toEqual([...before.slots]);
		const { found } = await findSounds(here.studio, shippedName(profile, memory.programs[0]));
		expect(found.filter(({ current }) => current).map(({ slot }) => slot)).toEqual([1]);
	});

	it('an unfinished capture is not offered once everything was read after it, and never for being old', async () => {
		const { device, hex, transfer } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex.slice(0, 1) });
		await abandonTransfer(here.studio, transfer.id);
		for (let i = 0; i < 501; i++)
			await here.studio.write(async (transaction) =>
				insertTransfer(
					here.studio,
					{
						...(await getTransfer(here.studio, transfer.id)),
						id: `later ${i}`,
						startedAt: new Date(Date.UTC(2027, 0, 1)).toISOString(),
						status: 'refused'
					},
					transaction
				)
			);
		expect((await unfinishedCaptures(here.studio)).map(({ id }) => id)).toEqual([transfer.id]);
		const whole = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'all' }
		});
		await appendMessages(here.studio, whole.id, { position: 0, messages: hex });
		await finishTransfer(here.studio, whole.id, finish({}));
		expect(await unfinishedCaptures(here.studio)).toEqual([]);
	});
});

describe('worlds', () => {
	it('what the bench holds says nothing of the real device, and a capture goes on where it began', async () => {
		const { device, hex, transfer } = await begun();
		const bench = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'bench',
			scope: { kind: 'all' }
		});
		await appendMessages(here.studio, bench.id, { position: 0, messages: hex });
		const { versionId } = await finishTransfer(here.studio, bench.id, finish({}));
		expect(await getVersion(here.studio, versionId!)).toMatchObject({ world: 'bench', verified: true });
		expect(await states(device.id)).toEqual({ never: 65 });
		const [row] = await today(here.studio);
		expect(row.line).toBe('Never backed up: only on the bench');
		await abandonTransfer(here.studio, transfer.id);
		await expect(resumeTransfer(here.studio, transfer.id, 'bench')).rejects.toMatchObject({
			code: 'transfer.other-world'
		});
	});
});

describe('a backup that looks wiped', () => {
	it('asks first, and counts only when somebody says that it is right', async () => {
		const { transfer, hex, device, dump, memory, profile } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex });
		await finishTransfer(here.studio, transfer.id, finish({}));
		const wiped = dump(memory.programs.map(() => memory.programs[0]));
		const again = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'all' }
		});
		await appendMessages(here.studio, again.id, {
			position: 0,
			messages: wiped.map((bytes) => toHex(bytes))
		});
		const { versionId } = await finishTransfer(here.studio, again.id, finish({}));
		const asked = await getVersion(here.studio, versionId!);
		expect(asked.question).toMatch(/^63 of 65 slots are empty or all alike that held sounds/);
		const first = await readKnowledge(here.studio, device.id, 'hardware');
		expect(lastSeen(first, { area: 'programs', index: 5 })!.record).toBe(hashOf(memory.programs[5]));
		expect((await today(here.studio))[0]).toMatchObject({
			questionId: versionId,
			risk: { action: 'answer' }
		});
		expect(await acceptVersion(here.studio, versionId!)).toMatchObject({ question: null });
		const now = await readKnowledge(here.studio, device.id, 'hardware');
		expect(lastSeen(now, { area: 'programs', index: 5 })!.record).toBe(hashOf(memory.programs[0]));
		expect((await today(here.studio))[0].questionId).toBeNull();
		await expect(acceptVersion(here.studio, versionId!)).rejects.toMatchObject({
			code: 'version.no-question'
		});
		expect(profile.id).toBe('vellbrook-orrery');
	});
});

describe('the log of a transfer', () => {
	it('keeps every line: parts told twice, told under a number that is taken, and messages named instead of written', async () => {
		const { transfer, hex } = await begun();
		const line = (says: string, bytes = '') => ({ atMs: 1, way: 'received' as const, hex: bytes, says });
		const first = [line('one'), line('dump', hex[0])];
		await appendTrace(here.studio, transfer.id, { part: 0, lines: first });
		await appendTrace(here.studio, transfer.id, { part: 0, lines: first });
		await appendTrace(here.studio, transfer.id, { part: 0, lines: [line('two')] });
		await appendTrace(here.studio, transfer.id, {
			part: 1,
			lines: Array.from({ length: 1500 }, (_, i) => line(`many ${i}`))
		});
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex });
		await finishTransfer(here.studio, transfer.id, finish({}));
		const lines = await readTrace(here.studio, transfer.id);
		expect(lines).toHaveLength(1503);
		expect(lines.slice(0, 3)).toEqual([...first, line('two')]);
		// What one says may look like anything.
		const strange = ['', '7 of 9', '|', '12|3', 'a\tb\nc', 'say “no”', '"\\', '#4', 'ß漢\u2028x'].map(
			(says) => line(says, 'f0')
		);
		const { id } = await beginTransfer(here.studio, {
			deviceId: transfer.deviceId,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'all' }
		});
		await appendTrace(here.studio, id, {
			part: 0,
			lines: [...strange, { ...line('back'), atMs: 0.3, way: 'note' }]
		});
		expect(await readTrace(here.studio, id)).toEqual([
			...strange,
			{ ...line('back'), atMs: 0.3, way: 'note' }
		]);
		const [{ size }] = await here.studio.sequelize.query<{ size: number }>(
			'SELECT SUM(LENGTH(packed)) AS size FROM transfer_trace',
			{ type: QueryTypes.SELECT }
		);
		expect(size).toBeLessThan(hex[0].length / 2);
	});

	it('tells a message that is damaged from one that was let go', async () => {
		const { transfer, hex } = await begun();
		await appendMessages(here.studio, transfer.id, { position: 0, messages: hex });
		const lines = [{ atMs: 1, way: 'received' as const, hex: hex[0], says: 'Bank dump' }];
		await appendTrace(here.studio, transfer.id, { part: 0, lines });
		expect(await readTrace(here.studio, transfer.id)).toEqual(lines);
		const name = hashOf(Buffer.from(hex[0], 'hex'));
		const says = async () => (await readTrace(here.studio, transfer.id))[0].says;
		await here.studio.sequelize.query(
			`UPDATE objects SET data = zeroblob(length(data)) WHERE hash = unhex('${name}')`
		);
		expect(await says()).toBe('Bank dump (its bytes are damaged in the store: run “check”)');
		await here.studio.sequelize.query('DELETE FROM transfer_messages');
		await here.studio.sequelize.query(`DELETE FROM objects WHERE hash = unhex('${name}')`);
		expect(await says()).toBe('Bank dump (its bytes are no longer kept)');
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
