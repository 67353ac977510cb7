import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { procedureRunSchema, riskSettingsSchema } from '../../core/care';
import { emptyBank, placeSound, type LiveWorld } from '../../core/drawer';
import { deviceSchema, type Device } from '../../core/gear';
import { mixedStudio } from '../../core/plan/mixed-studio.fixture';
import { planner } from '../../core/plan/planner.fixture';
import { rigPortId } from '../../core/rig';
import type { Studio } from '../db/connection';
import { checkStudio } from '../check';
import { labelVersion, listVersions, openVersion } from '../drawer';
import { FLOOR } from '../floor';
import { addDevice, getDevice, listDevices, touchDevice, updateDevice } from '../gear';
import { anUmbra, bundleOf, keep, renamed } from '../heart.fixture';
import { keepFile } from '../kept-files';
import { noteWriting } from '../knowing';
import { createMap, editMap, getMap, moveMap } from '../maps';
import { keepAdapterTest, rememberPorts } from '../midi-ports';
import { editPaper, getPaper } from '../papers';
import { keepPlan } from '../plans';
import { getProcedure, saveProcedure } from '../procedures';
import { readRiskSettings, writeRiskSettings } from '../reminders';
import { changeStudioRig, readStudioRig } from '../rig';
import { markSound } from '../sound-marks';
import { insertBank } from '../store/banks';
import { insertCareRun } from '../store/care-runs';
import { putContact } from '../store/contacts';
import { readKnowledge } from '../store/knowledge';
import { endWaiting, insertItem, insertSnapshot, itemRows } from '../store/snapshots';
import { all, run } from '../store/sql';
import { addTrace, readTrace } from '../store/traces';
import { handReceivedOver, insertTransfer, transferRow } from '../store/transfers';
import { anotherStudio, count, freshStudio } from '../studio.fixture';
import { forgottenTables, HOLDINGS, IN_NO_BUNDLE } from './registry';
import { takeBundle } from './take';

const here = freshStudio();
const { plan } = planner();
const AT = '2026-02-01T10:00:00.000Z';

/** An edit that has one cable lie on the floor. */
const aCable = (name: string) => ({ path: ['cables'], value: [{ id: 'c1', name, kind: 'ts' }] });

