import { describe, expect, it } from 'vitest';
import { makeFirmware, seededRandom } from '../core/bench';
import { deviceSchema } from '../core/gear';
import { careFacts } from './care-facts';
import { noteContact } from './contact';
import { keepVersion } from './drawer';
import { addDevice } from './gear';
import { keepFile, listKeptFiles, readKeptFile } from './kept-files';
import { readableSlots } from './knowing';
import {
	actOnRun,
	beginRun,
	chooseKeptRunFile,
	chooseRunFile,
	getRun,
	listRuns,
	runOrderSchema
} from './procedure-runs';
import { getProcedure, listProcedures, removeProcedure, saveProcedure } from './procedures';
import { shippedProfile } from './profiles';
import { doneInService, editServiceBook, getServiceBook } from './service-book';
import { anOrrery, freshStudio } from './studio.fixture';
import {
	beginSwitching,
	currentSwitching,
	editPowerOn,
	endSwitching,
	getPowerOn,
	tickItems
} from './switching';
import { insertTransfer } from './store/transfers';
import { today } from './today';
import { RISK_WEIGHTS, type OpenRun } from '../core/care';

const here = freshStudio();
const riskOf = async (id: string) =>
	(await today(here.studio)).find(({ device }) => device.id === id)!.risk.parts.map((part) => part.id);
const heard = (device: string, firmware: string | null = '1.04') =>
	noteContact(here.studio, device, {
		world: here.studio.world,
		how: 'identity',
		out: null,
		in: null,
		outName: '',
		inName: '',
		deviceId: 0,
		firmware
	});
const goOn = (run: OpenRun, act: Record<string, unknown>, people: string[] = []) =>
	actOnRun(here.studio, run.id, { revision: run.revision, act: act as never, people });
const backUp = ({ device, profile, dump }: Awaited<ReturnType<typeof anOrrery>>) =>
	keepVersion(here.studio, {
		device,
		profile,
		messages: dump(),
		kind: 'routine',
		world: here.studio.world,
		proof: 'checksum'
	});

describe('procedures of a studio', () => {
	it('are those that ship, and its own in their place until they are taken away', async () => {
		const ids = (await listProcedures(here.studio)).map(({ procedure }) => procedure.id);
		expect(ids).toEqual(
			expect.arrayContaining([
				'firmware-update',
				'memory-battery',
				'factory-reset',
				'before-a-show',
				'after-transport',
				'adapter-test',
				'first-contact',
				'clock-check'
			])
		);
		const show = await getProcedure(here.studio, 'before-a-show');
		await saveProcedure(here.studio, { ...show, title: 'Before our show' });
		expect((await getProcedure(here.studio, 'before-a-show')).title).toBe('Before our show');
		await removeProcedure(here.studio, 'before-a-show');
		expect((await getProcedure(here.studio, 'before-a-show')).title).toBe(show.title);
		await removeProcedure(here.studio, 'before-a-show', true);
		expect((await getProcedure(here.studio, 'before-a-show')).title).toBe('Before our show');
		await expect(removeProcedure(here.studio, 'clock-check')).rejects.toMatchObject({
			code: 'procedure.not-found'
		});
	});

	it('know the loader of a model whose profile does, and no other', async () => {
		const west = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'West', profileId: 'tarnow-parallax' })
		);
		const { device } = await anOrrery(here.studio);
		const acts = async (of: typeof west) =>
			(await getProcedure(here.studio, 'firmware-update', of)).steps.flatMap((step) =>
				step.by === 'app' ? [step.act] : []
			);
		expect(await acts(west)).toContain('send');
		expect(await acts(device)).not.toContain('send');
	});
});

