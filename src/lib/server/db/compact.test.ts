import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { QueryTypes, Sequelize } from 'sequelize';
import { beforeEach, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../../core/bench';
import { packKnowledge, retentionSchema } from '../../core/drawer';
import { fromHex, toHex } from '../../core/midi';
import { makeSlot, messagesFor, writeName } from '../../core/profile';
import { checkStudio } from '../check';
import { openVersion } from '../drawer';
import { findSounds } from '../find';
import { hashOf } from '../hash';
import { previewRetention } from '../keeping';
import { loadProfiles, shippedProfile } from '../profiles';
import { lifeOfSound } from '../sounds';
import { readKnowledge } from '../store/knowledge';
import { readTrace } from '../store/traces';
import { freshStudio } from '../studio.fixture';
import { getTransfer, receivedMessages } from '../transfers';
import { openStudio, type Studio } from './connection';
import { migrate } from './migrate';
import { migrations } from './migrations';

const here = freshStudio();
const profile = shippedProfile('ternhill-umbra');
const { programs } = factoryState(profile, seededRandom(4)).memory;
const named = writeName(
	profile,
	profile.records.program ?? Object.values(profile.records)[0],
	programs[3],
	'Kept long'
);
const [before, after] = [programs, programs.map((bytes, i) => (i === 3 ? named : bytes))].map((memory) =>
	memory.map((bytes, i) => makeSlot(profile, 'programs', i, bytes))
);
const dumps = [before, after].map((slots) => messagesFor(profile, slots, { deviceId: 1, channel: 1 }));
const times = ['2024-05-01T10:00:00.250Z', '2025-05-01T10:00:00.750Z'];

/** A studio as it was before: two backups of one device, the second as differences, with their transfers and logs. */
async function oldStudio(file: string): Promise<void> {
	const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
	await migrate(sequelize, file, migrations.slice(0, 4));
	const insert = (table: string, row: Record<string, unknown>) =>
		sequelize.query(
			`INSERT INTO ${table} (${Object.keys(row).join(', ')}) VALUES (${Object.keys(row)
				.map(() => '?')
				.join(', ')})`,
			{ replacements: Object.values(row) }
		);
	const nothing = Object.fromEntries(
		[
			'maker',
			'model',
			'kind',
			'place',
			'serial',
			'firmware',
			'batteryType',
			'batteryFitted',
			'forgets',
			'power',
			'notes'
		].map((column) => [column, ''])
	);
	await insert('devices', {
		...nothing,
		id: 'd',
		name: 'Hall',
		profileId: profile.id,
		ports: '[]',
		createdAt: times[0]
	});
	await insert('profiles', {
		id: profile.id,
		revision: profile.revision,
		json: JSON.stringify(profile),
		own: 0
	});
	for (const [at, slots] of [before, after].entries()) {
		const messages = dumps[at];
		for (const [i, bytes] of messages.entries()) {
			const base = dumps[0][i];
			const row = { hash: hashOf(bytes), size: bytes.length };
			if (at === 0)
				await insert('objects', { ...row, form: 'deflate', base: null, data: deflateRawSync(bytes) });
			else if (row.hash !== hashOf(base))
				await insert('objects', {
					...row,
					form: 'delta',
					base: hashOf(base),
					data: deflateRawSync(bytes.map((byte, k) => byte ^ base[k]))
				});
		}
		await insert('versions', {
			id: `v${at}`,
			deviceId: 'd',
			profileId: profile.id,
			profileRevision: profile.revision,
			kind: 'routine',
			firmware: '2.1',
			takenAt: times[at],
			world: 'hardware',
			proof: 'checksum',
			coverage: '[["programs",0,50]]',
			verified: 1,
			missing: 0,
			bytes: messages.reduce((sum, { length }) => sum + length, 0),
			slots: 50,
			changed: at === 0 ? 50 : 1,
			title: `Backup ${at}`,
			note: '',
			tags: at === 0 ? '[]' : '["tour"]',
			pinned: at,
			transferId: `t${at}`
		});
		for (const [position, bytes] of messages.entries())
			await insert('version_messages', { versionId: `v${at}`, position, hash: hashOf(bytes), readAt: null });
		await insert('transfers', {
			id: `t${at}`,
			deviceId: 'd',
			direction: 'capture',
			scope: '{"kind":"all"}',
			status: 'complete',
			outcome: '{"kept":true}',
			startedAt: times[at],
			endedAt: times[at],
			kind: 'routine',
			title: '',
			versionId: `v${at}`,
			predictedMs: 900,
			world: 'hardware'
		});
		for (const [position, bytes] of messages.entries())
			await insert('transfer_messages', {
				transferId: `t${at}`,
				position,
				hash: hashOf(bytes),
				receivedAt: times[at]
			});
		const line = [5, 'received', '', 'Dump', hashOf(messages[0])];
		await insert('transfer_trace', {
			transferId: `t${at}`,
			part: 0,
			lines:
				at === 0 ? JSON.stringify([{ atMs: 5, way: 'received', hex: toHex(messages[0]), says: 'Dump' }]) : '',
			packed: at === 0 ? null : deflateRawSync(Buffer.from(JSON.stringify([line])))
		});
		for (const slot of slots) {
			const record = hashOf(slot.bytes);
			const same = at === 1 && record === hashOf(before[slot.index].bytes);
			if (same) continue;
			await insert('records', {
				profileId: profile.id,
				area: 'programs',
				hash: record,
				name: slot.name,
				folded: slot.name!.toLowerCase(),
				bytes: Buffer.from(slot.bytes)
			});
			const ends = at === 0 && slot.index === 3;
			await insert('slot_runs', {
				deviceId: 'd',
				world: 'hardware',
				area: 'programs',
				slot: slot.index,
				label: slot.label,
				name: slot.name,
				folded: slot.name!.toLowerCase(),
				record,
				fromVersion: `v${at}`,
				fromAt: times[at],
				toAt: ends ? times[1] : null,
				current: ends ? 0 : 1
			});
		}
	}
	const sight = (slot: (typeof after)[number]) => ({
		record: hashOf(slot.bytes),
		at: times[1],
		versionId: 'v1',
		proof: 'checksum' as const
	});
	await insert('knowledge', {
		deviceId: 'd',
		world: 'hardware',
		known: packKnowledge({
			touchedAt: null,
			slots: new Map(
				after.map((slot) => [
					`programs:${slot.index}`,
					{ area: 'programs', index: slot.index, seen: sight(slot), proved: sight(slot), unread: [] }
				])
			)
		})
	});
	await insert('snapshots', {
		id: 's',
		title: 'Tour',
		note: '',
		takenAt: times[1],
		status: 'complete',
		predictedMs: 1,
		world: 'hardware'
	});
	await insert('snapshot_items', {
		snapshotId: 's',
		deviceId: 'd',
		position: 0,
		versionId: 'v0',
		status: 'captured',
		says: '',
		settings: '[]'
	});
	await sequelize.close();
}

let studio: Studio;
beforeEach(async () => {
	const file = join(here.folder, 'old.sqlite');
	await oldStudio(file);
	studio = await openStudio(file);
	await loadProfiles(studio);
	return () => studio.close();
});

it('versions of an older studio hold what they held, byte for byte, each at its time', async () => {
	for (const [at, slots] of [before, after].entries()) {
		const opened = await openVersion(studio, `v${at}`);
		expect(opened.messages.map((bytes) => toHex(bytes))).toEqual(dumps[at].map((bytes) => toHex(bytes)));
		expect(opened.slots).toEqual(slots);
		expect(opened.version).toMatchObject({
			deviceId: 'd',
			takenAt: times[at],
			world: 'hardware',
			proof: 'checksum',
			firmware: '2.1',
			title: `Backup ${at}`,
			tags: at === 0 ? [] : ['tour'],
			pinned: at === 1,
			coverage: [['programs', 0, 50]]
		});
	}
	expect(await checkStudio(studio)).toMatchObject({ damage: [], versions: 2, records: 51 });
});

it('sounds are found where they were, with the same life, and what is known of the device is the same', async () => {
	const { found } = await findSounds(studio, 'kept long');
	expect(found).toMatchObject([
		{
			name: 'Kept long',
			deviceId: 'd',
			slot: 3,
			versionId: 'v1',
			fromAt: times[1],
			toAt: null,
			current: true
		}
	]);
	const { life } = await lifeOfSound(studio, found[0].record);
	expect(life.events.map(({ kind, at }) => [kind, at])).toEqual([
		['created', times[0]],
		['renamed', times[1]]
	]);
	const { slots } = await readKnowledge(studio, 'd', 'hardware');
	expect(slots.get('programs:3')).toMatchObject({
		seen: { record: hashOf(named), at: times[1], versionId: 'v1' }
	});
	expect(slots.size).toBe(50);
});

it('transfers keep what they received and their logs, as both were written; retention sees what needs a version', async () => {
	for (const at of [0, 1]) {
		expect(await getTransfer(studio, `t${at}`)).toMatchObject({
			versionId: `v${at}`,
			scope: { kind: 'all' },
			outcome: { kept: true },
			predictedMs: 900
		});
		expect(await receivedMessages(studio, `t${at}`)).toEqual(dumps[at].map((bytes) => fromHex(toHex(bytes))));
		expect(await readTrace(studio, `t${at}`)).toEqual([
			{ atMs: 5, way: 'received', hex: toHex(dumps[at][0]), says: 'Dump' }
		]);
	}
	const { going } = await previewRetention(studio, retentionSchema.parse({ monthlyDays: 30 }));
	expect(going).toEqual([]);
	const rows = await studio.sequelize.query('SELECT versionId FROM snapshot_items', {
		type: QueryTypes.SELECT
	});
	expect(rows).toEqual([{ versionId: 'v0' }]);
	expect(await studio.sequelize.query('PRAGMA foreign_key_check', { type: QueryTypes.SELECT })).toEqual([]);
});