/** One of everything that a studio can hold. */
async function everything(studio: Studio) {
	const umbra = await anUmbra(studio);
	const { device, profile, slots } = umbra;
	const version = await keep(studio, device, profile, slots);
	const din = (name: string, direction: 'in' | 'out') => ({
		id: '',
		name,
		direction,
		connector: 'din' as const
	});
	const [reed, weir] = await Promise.all(
		['Reed', 'Weir'].map((name) =>
			addDevice(studio, deviceSchema.parse({ name, ports: [din('In', 'in'), din('Out', 'out')] }))
		)
	);
	await changeStudioRig(studio, [
		{ do: 'plug', from: rigPortId(reed.id, 'out'), to: rigPortId(weir.id, 'in') },
		{ do: 'limits', chain: 2, load: 0.5 }
	]);
	const port = { key: rigPortId(weir.id, 'in'), id: 'port-1', name: 'Weir In', manufacturer: 'Aldous' };
	await rememberPorts(studio, [{ ...port, direction: 'in' }]);
	await keepAdapterTest(studio, port.key, {
		through: 'loopback',
		longestBytes: 4096,
		triedBytes: 8192,
		gapMs: 20,
		trouble: 'loses bytes',
		says: 'It loses bytes of long messages.',
		ended: 'done'
	});
	const seen = await listVersions(studio, device.id);
	await studio.write(async (transaction) => {
		await putContact(
			studio,
			device.id,
			{
				world: 'hardware',
				at: AT,
				how: 'identity',
				out: port.key,
				in: null,
				outName: 'Weir Out',
				inName: '',
				deviceId: 1,
				firmware: '1.04'
			},
			transaction
		);
		await insertTransfer(
			studio,
			{
				id: 'transfer-1',
				deviceId: device.id,
				direction: 'restore',
				scope: { kind: 'all' },
				status: 'verified',
				reason: null,
				outcome: { slots: [{ area: 'programs', index: 3, label: 'A04', name: null, result: 'verified' }] },
				startedAt: AT,
				endedAt: '2026-02-01T10:00:09.000Z',
				kind: 'routine',
				title: 'Before the dome',
				versionId: null,
				safetyVersionId: seen[0].id,
				sourceVersionId: seen[0].id,
				wanted: [{ area: 'programs', index: 3, record: 'ab'.repeat(32) }],
				snapshotId: null,
				predictedMs: 9000,
				world: 'hardware',
				distrusted: false,
				resumed: false,
				bankId: null
			},
			transaction
		);
		await handReceivedOver(studio, 'transfer-1', 2, transaction);
		await insertSnapshot(
			studio,
			{
				id: 'snapshot-1',
				title: 'Soundcheck',
				note: 'Dry',
				takenAt: AT,
				world: 'hardware',
				predictedMs: 9000
			},
			transaction
		);
		const item = { versionId: version.id, says: '', settings: [], predictedMs: 9000, position: 0 };
		await insertItem(
			studio,
			'snapshot-1',
			{
				...item,
				deviceId: device.id,
				status: 'kept',
				settings: [{ type: 'switch', label: 'Pad', value: true }]
			},
			transaction
		);
		await endWaiting(studio, 'snapshot-1', '', 8000, transaction);
		const entry = { record: versionSound(slots), name: 'Hall', from: 'Umbra hall', song: '' };
		await insertBank(
			studio,
			{
				id: 'bank-1',
				deviceId: device.id,
				baseVersionId: version.id,
				base: null,
				document: placeSound(emptyBank(profile, 'programs', 'Show'), 2, entry),
				revision: 4,
				createdAt: AT,
				updatedAt: AT
			},
			transaction
		);
		await insertCareRun(
			studio,
			{
				id: 'run-1',
				kind: 'procedure',
				title: 'Memory battery',
				deviceId: device.id,
				world: 'hardware',
				begunAt: AT,
				endedAt: AT,
				over: 'done',
				revision: 3,
				document: procedureRunSchema.parse({ procedure: await getProcedure(studio, 'memory-battery') })
			},
			transaction
		);
		await noteWriting(
			studio,
			device.id,
			'hardware',
			{
				kind: 'unknown',
				at: '2027-01-01T00:00:00.000Z',
				by: 'transfer-1',
				slots: [{ area: 'programs', index: 3 }]
			},
			transaction
		);
		// A message that is stored, and a short one.
		const long = Buffer.from((await messageOf(studio, version.id))!).toString('hex');
		await addTrace(
			studio,
			'transfer-1',
			0,
			[
				{ atMs: 0, way: 'sent', hex: 'f07e7f0601f7', says: 'Identity request' },
				{ atMs: 12.5, way: 'received', hex: long, says: 'Program dump' }
			],
			transaction
		);
	});
	await touchDevice(studio, device.id);
	await markSound(studio, versionSound(slots), { favourite: true, category: 'Hall' });
	const map = await createMap(studio, { from: 'surface', name: 'Dome', surface: 'osier-weir-9' });
	await keepFile(
		studio,
		{ map: map.id },
		{ name: 'dome.remote', bytes: Uint8Array.of(0, 255, 1), note: 'Old' }
	);
	await editPaper(studio, FLOOR, { revision: 0, says: 'Named', edits: [aCable('One')] });
	await saveProcedure(studio, { ...(await getProcedure(studio, 'memory-battery')), id: 'own-battery' });
	const rig = mixedStudio(3, 3, 5);
	await keepPlan(studio, {
		title: 'Plan',
		rig,
		plan: plan(rig, 'shared-ports'),
		tookMs: 1,
		supposed: []
	});
	await writeRiskSettings(studio, riskSettingsSchema.parse({ weights: { never: 90 } }));
	return { ...umbra, version, reed, weir, map };
}

const versionSound = (slots: readonly { bytes: Uint8Array }[]) => soundOf(slots[2].bytes);
const soundOf = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const messageOf = async (studio: Studio, id: string) => (await openVersion(studio, id)).messages.at(0);