describe('a run on the server', () => {
	it('passes the gate of a backup only by what the drawer knows, and says which version it was', async () => {
		const orrery = await anOrrery(here.studio);
		const { device } = orrery;
		let run = await beginRun(here.studio, { procedure: 'memory-battery', device: device.id });
		expect((await beginRun(here.studio, { procedure: 'memory-battery', device: device.id })).id).toBe(run.id);
		run = await goOn(run, { do: 'begin', step: 'backup' });
		expect(run.shown).toContain('No full backup of it was verified since');
		await expect(goOn(run, { do: 'done', step: 'backup' })).rejects.toMatchObject({
			code: 'procedure.not-shown'
		});
		const version = await backUp(orrery);
		run = await getRun(here.studio, run.id);
		expect(run.shown).toBeNull();
		run = await goOn(run, { do: 'done', step: 'backup' });
		// The gate behind it held by what is known now, and was passed at once.
		expect(run.run.entries.map(({ what }) => what)).toEqual(['begun', 'done', 'held']);
		expect(run).toMatchObject({ step: 'looked', versionId: version.id });
		run = await goOn(run, { do: 'done', step: 'looked' });
		run = await goOn(run, { do: 'choose', step: 'where', variant: 'outside' });
		run = await goOn(run, { do: 'done', step: 'swap' });
		for (const step of ['answers', 'restore']) {
			run = await goOn(run, { do: 'begin', step });
			run = await goOn(run, { do: 'overrule', step, reason: 'It plays all of them from the keyboard.' });
		}
		expect((await getServiceBook(here.studio)).document.entries).toEqual([]);
		run = await goOn(run, { do: 'done', step: 'note' });
		expect(run.over).toBe('done');
		// It is in the service book, in the same breath, and the battery's age counts anew from it.
		expect((await getServiceBook(here.studio)).document.entries).toMatchObject([
			{ device: device.id, kind: 'battery', says: 'Memory battery change, 2 passed with a reason' }
		]);
	});

	it('is not gone on with by two tabs, and takes no file by its mere name', async () => {
		const { device } = await anOrrery(here.studio);
		const run = await beginRun(here.studio, { procedure: 'first-contact', device: device.id });
		const [first, second] = await Promise.allSettled([
			goOn(run, { do: 'done', step: 'label' }),
			goOn(run, { do: 'done', step: 'label' })
		]);
		expect([first.status, second.status].sort()).toEqual(['fulfilled', 'rejected']);
		await expect(beginRun(here.studio, { procedure: 'first-contact', device: null })).rejects.toMatchObject({
			code: 'procedure.device'
		});
		await expect(beginRun(here.studio, { procedure: 'nothing', device: null })).rejects.toMatchObject({
			code: 'procedure.not-found'
		});
	});

	it('keeps the file by its hash with the device, and refuses one that is not for it', async () => {
		const west = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'West', profileId: 'tarnow-parallax' })
		);
		const run = await beginRun(here.studio, { procedure: 'firmware-update', device: west.id });
		const file = (variant: number) =>
			makeFirmware(0x34, { variant, version: [1, 7], blocks: 3, random: seededRandom(1) });
		const give = (bytes: Uint8Array, now = run) =>
			chooseRunFile(here.studio, now.id, { revision: now.revision, name: 'p.syx', bytes, version: '' });
		await expect(give(file(0).subarray(0, 40))).rejects.toMatchObject({ code: 'firmware.file' });
		expect(await listKeptFiles(here.studio, { device: west.id })).toEqual([]);
		let now = await give(file(1));
		expect(now.file).toMatchObject({ version: '1.07', variant: 'desk' });
		expect((await readKeptFile(here.studio, now.file!.id)).bytes).toEqual(file(1));
		now = await goOn(now, { do: 'choose', step: 'plate', variant: 'rack' });
		expect(now.gate).toBe('The file is for “Parallax D (desktop)”, and this is “Parallax (rack)”.');
		await expect(goOn(now, { do: 'pass', step: 'fits' })).rejects.toMatchObject({ code: 'procedure.gate' });
		// Back to the file: the right one is taken, and what was is on record.
		now = await goOn(now, { do: 'back', step: 'file' });
		now = await give(file(0), now);
		now = await goOn(now, { do: 'choose', step: 'plate', variant: 'rack' });
		expect(now.step).toBe('backup');
		expect(now.run.entries.filter(({ what }) => what === 'file')).toHaveLength(2);
	});

	it('of a system that is being sent leaves its memory unproved, and comes before everything else in Today', async () => {
		const west = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'West', profileId: 'tarnow-parallax' })
		);
		let run = await beginRun(here.studio, { procedure: 'firmware-update', device: west.id });
		run = await chooseRunFile(here.studio, run.id, {
			revision: run.revision,
			name: 'p.syx',
			version: '',
			bytes: makeFirmware(0x34, { variant: 0, version: [1, 7], blocks: 3, random: seededRandom(1) })
		});
		run = await goOn(run, { do: 'choose', step: 'plate', variant: 'rack' });
		const reason = 'It holds nothing that is wanted.';
		for (const step of ['backup', 'kept']) {
			if (step === 'backup') run = await goOn(run, { do: 'begin', step });
			run = await goOn(run, { do: 'overrule', step, reason });
		}
		run = await goOn(run, { do: 'begin', step: 'answers' });
		await heard(west.id);
		run = await goOn(run, { do: 'done', step: 'answers' });
		for (const step of ['mains', 'enter']) run = await goOn(run, { do: 'done', step });
		run = await goOn(run, { do: 'begin', step: 'mode' });
		run = await goOn(run, { do: 'done', step: 'mode', note: 'ready' });
		expect(await riskOf(west.id)).not.toContain('updating');
		run = await goOn(run, { do: 'begin', step: 'send' });
		expect(await riskOf(west.id)).toContain('updating');
		run = await goOn(run, { do: 'fail', step: 'send', note: 'The old system is gone.' });
		const row = (await today(here.studio)).find(({ device }) => device.id === west.id)!;
		expect(row.risk.parts[0]).toMatchObject({ id: 'updating', says: 'The old system is gone.' });
		expect(row).toMatchObject({ runId: run.id, risk: { action: 'run' } });
		run = await goOn(run, { do: 'begin', step: 'send' });
		run = await goOn(run, { do: 'done', step: 'send', note: 'taken' });
		expect(await riskOf(west.id)).not.toContain('updating');
		run = await goOn(run, { do: 'done', step: 'restart' });
		run = await goOn(run, { do: 'begin', step: 'told' });
		await heard(west.id, '1.06');
		run = await goOn(run, { do: 'done', step: 'told' });
		expect(run.gate).toBe('It tells version 1.06, not 1.07.');
		expect(await listRuns(here.studio)).toMatchObject([{ device: 'West', over: null, overruled: 2 }]);
	});
});

