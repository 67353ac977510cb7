import { describe, expect, it } from 'vitest';
import { toHex } from '../core/midi';
import { addDevice } from './gear';
import { deviceSchema } from '../core/gear';
import { freshStudio } from './studio.fixture';
import { anUmbra, dumpOf, renamed } from './heart.fixture';
import {
	backupCandidates,
	beginSnapshot,
	compareSnapshots,
	endSnapshot,
	listSnapshots,
	noteSettings,
	snapshotItems
} from './snapshots';
import { finishSchema } from '../core/drawer';
import { appendMessages, beginTransfer, finishTransfer } from './transfers';

const here = freshStudio();

async function taken(ids: string[], dumps: Map<string, Uint8Array[]>, title: string) {
	const snapshot = await beginSnapshot(here.studio, {
		title,
		note: '',
		predictedMs: 1000,
		devices: ids.map((id) => ({ id, predictedMs: 500 })),
		left: []
	});
	for (const id of ids) {
		const transfer = await beginTransfer(here.studio, {
			world: 'hardware',
			deviceId: id,
			direction: 'capture',
			scope: { kind: 'all' },
			snapshotId: snapshot.id,
			predictedMs: 500
		});
		const messages = dumps.get(id);
		if (messages)
			await appendMessages(here.studio, transfer.id, {
				position: 0,
				messages: messages.map((bytes) => toHex(bytes))
			});
		await finishTransfer(
			here.studio,
			transfer.id,
			finishSchema.parse(
				messages
					? { status: 'complete', reason: null }
					: {
							status: 'refused',
							reason: { code: 'no answer', says: 'It does not answer.', remedy: 'Switch it on.' }
						}
			)
		);
	}
	return snapshot;
}

describe('a snapshot of the studio', () => {
	it('holds what came, says what failed, and a retry takes only that', async () => {
		const hall = await anUmbra(here.studio, 'Hall', 1);
		const stage = await anUmbra(here.studio, 'Stage', 2);
		const first = await taken(
			[hall.device.id, stage.device.id],
			new Map([[hall.device.id, dumpOf(hall.profile, hall.slots)]]),
			'Before'
		);
		expect(await snapshotItems(here.studio, first.id)).toMatchObject([
			{ device: 'Hall', status: 'kept', says: '' },
			{ device: 'Stage', status: 'failed', versionId: null, says: 'It does not answer.' }
		]);
		await endSnapshot(here.studio, first.id, 900);
		const [listed] = await listSnapshots(here.studio);
		expect(listed).toMatchObject({ kept: 1, failed: 1, tookMs: 900, status: 'ended' });
		const retry = await beginTransfer(here.studio, {
			world: 'hardware',
			deviceId: stage.device.id,
			direction: 'capture',
			scope: { kind: 'all' },
			snapshotId: first.id
		});
		await appendMessages(here.studio, retry.id, {
			position: 0,
			messages: dumpOf(stage.profile, stage.slots).map((bytes) => toHex(bytes))
		});
		await finishTransfer(here.studio, retry.id, finishSchema.parse({ status: 'complete', reason: null }));
		expect((await snapshotItems(here.studio, first.id)).map(({ status }) => status)).toEqual([
			'kept',
			'kept'
		]);
	});

	it('keeps settings that no dump holds, and two are compared in all of that', async () => {
		const hall = await anUmbra(here.studio, 'Hall', 1);
		const mixer = await addDevice(here.studio, deviceSchema.parse({ name: 'Mixer', kind: 'mixer' }));
		await noteSettings(here.studio, mixer.id, [
			{ type: 'number', label: 'Main fader', unit: 'dB', value: -6 }
		]);
		const before = await taken(
			[hall.device.id],
			new Map([[hall.device.id, dumpOf(hall.profile, hall.slots)]]),
			'A'
		);
		await noteSettings(here.studio, mixer.id, [
			{ type: 'number', label: 'Main fader', unit: 'dB', value: -3 }
		]);
		const changed = renamed(hall.profile, hall.slots, 6, 'New name');
		const after = await taken(
			[hall.device.id],
			new Map([[hall.device.id, dumpOf(hall.profile, changed)]]),
			'B'
		);
		const [mixed, of] = await compareSnapshots(here.studio, before.id, after.id);
		expect(of).toMatchObject({ device: 'Hall', same: false, states: { renamed: 1 }, names: ['7 New name'] });
		expect(mixed).toMatchObject({
			device: 'Mixer',
			settings: [{ label: 'Main fader', from: '\u22126\u00a0dB', to: '\u22123\u00a0dB' }]
		});
	});

	it('knows the ways and the past of every device', async () => {
		const hall = await anUmbra(here.studio, 'Hall', 1);
		await taken([hall.device.id], new Map([[hall.device.id, dumpOf(hall.profile, hall.slots)]]), 'A');
		const { candidates, places } = await backupCandidates(here.studio);
		expect(places).toEqual(['rack']);
		expect(candidates).toMatchObject([{ out: null, in: null, past: [{ predictedMs: 500 }] }]);
	});
});