/** A row as text, whatever order its fields and those of the JSON in it were written in. */
function canonical(value: unknown): string {
	if (typeof value === 'string' && /^[[{]/.test(value)) return canonical(JSON.parse(value));
	if (Array.isArray(value)) return `[${value.map(canonical).join()}]`;
	if (value instanceof Uint8Array) return Buffer.from(value).toString('hex');
	if (typeof value !== 'object' || value === null) return JSON.stringify(value);
	const fields = Object.entries(value).sort(([a], [b]) => a.localeCompare(b));
	return `{${fields.map(([key, inner]) => `${key}:${canonical(inner)}`).join()}}`;
}

/** Every row of every table that a bundle carries, but what is each studio's own. */
async function contents(studio: Studio): Promise<Record<string, unknown[]>> {
	const own: Record<string, string[]> = {
		devices: ['createdAt', 'benchUnit'],
		plans: ['id'],
		rig_facts: [],
		kept_files: []
	};
	const tables: Record<string, unknown[]> = {};
	const packed = ['transfers', 'transfer_trace', 'knowledge'];
	for (const table of new Set(HOLDINGS.flatMap(({ tables: each }) => each))) {
		if (packed.includes(table)) continue;
		const rows = await all<Record<string, unknown>>(studio, `SELECT * FROM ${table}`);
		tables[table] = rows
			.filter((row) => !(table === 'rig_facts' && row.key === 'revision'))
			.map((row) => {
				for (const column of own[table] ?? []) delete row[column];
				return canonical(row);
			})
			.sort();
	}
	const ids = await all<{ id: string }>(studio, 'SELECT id FROM transfers ORDER BY id');
	tables.transfers = await Promise.all(ids.map(({ id }) => transferRow(studio, id)));
	tables.transfer_trace = await Promise.all(ids.map(({ id }) => readTrace(studio, id)));
	tables.knowledge = await Promise.all(
		(await listDevices(studio)).flatMap(({ id }) =>
			(['bench', 'hardware'] as LiveWorld[]).map(async (world) => {
				const { slots, touchedAt } = await readKnowledge(studio, id, world);
				return JSON.stringify([id, world, touchedAt, [...slots.values()]]);
			})
		)
	);
	return tables;
}

describe('what a bundle carries', () => {
	it('is everything that a studio has a table for, or it is said why not', async () => {
		expect(await forgottenTables(here.studio)).toEqual([]);
		await run(here.studio, 'CREATE TABLE newcomers (id INTEGER)');
		expect(await forgottenTables(here.studio)).toEqual(['newcomers']);
		const carried = HOLDINGS.flatMap(({ tables }) => tables);
		expect(carried.filter((table) => table in IN_NO_BUNDLE)).toEqual([]);
	});

	it('is the same in a studio that was empty, row for row, and once more changes nothing', async () => {
		await everything(here.studio);
		// Nothing is compared that is not there.
		for (const table of new Set(HOLDINGS.flatMap(({ tables }) => tables)))
			expect([table, await count(here.studio, table)]).not.toEqual([table, 0]);
		const bundle = await bundleOf(here.studio);
		await anotherStudio(async (studio) => {
			const taken = await takeBundle(studio, bundle);
			expect(taken).toMatchObject({ devices: 3, versions: 1, left: [], differ: [] });
			const after = await contents(studio);
			expect(after).toEqual(await contents(here.studio));
			expect(await takeBundle(studio, bundle)).toEqual({
				devices: 0,
				versions: 0,
				known: 1,
				left: [],
				also: [],
				chosen: 0,
				differ: []
			});
			expect(await contents(studio)).toEqual(after);
			expect((await checkStudio(studio)).damage).toEqual([]);
			// And it is given on as it came.
			const files = unzipSync(bundle);
			const onwards = unzipSync(await bundleOf(studio));
			expect(Object.keys(onwards).sort()).toEqual(Object.keys(files).sort());
		});
	});

	it('keeps an open question open: a doubtful backup does not become what the device holds', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots);
		const wiped = slots.map((slot) => ({ ...slot, bytes: slot.bytes.map(() => 0) }));
		const asked = await keep(here.studio, device, profile, wiped, { questioned: true });
		expect(asked.question).toBeTruthy();
		const bundle = await bundleOf(here.studio);
		await anotherStudio(async (studio) => {
			await takeBundle(studio, bundle);
			const [newest] = await listVersions(studio, device.id);
			expect(newest).toMatchObject({ id: asked.id, question: asked.question });
			expect(await readKnowledge(studio, device.id, 'hardware')).toEqual(
				await readKnowledge(here.studio, device.id, 'hardware')
			);
		});
	});

	it('names a capture that broke off, which it does not carry', async () => {
		const { device } = await everything(here.studio);
		await here.studio.write(async (transaction) => {
			const { id: _, ...row } = (await transferRow(here.studio, 'transfer-1', transaction))!;
			const broken = { ...row, direction: 'capture' as const, status: 'unfinished' as const, endedAt: null };
			await insertTransfer(here.studio, { ...broken, id: 'broken', deviceId: device.id }, transaction);
			await handReceivedOver(here.studio, 'broken', 3, transaction);
		});
		const { left } = JSON.parse(
			new TextDecoder().decode(unzipSync(await bundleOf(here.studio))['manifest.json'])
		) as { left: { device: string; says: string }[] };
		expect(left).toMatchObject([{ device: `Capture of ${AT}` }]);
	});
});