describe('what is known of a restore', () => {
	it('is that of everything that can be read back, verified, in this world; a part of it is none', async () => {
		const orrery = await anOrrery(here.studio);
		const { device, profile } = orrery;
		const version = await backUp(orrery);
		const all = profile.areas.flatMap(({ id: area, slots }) =>
			Array.from({ length: slots }, (_, index) => ({ area, index, record: 'a'.repeat(64) }))
		);
		let minute = 0;
		const restored = async (change: object) => {
			const startedAt = `2026-01-02T00:${String(minute++).padStart(2, '0')}:00.000Z`;
			const row = {
				id: `restore-${minute}`,
				deviceId: device.id,
				direction: 'restore',
				scope: { kind: 'all' },
				status: 'verified',
				kind: 'routine',
				world: here.studio.world,
				title: '',
				startedAt,
				endedAt: startedAt,
				predictedMs: null,
				distrusted: false,
				resumed: false,
				snapshotId: null,
				bankId: null,
				reason: null,
				outcome: null,
				wanted: all,
				versionId: null,
				safetyVersionId: null,
				sourceVersionId: version.id,
				...change
			};
			await here.studio.write((transaction) => insertTransfer(here.studio, row as never, transaction));
			const { restoredAt, restoredFrom } = await careFacts(here.studio, device, here.studio.world);
			return { at: restoredAt, from: restoredFrom };
		};
		const none = { at: null, from: null };
		expect(await restored({ wanted: all.slice(1) })).toEqual(none);
		expect(await restored({ status: 'differs' })).toEqual(none);
		expect(await restored({ world: here.studio.world === 'bench' ? 'hardware' : 'bench' })).toEqual(none);
		expect(await restored({ direction: 'capture' })).toEqual(none);
		expect(await restored({})).toEqual({ at: '2026-01-02T00:04:00.000Z', from: version.id });
	});
});

