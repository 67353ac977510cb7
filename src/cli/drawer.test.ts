import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../lib/core/bench';
import { fromHex, joinBytes, toHex, writeSysexMidiFile } from '../lib/core/midi';
import { buildMessage, decodeDump, makeSlot, messagesFor } from '../lib/core/profile';
import { openStudio } from '../lib/server/db/connection';
import { keepVersion } from '../lib/server/drawer';
import { addDevice, factsOfModel, findDevice } from '../lib/server/gear';
import { shippedProfile } from '../lib/server/profiles';
import { anOrrery } from '../lib/server/studio.fixture';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'drawer-cli-'));
let versionId = '';
let dump: Uint8Array[] = [];

function drawer(...words: string[]) {
	const result = spawnSync(process.execPath, ['scripts/drawer.mjs', ...words], {
		cwd: root,
		encoding: 'utf8',
		env: { ...process.env, DRAWER_DATA: folder, INIT_CWD: folder }
	});
	return {
		code: result.status,
		lines: result.stdout
			.split('\n')
			.filter(Boolean)
			.map((line) => JSON.parse(line)),
		errors: result.stderr
	};
}

beforeAll(async () => {
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	const orrery = await anOrrery(studio, 'Dome Orrery');
	dump = orrery.dump();
	versionId = (
		await keepVersion(studio, {
			device: orrery.device,
			profile: orrery.profile,
			messages: dump,
			kind: 'routine',
			world: 'hardware',
			proof: 'checksum'
		})
	).id;
	await studio.close();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('sysex', () => {
	it('prints one line for each message of .syx and .mid files', () => {
		writeFileSync(join(folder, 'a.syx'), fromHex('f0 7d 01 f7 f8 f0 00 20 33 02 f7 f0 7d 03'));
		writeFileSync(join(folder, 'b.mid'), writeSysexMidiFile([fromHex('f0 7d 04 f7')]));
		const { code, lines } = drawer('sysex', 'a.syx', 'b.mid');
		expect(code).toBe(0);
		expect(lines).toEqual([
			{ file: 'a.syx', index: 0, offset: 0, length: 4, complete: true, manufacturer: '7d', hex: 'f07d01f7' },
			{
				file: 'a.syx',
				index: 1,
				offset: 5,
				length: 6,
				complete: true,
				manufacturer: '002033',
				hex: 'f000203302f7'
			},
			{ file: 'a.syx', index: 2, offset: 11, length: 3, complete: false, manufacturer: '7d', hex: 'f07d03' },
			{ file: 'b.mid', index: 0, offset: 29, length: 4, complete: true, manufacturer: '7d', hex: 'f07d04f7' }
		]);
	});

	it('says which file cannot be read', () => {
		expect(drawer('sysex', 'nowhere.syx')).toMatchObject({
			code: 1,
			lines: [],
			errors: expect.stringContaining('“nowhere.syx” cannot be read')
		});
		expect(drawer('sysex')).toMatchObject({
			code: 1,
			errors: expect.stringContaining('Usage: drawer sysex FILE…')
		});
	});
});

it('decode prints slots with names and parameters, and fails on what it cannot read', () => {
	writeFileSync(join(folder, 'dump.syx'), joinBytes(dump));
	const profile = join(root, 'profiles/vellbrook-orrery.json');
	const { code, lines } = drawer('decode', '--profile', profile, 'dump.syx');
	expect(code).toBe(0);
	expect(lines).toHaveLength(65);
	expect(lines[0]).toMatchObject({
		area: 'programs',
		slot: 0,
		label: '11',
		name: expect.any(String),
		parameters: { 'osc1-wave': { raw: expect.any(Number), shown: expect.any(String) } }
	});
	writeFileSync(join(folder, 'other.syx'), fromHex('f0 7d 01 f7'));
	expect(drawer('decode', '--profile', profile, 'other.syx')).toMatchObject({
		code: 1,
		errors: expect.stringContaining('Message 1 was not read')
	});
	writeFileSync(join(folder, 'bad.json'), '{"format":"silent-drawer.profile"}');
	expect(drawer('decode', '--profile', 'bad.json', 'dump.syx')).toMatchObject({
		code: 1,
		errors: expect.stringContaining('The profile has')
	});
});

it('devices, versions, export and import go round byte for byte', () => {
	expect(drawer('devices').lines.map(({ name }) => name)).toEqual(['Dome Orrery']);
	expect(drawer('versions', 'dome orrery').lines.map(({ id }) => id)).toEqual([versionId]);
	for (const out of ['out.syx', 'out.mid']) {
		expect(drawer('export', versionId, '--out', out).code).toBe(0);
		const { code, lines } = drawer('import', out, '--device', 'Dome Orrery');
		expect(code).toBe(0);
		expect(lines[0]).toMatchObject({ kind: 'imported', verified: false, slots: 65 });
	}
	expect(toHex(readFileSync(join(folder, 'out.syx')))).toBe(toHex(joinBytes(dump)));
	// Not the studio is what cannot be written there.
	const nowhere = drawer('export', versionId, '--out', '/sys/out.syx');
	expect([nowhere.code, nowhere.errors]).toEqual([1, expect.stringContaining("open '/sys/out.syx'")]);
	expect(nowhere.errors).not.toContain('The studio');
	expect(drawer('versions', 'Nobody')).toMatchObject({
		code: 1,
		errors: expect.stringContaining('There is no device “Nobody”')
	});
});

it('says whether a set is ready by what this studio has, and what it lacks', async () => {
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	const { id, profileId } = await findDevice(studio, 'Dome Orrery');
	const profile = shippedProfile(profileId!);
	const { bytes } = decodeDump(profile, dump).slots.find(
		({ area, index }) => area === 'programs' && index === 4
	)!;
	const record = createHash('sha256').update(bytes).digest('hex');
	await studio.close();
	const set = (program: number) => ({
		setup: {
			players: [{ id: 'p', name: 'Upper' }],
			instruments: [{ id: 'm', name: 'Orrery', device: id, loadMs: 20 }],
			zones: []
		},
		scenes: [
			{
				number: 1,
				name: 'Doors',
				zones: [{ id: 'z', name: 'Lead', player: 'p', to: [{ instrument: 'm', channel: 1 }] }],
				parts: [
					{
						instrument: 'm',
						channel: 1,
						sound: { name: 'X', program, from: 'drawer', kept: { area: 'programs', index: program, record } }
					}
				]
			}
		],
		songs: [{ id: 's', name: 'Comets', scenes: [1] }]
	});
	const ready = (program: number) => {
		writeFileSync(join(folder, 'set.json'), JSON.stringify(set(program)));
		return drawer('ready', 'set.json');
	};
	expect(ready(4).lines.some(({ says }) => says?.startsWith('X (Orrery)'))).toBe(false);
	const moved = ready(5);
	expect(moved.code).toBe(1);
	expect(moved.lines).toContainEqual(
		expect.objectContaining({
			kind: 'missing',
			scenes: [1],
			says: expect.stringMatching(/^X \(Orrery\) is in .+ now/)
		})
	);
	expect(moved.lines.at(-1)).toMatchObject({ ready: false, steps: [{ scene: 1 }] });
});

it('a dump that names no slot is decoded as one of no slot, and imported where it is said to belong', async () => {
	const weir = shippedProfile('osier-weir-9');
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	await addDevice(studio, factsOfModel(studio, weir.id, 'Dome desk'));
	await studio.close();
	const setup = factoryState(weir, seededRandom(2)).memory.setups[4];
	writeFileSync(join(folder, 'desk.syx'), buildMessage(weir, 'setup', { deviceId: 0 }, setup));
	const profile = join(root, 'profiles/osier-weir-9.json');
	expect(drawer('decode', '--profile', profile, 'desk.syx')).toMatchObject({
		code: 0,
		lines: [{ area: 'setups', slot: null, label: null, message: 0 }]
	});
	expect(drawer('import', 'desk.syx', '--device', 'Dome desk')).toMatchObject({
		code: 1,
		errors: expect.stringContaining('is a setup, and does not say which')
	});
	expect(drawer('import', 'desk.syx', '--device', 'Dome desk', '--slot', 'S12')).toMatchObject({
		code: 0,
		lines: [{ kind: 'imported', slots: 1 }]
	});
});

it('a disk that refuses to store is said to, in words', async () => {
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	const broken = (sql: string) => studio.sequelize.query(sql);
	await broken(
		`CREATE TRIGGER broken BEFORE INSERT ON versions BEGIN SELECT RAISE(ABORT, 'SQLITE_IOERR'); END`
	);
	writeFileSync(join(folder, 'refused.syx'), joinBytes(dump));
	const { code, errors } = drawer('import', 'refused.syx', '--device', 'Dome Orrery');
	await broken('DROP TRIGGER broken');
	await studio.close();
	expect(code).toBe(1);
	expect(errors).toContain('a quota is used up, or it fails. Make room and try again.');
});

it('check is clean, and fails naming the versions when an object is damaged', async () => {
	expect(drawer('check')).toMatchObject({ code: 0, lines: [{ damage: [] }] });
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	await studio.sequelize.query('UPDATE objects SET data = zeroblob(length(data)) WHERE size > 1000');
	await studio.close();
	const { code, errors } = drawer('check');
	expect(code).toBe(1);
	expect(errors).toContain(`Version ${versionId} of Dome Orrery`);
});

it('an unknown command lists those that there are', () => {
	expect(drawer('sing')).toMatchObject({
		code: 2,
		errors: expect.stringContaining('There is no command “sing”')
	});
});

describe('rig files', () => {
	const port = (id: string, direction: string) => ({ id, name: id, direction, connector: 'din' });
	const file = {
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			{
				id: 'if',
				name: 'Ferry',
				kind: 'interface',
				ports: [port('o1', 'out'), port('o2', 'out'), port('i1', 'in')]
			},
			{
				id: 'a',
				name: 'Alcor',
				kind: 'synth',
				ports: [port('a.in', 'in'), port('a.out', 'out')],
				wants: { return: true, bytesPerSecond: 400 }
			},
			{ id: 'b', name: 'Bellatrix', kind: 'synth', ports: [port('b.in', 'in')] }
		],
		cables: [{ from: 'o1', to: 'a.in' }],
		settings: [{ device: 'a', channel: 1 }]
	};
	const run = (...words: string[]) =>
		spawnSync(process.execPath, ['scripts/drawer.mjs', ...words], {
			cwd: root,
			encoding: 'utf8',
			env: { ...process.env, DRAWER_DATA: folder, INIT_CWD: folder }
		});
	beforeAll(() => writeFileSync(join(folder, 'rig.json'), JSON.stringify(file)));

	it('plan prints a proved plan in the documented shape', () => {
		const { status, stdout } = run('plan', 'rig.json', '--policy', 'port-per-instrument', '--seconds', '20');
		expect(status).toBe(0);
		expect(JSON.parse(stdout)).toMatchObject({
			status: 'optimal',
			gap: 0,
			policy: 'port-per-instrument',
			assignments: [
				{ device: 'a', out: 'o1', in: 'i1', channels: [1], hop: 1, via: null },
				{ device: 'b', out: 'o2', in: null, channels: [1], hop: 1, via: null }
			],
			unplaced: [],
			moves: 3,
			loads: [
				{ port: 'o1', bytesPerSecond: 400, share: 0.128 },
				{ port: 'o2', bytesPerSecond: 0, share: 0 }
			],
			why: { a: expect.stringContaining('stays on Ferry o1') }
		});
	});

	it('check-rig, trace and lateness answer', () => {
		const check = run('check-rig', 'rig.json');
		expect(check.status).toBe(1);
		expect(JSON.parse(check.stdout).map(({ rule }: { rule: string }) => rule)).toEqual([
			'return.missing',
			'device.unfed'
		]);
		const traced = JSON.parse(run('trace', 'rig.json', '--from', 'o1', '--channel', '1').stdout);
		expect(traced.reached).toMatchObject([{ id: 'a', channel: 1 }]);
		expect(traced.silent).toMatchObject([
			{ id: 'b', stop: { says: 'Nothing is plugged into Bellatrix (b.in).' } }
		]);
		const track = [0, 0x90, 60, 100, 0, 0x90, 64, 100, 0, 0xff, 0x2f, 0];
		writeFileSync(
			join(folder, 'two.mid'),
			Uint8Array.from([
				...Buffer.from('MThd'),
				0,
				0,
				0,
				6,
				0,
				0,
				0,
				1,
				0,
				96,
				...Buffer.from('MTrk'),
				0,
				0,
				0,
				track.length,
				...track
			])
		);
		expect(JSON.parse(run('lateness', 'rig.json', 'two.mid').stdout).devices).toMatchObject([
			{ device: 'a', messages: 2, chordSpreadMs: 1.6 }
		]);
	});

	it('names the path of a faulty field and what was expected', () => {
		writeFileSync(
			join(folder, 'bad-rig.json'),
			JSON.stringify({ ...file, cables: [{ from: 'o1', to: 'nowhere' }], limits: { chain: 0 } })
		);
		const { status, stderr, stdout } = run('plan', 'bad-rig.json');
		expect([status, stdout]).toEqual([1, '']);
		expect(stderr).toContain('limits.chain: expected at least 1, found 0');
		expect(run('plan', 'rig.json', '--policy', 'free').stderr).toContain('There is no policy “free”');
		expect(run('trace', 'rig.json', '--from', 'zzz').stderr).toContain('Nothing in this rig is called “zzz”');
	});
});

it('a profile is checked: its faults one by one, and what it makes of each message of a dump', () => {
	const cairn = shippedProfile('harbeck-cairn');
	const slots = factoryState(cairn, seededRandom(3)).memory.tones.slice(0, 2);
	const messages = messagesFor(
		cairn,
		slots.map((bytes, i) => makeSlot(cairn, 'tones', i, bytes)),
		{ deviceId: 16 }
	);
	const damaged = messages[1].map((byte, i) => (i === 20 ? byte ^ 1 : byte));
	writeFileSync(join(folder, 'whole.syx'), joinBytes(messages));
	writeFileSync(join(folder, 'torn.syx'), joinBytes([messages[0], damaged, ...messages.slice(2, 8)]));
	const file = join(root, 'profiles/harbeck-cairn.json');
	const whole = drawer('profile', 'check', file, 'whole.syx');
	expect(whole.code).toBe(0);
	expect(whole.lines[0]).toMatchObject({
		title: 'Data',
		slots: [{ area: 'tones', label: 'A01' }],
		rebuilds: true
	});
	expect(whole.lines.at(-2)).toMatchObject({ messages: 12, read: 12, slots: 2, partial: [], rebuilds: true });
	const torn = drawer('profile', 'check', file, 'torn.syx');
	expect(torn.code).toBe(1);
	expect(torn.lines[1]).toMatchObject({
		title: null,
		why: expect.stringContaining('checksum'),
		rebuilds: true
	});
	expect(torn.lines.at(-2)).toMatchObject({
		read: 7,
		slots: 0,
		partial: [
			{ label: 'A01', missing: ['Layer 1'] },
			{ label: 'A02', missing: ['Layer 2', 'Layer 3', 'Layer 4', 'Effects'] }
		]
	});
	const faulty = JSON.parse(readFileSync(file, 'utf8')) as { areas: { addresses: object[] }[] };
	faulty.areas[0].addresses = [{ from: 0, base: '20 00 00' }];
	writeFileSync(join(folder, 'faulty.json'), JSON.stringify(faulty));
	expect(drawer('profile', 'check', 'faulty.json')).toMatchObject({
		code: 1,
		lines: [{ at: 'areas[0].addresses[0].stride' }]
	});
	writeFileSync(join(folder, 'no.json'), '{');
	expect(drawer('profile', 'check', 'no.json')).toMatchObject({
		errors: expect.stringContaining('is no JSON')
	});
	expect(drawer('profile', 'look', file).code).not.toBe(0);
});