describe('what is damaged in a bundle', () => {
	const spoilt = async (name: string, change: (text: string) => string) => {
		const files = unzipSync(await bundleOf(here.studio));
		files[name] = strToU8(change(new TextDecoder().decode(files[name])));
		return zipSync(files);
	};

	it.each([
		['studio/maps.json', (text: string) => text.slice(0, -40), 'Controller maps'],
		['studio/maps.json', (text: string) => text.replace('"Dome"', '17'), 'Controller maps'],
		['studio/papers.json', (text: string) => text.replace('"floor"', '"flaw"'), 'Floor, power, set'],
		['studio/snapshots.json', () => '[]', 'Snapshots'],
		['studio/bank-sounds.json', (text: string) => text.replace(/"bytes":"../, '"bytes":"7f'), 'Sound “'],
		['files', (text: string) => `${text}x`, 'File “dome.remote”'],
		['transfers', (text: string) => text.replace('transfer-1', 'transfer-2'), 'A transfer']
	])('(%s) is left out and named, and the rest comes', async (name, change, what) => {
		await everything(here.studio);
		const file = name.includes('/')
			? name
			: Object.keys(unzipSync(await bundleOf(here.studio))).find((key) => key.startsWith(`${name}/`))!;
		const bundle = await spoilt(file, change);
		await anotherStudio(async (studio) => {
			const { left, versions } = await takeBundle(studio, bundle);
			expect(left).toHaveLength(1);
			expect(left[0].device).toContain(what);
			expect(left[0].says).not.toBe('');
			expect(versions).toBe(1);
			expect(await count(studio, 'cables')).toBe(1);
			expect((await checkStudio(studio)).damage).toEqual([]);
			// Once it is whole, it comes.
			await takeBundle(studio, await bundleOf(here.studio));
			expect(await contents(studio)).toEqual(await contents(here.studio));
		});
	});

	it('(a list of versions) leaves the device and all else, and the versions come once it is whole', async () => {
		await everything(here.studio);
		const bundle = await spoilt('drawers/umbra-hall/versions.json', (text) =>
			text.replace('"takenAt"', '"taken"')
		);
		await anotherStudio(async (studio) => {
			const { left, devices, versions } = await takeBundle(studio, bundle);
			expect([devices, versions]).toEqual([3, 0]);
			expect(left).toMatchObject([{ device: 'Umbra hall', says: expect.stringContaining('Its versions: ') }]);
			await takeBundle(studio, await bundleOf(here.studio));
			const [after, all] = [await contents(studio), await contents(here.studio)];
			// A bank that came without its base keeps to what it holds, and a log that a message of its was not here.
			const stays = { banks: [], transfer_trace: [] };
			expect({ ...after, ...stays }).toEqual({ ...all, ...stays });
		});
	});

	it('takes the version of a snapshot along with it, and gives it back once it is whole', async () => {
		await everything(here.studio);
		const whole = await bundleOf(here.studio);
		const files = unzipSync(whole);
		const syx = Object.keys(files).find((name) => name.endsWith('.syx'))!;
		files[syx][10] ^= 1;
		await anotherStudio(async (studio) => {
			expect((await takeBundle(studio, zipSync(files))).left).toHaveLength(1);
			expect(await itemRows(studio, 'snapshot-1')).toMatchObject([
				{ status: 'failed', versionId: null, says: expect.stringContaining('not whole in the bundle') }
			]);
			await takeBundle(studio, whole);
			expect(await itemRows(studio, 'snapshot-1')).toEqual(await itemRows(here.studio, 'snapshot-1'));
		});
	});
});

describe('where a studio and a bundle differ', () => {
	const change = async (studio: Studio, { id }: Pick<Device, 'id'>, facts: Partial<Device>) =>
		updateDevice(studio, id, deviceSchema.parse({ ...(await getDevice(studio, id)), ...facts }));

	it('what is here stays, each difference is told, and those that are chosen become as in the bundle', async () => {
		const { device, map, version, weir, reed } = await everything(here.studio);
		const start = await bundleOf(here.studio);
		await anotherStudio(async (studio) => {
			await takeBundle(studio, start);
			await change(studio, device, { place: 'Tour case', notes: 'Fuse changed' });
			await editMap(studio, map.id, {
				revision: (await getMap(studio, map.id)).revision,
				says: 'Named',
				edits: [{ path: ['name'], value: 'Night' }]
			});
			await labelVersion(studio, version.id, { title: 'Tour', note: '', tags: [], pinned: false });
			await editPaper(studio, FLOOR, {
				revision: (await getPaper(studio, FLOOR)).revision,
				says: 'Named',
				edits: [aCable('Two')]
			});
			await changeStudioRig(studio, [
				{ do: 'pull', from: rigPortId(reed.id, 'out'), to: rigPortId(weir.id, 'in') },
				{ do: 'plug', from: rigPortId(weir.id, 'out'), to: rigPortId(reed.id, 'in') }
			]);
			await writeRiskSettings(studio, riskSettingsSchema.parse({ weights: { never: 10 } }));
			const tour = await bundleOf(studio);

			const before = await contents(here.studio);
			const { differ, also } = await takeBundle(here.studio, tour);
			expect(await contents(here.studio)).toEqual(before);
			expect(also).toEqual([]);
			expect(differ.map(({ what, here: mine, there }) => [what, mine, there])).toEqual([
				['Umbra hall: place', 'rack', 'Tour case'],
				['Umbra hall: notes', 'nothing', 'Fuse changed'],
				[expect.stringContaining('what is written on the version of'), 'nothing', 'Tour'],
				['The wiring', '1 cables, 0 hosts', '1 cables, 0 hosts'],
				['Map “Dome”', expect.stringContaining('“Dome”'), expect.stringContaining('“Night”')],
				['The floor', expect.any(String), expect.any(String)],
				['What counts as a risk', 'weights never 90', 'weights never 10']
			]);
			const keys = new Map(differ.map(({ what, key }) => [what, key]));

			const some = await takeBundle(here.studio, tour, new Set([keys.get('Umbra hall: notes')!]));
			expect([some.chosen, some.differ.length]).toEqual([1, 6]);
			expect(await getDevice(here.studio, device.id)).toMatchObject({ place: 'rack', notes: 'Fuse changed' });
			// What has changed since it was shown is asked again, not overruled.
			await change(here.studio, device, { place: 'Shelf' });
			const late = await takeBundle(here.studio, tour, new Set([keys.get('Umbra hall: place')!]));
			expect(late.chosen).toBe(0);
			expect(late.differ[0]).toMatchObject({ what: 'Umbra hall: place', here: 'Shelf', there: 'Tour case' });
			expect((await getDevice(here.studio, device.id)).place).toBe('Shelf');

			const every = new Set(late.differ.map(({ key }) => key));
			expect((await takeBundle(here.studio, tour, every)).differ).toEqual([]);
			expect((await takeBundle(here.studio, tour)).differ).toEqual([]);
			expect((await takeBundle(studio, await bundleOf(here.studio))).differ).toEqual([]);
			expect((await readStudioRig(here.studio)).rig.cables).toEqual((await readStudioRig(studio)).rig.cables);
			expect((await readRiskSettings(here.studio)).weights.never).toBe(10);
			// What was taken is a step, and is undone as any other.
			const open = await getMap(here.studio, map.id);
			expect(open.document.name).toBe('Night');
			const back = await moveMap(here.studio, map.id, { move: 'undo', step: open.steps.undo!.id });
			expect(back.document.name).toBe('Dome');
		});
	});

	it('gear that comes in brings its cables, and leaves those of others alone', async () => {
		const { weir, reed } = await everything(here.studio);
		await anotherStudio(async (studio) => {
			await takeBundle(studio, await bundleOf(here.studio));
			const third = await addDevice(
				studio,
				deviceSchema.parse({ name: 'Third', ports: [{ name: 'In', direction: 'in', connector: 'din' }] })
			);
			await changeStudioRig(studio, [
				{ do: 'plug', from: rigPortId(weir.id, 'out'), to: rigPortId(third.id, 'in') }
			]);
			const { differ } = await takeBundle(here.studio, await bundleOf(studio));
			expect(differ).toEqual([]);
			expect((await readStudioRig(here.studio)).rig.cables.map(({ from, to }) => [from, to])).toEqual([
				[rigPortId(reed.id, 'out'), rigPortId(weir.id, 'in')],
				[rigPortId(weir.id, 'out'), rigPortId(third.id, 'in')]
			]);
		});
	});

	it('comes to the same in any order of imports, whatever was done in each, if the choices are the same', async () => {
		type Deed = [away: boolean, what: number, n: number];
		const deeds = fc.array(
			fc.tuple(fc.boolean(), fc.nat(6), fc.integer({ min: 1, max: 28 })) as fc.Arbitrary<Deed>,
			{ minLength: 2, maxLength: 7 }
		);
		/** Takes a bundle; of what differs, the one whose words are the greater. */
		const settle = async (studio: Studio, bundle: Uint8Array) => {
			const { differ } = await takeBundle(studio, bundle);
			const chosen = differ.filter(({ here: mine, there }) => there > mine).map(({ key }) => key);
			await takeBundle(studio, bundle, new Set(chosen));
		};
		await fc.assert(
			fc.asyncProperty(deeds, async (all) => {
				await anotherStudio((one) =>
					anotherStudio(async (two) => {
						const { device, profile, slots } = await anUmbra(one);
						await keep(one, device, profile, slots, { takenAt: '2026-01-01T00:00:00.000Z' });
						await takeBundle(two, await bundleOf(one));
						for (const [i, [away, what, n]] of all.entries()) {
							const studio = away ? one : two;
							const at = new Date(Date.UTC(2026, 1, n, 1, i)).toISOString();
							studio.now = () => new Date(at);
							await [
								() => change(studio, device, { place: `Place ${n}` }),
								() => change(studio, device, { notes: `Note ${n}` }),
								() => touchDevice(studio, device.id),
								() =>
									markSound(studio, soundOf(slots[40].bytes), { favourite: n % 2 === 0, category: `C${n}` }),
								() =>
									studio.write((transaction) =>
										noteWriting(
											studio,
											device.id,
											'hardware',
											{ kind: 'sent', at, by: `t${i}`, slots: [{ area: 'programs', index: n }] },
											transaction
										)
									),
								() => keep(studio, device, profile, renamed(profile, slots, n, `Day ${n}`), { takenAt: at }),
								() =>
									keepFile(studio, { device: device.id }, { name: 'a', bytes: Uint8Array.of(n, i), note: '' })
							][what]();
						}
						const [first, second] = [await bundleOf(one), await bundleOf(two)];
						await settle(one, second);
						await settle(two, first);
						const together = await contents(one);
						expect(await contents(two)).toEqual(together);
						for (const order of [
							[first, second],
							[second, first]
						])
							await anotherStudio(async (third) => {
								for (const bundle of order) await settle(third, bundle);
								expect(await contents(third)).toEqual(together);
								expect((await checkStudio(third)).damage).toEqual([]);
							});
					})
				);
			}),
			{ numRuns: 5 }
		);
	});
});