describe('what is lied to it', () => {
	it('a file of another device, a step of another run, an act after the end: nothing of it is taken', async () => {
		const [west, east] = await Promise.all(
			['West', 'East'].map((name) =>
				addDevice(here.studio, deviceSchema.parse({ name, profileId: 'tarnow-parallax' }))
			)
		);
		const { file } = await keepFile(
			here.studio,
			{ device: east.id },
			{ name: 'p.syx', bytes: Uint8Array.of(1), note: '' }
		);
		const run = await beginRun(here.studio, { procedure: 'firmware-update', device: west.id });
		const kept = (id: string) =>
			chooseKeptRunFile(here.studio, run.id, { revision: run.revision, file: id, version: '' });
		await expect(kept(file.id)).rejects.toMatchObject({ code: 'kept-file.not-found' });
		await expect(kept('__proto__')).rejects.toMatchObject({ code: 'kept-file.not-found' });
		expect(
			runOrderSchema.safeParse({
				revision: 1,
				act: { do: 'file', step: 'file', name: 'p.syx', sha256: 'a'.repeat(64) }
			}).success
		).toBe(false);
		await expect(goOn(run, { do: 'done', step: 'constructor' })).rejects.toMatchObject({
			code: 'procedure.turn'
		});
		const over = await goOn(run, { do: 'abandon', reason: '' });
		await expect(goOn(over, { do: 'back', step: 'file' })).rejects.toMatchObject({ code: 'procedure.over' });
		await expect(getRun(here.studio, 'nobody')).rejects.toMatchObject({ code: 'run.not-found' });
		const list = await beginSwitching(here.studio, { way: 'on' });
		await expect(getRun(here.studio, list.id)).rejects.toMatchObject({ code: 'run.not-found' });
	});

	it('a book or a list that is none is not stored, and nothing of it stays', async () => {
		const bad = async (work: Promise<unknown>, code: string) => expect(work).rejects.toMatchObject({ code });
		const edit = (path: (string | number)[], value: unknown) => ({
			revision: 0,
			says: 'x',
			edits: [{ path, value }]
		});
		await bad(editServiceBook(here.studio, edit(['entries'], [{ id: 'a' }])), 'service-book.invalid');
		await bad(editServiceBook(here.studio, edit(['nothing'], 1)), 'service-book.invalid');
		await bad(editServiceBook(here.studio, edit(['due', 'x', 'y'], 1)), 'service-book.invalid');
		const item = { id: 'a', device: 'd', what: 'send', says: 'x', see: '', ask: '', answer: '' };
		await bad(
			editPowerOn(here.studio, edit(['items'], [{ ...item, messages: ['hello'] }])),
			'power-on.invalid'
		);
		await bad(
			editPowerOn(here.studio, edit(['items'], [{ ...item, messages: [], answer: '.' }])),
			'power-on.invalid'
		);
		expect((await getServiceBook(here.studio)).revision).toBe(0);
		expect((await getPowerOn(here.studio)).document.items).toEqual([]);
	});

	it('a contact of the other world, or from before, makes nothing heard', async () => {
		const { device } = await anOrrery(here.studio);
		await heard(device.id);
		const run = await beginSwitching(here.studio, { way: 'on' });
		const tick = () => tickItems(here.studio, run.id, { items: [`${device.id}:on`], how: 'heard', note: '' });
		await expect(tick()).rejects.toMatchObject({ code: 'switching.not-heard' });
		await noteContact(here.studio, device.id, {
			world: here.studio.world === 'bench' ? 'hardware' : 'bench',
			how: 'identity',
			out: null,
			in: null,
			outName: '',
			inName: '',
			deviceId: 0,
			firmware: null
		});
		await expect(tick()).rejects.toMatchObject({ code: 'switching.not-heard' });
		await heard(device.id);
		expect((await tick()).done[`${device.id}:on`]).toMatchObject({ how: 'heard' });
	});
});

describe('the service book in the studio', () => {
	it('counts its batteries, what is overdue, planned updates and faults into the risk', async () => {
		const orrery = await anOrrery(here.studio);
		const { device } = orrery;
		here.studio.now = () => new Date('2026-11-28T12:00:00Z');
		await backUp(orrery);
		const put = (edits: { path: string[]; value: unknown }[], revision: number) =>
			editServiceBook(here.studio, { revision, says: 'x', edits });
		let book = await getServiceBook(here.studio);
		const due = (id: string, on: string, kind: string) => ({
			id,
			device: device.id,
			on,
			kind,
			says: id,
			everyMonths: null,
			procedure: ''
		});
		book = await put(
			[{ path: ['due'], value: [due('a', '2026-11-20', 'cleaning'), due('b', '2026-12-01', 'firmware')] }],
			book.revision
		);
		expect(await riskOf(device.id)).toEqual(['service']);
		here.studio.now = () => new Date('2026-12-10T12:00:00Z');
		expect(await riskOf(device.id)).toContain('update');
		book = await doneInService(here.studio, {
			revision: book.revision,
			due: 'b',
			on: '2026-12-10',
			by: 'Ada',
			firmware: '1.05'
		});
		expect(book.document.entries).toMatchObject([
			{ kind: 'firmware', says: 'b', firmware: '1.05', by: 'Ada' }
		]);
		await expect(
			doneInService(here.studio, {
				revision: book.revision,
				due: 'b',
				on: '2026-12-10',
				by: '',
				firmware: ''
			})
		).rejects.toMatchObject({ code: 'service-book.due.not-found' });
		const fault = {
			id: 'f',
			device: device.id,
			since: '2026-12-01',
			says: 'wipes itself',
			wayRound: '',
			firmware: '1.04',
			losesSounds: true,
			mended: null
		};
		book = await put([{ path: ['faults'], value: [fault] }], book.revision);
		expect(await riskOf(device.id)).toContain('fault');
		expect(book.ask).toEqual([]);
		await heard(device.id, '1.05');
		expect((await getServiceBook(here.studio)).ask).toMatchObject([{ id: 'f', now: '1.05' }]);
		expect(RISK_WEIGHTS.fault).toBeGreaterThan(0);
	});
});

describe('switching the studio', () => {
	it('lists what each forgets, ticks what was heard only where it was, and ends with everything ticked', async () => {
		const nadir = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Drums', profileId: 'quillon-nadir', forgets: 'Swing goes to 50.' })
		);
		const { device: orrery } = await anOrrery(here.studio);
		const list = await getPowerOn(here.studio);
		expect(list.on.items.filter(({ device }) => device === nadir.id).map(({ what }) => what)).toEqual([
			'switch',
			'set',
			'set',
			'set'
		]);
		await editPowerOn(here.studio, {
			revision: list.revision,
			says: 'x',
			edits: [{ path: ['orders'], value: [{ first: orrery.id, then: nadir.id }] }]
		});
		const begun = await beginSwitching(here.studio, { way: 'on' });
		expect(begun.next).toBe(`${orrery.id}:on`);
		const on = (how: string, items = [`${orrery.id}:on`]) =>
			tickItems(here.studio, begun.id, { items, how: how as 'hand', note: '' });
		await expect(on('heard')).rejects.toMatchObject({ code: 'switching.not-heard' });
		await heard(orrery.id);
		expect((await on('heard')).done[`${orrery.id}:on`].how).toBe('heard');
		const rest = begun.run.items.map(({ id }) => id).filter((id) => id !== `${orrery.id}:on`);
		expect((await on('hand', rest)).next).toBeNull();
		expect(await endSwitching(here.studio, begun.id)).toMatchObject({ over: 'done' });
		await expect(on('hand', rest)).rejects.toMatchObject({ code: 'switching.over.conflict' });
		expect(await currentSwitching(here.studio)).toBeNull();
		// Begun the other way round, what was not finished is left as it is.
		const off = await beginSwitching(here.studio, { way: 'off' });
		const again = await beginSwitching(here.studio, { way: 'on' });
		expect((await currentSwitching(here.studio))!.id).toBe(again.id);
		expect(off.run.items[0].says).toBe('Switch it off');
		expect(readableSlots(shippedProfile('quillon-nadir')).length).toBeGreaterThan(0);
	});
});
