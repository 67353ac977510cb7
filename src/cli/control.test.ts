import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { assigned, mapOf } from '../lib/core/control/map.fixture';
import { joinBytes } from '../lib/core/midi';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'drawer-control-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function drawer(...words: string[]) {
	const result = spawnSync(process.execPath, ['scripts/drawer.mjs', ...words], {
		cwd: root,
		encoding: 'utf8',
		env: { ...process.env, DRAWER_DATA: folder, INIT_CWD: folder }
	});
	const lines = result.stdout.split('\n').filter(Boolean);
	return { code: result.status, lines: lines.map((line) => JSON.parse(line)), errors: result.stderr };
}
const write = (name: string, content: unknown) =>
	writeFileSync(join(folder, name), typeof content === 'string' ? content : JSON.stringify(content));

/** One track at 96 ticks a beat, its events by the tick. */
function midiFile(...events: number[][]): Uint8Array {
	const track = Uint8Array.from([...events.flat(), 0, 0xff, 0x2f, 0]);
	return joinBytes([
		Uint8Array.from([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96]),
		Uint8Array.from([0x4d, 0x54, 0x72, 0x6b, 0, 0, track.length >> 8, track.length & 255]),
		track
	]);
}

describe('learn', () => {
	it('prints a line for each control, in the order in which they spoke', () => {
		writeFileSync(
			join(folder, 'hands.mid'),
			midiFile(
				...[1, 1, 2, 127, 127].map((value) => [4, 0xb2, 20, value]),
				[96, 0x99, 36, 100],
				[10, 0x89, 36, 0],
				...[63, 64, 65, 66, 67].map((value) => [4, 0xb0, 7, value])
			)
		);
		const { code, lines } = drawer('learn', 'hands.mid');
		expect(code).toBe(0);
		expect(lines).toEqual([
			{
				control: 1,
				kind: 'relative',
				encoding: 'twos-complement',
				doubt: null,
				channel: 3,
				number: 20,
				messages: 5,
				low: -1,
				high: 2
			},
			{
				control: 2,
				kind: 'note',
				encoding: null,
				doubt: null,
				channel: 10,
				number: 36,
				messages: 2,
				low: 100,
				high: 100
			},
			{
				control: 3,
				kind: 'absolute',
				encoding: null,
				doubt: null,
				channel: 1,
				number: 7,
				messages: 5,
				low: 63,
				high: 67
			}
		]);
	});

	it('says what of a file it could not read, and refuses what is none', () => {
		writeFileSync(join(folder, 'cut.mid'), midiFile([0, 0xb0, 7, 1]).subarray(0, 24));
		expect(drawer('learn', 'cut.mid')).toMatchObject({ code: 1, errors: expect.stringContaining('cut.mid') });
		write('not.mid', 'hello');
		expect(drawer('learn', 'not.mid')).toMatchObject({ code: 1, lines: [] });
		expect(drawer('learn').errors).toContain('Usage: drawer learn FILE.mid');
	});
});

describe('fit-names', () => {
	it('prints short names with their cost', () => {
		write('names.txt', 'Filter Cutoff\r\nFilter Resonance\n\nVolume\n');
		const { code, lines } = drawer('fit-names', '--chars', '6', '--charset', 'upper', 'names.txt');
		expect(code).toBe(0);
		expect(lines[0]).toMatchObject({
			names: [
				{ name: 'Filter Cutoff', short: 'FILCUT' },
				{ name: 'Filter Resonance', short: 'FILRES' },
				{ name: 'Volume', short: 'VOLUME', cost: 0 }
			],
			proved: true
		});
		expect(lines[0].cost).toBe(
			lines[0].names.reduce((sum: number, { cost }: { cost: number }) => sum + cost, 0)
		);
	});

	it.each([['0'], ['1.5'], ['many'], ['65']])('refuses %s characters', (chars) => {
		write('names.txt', 'Volume\n');
		expect(drawer('fit-names', '--chars', chars, 'names.txt')).toMatchObject({ code: 1, lines: [] });
	});
});

describe('check-map and strips', () => {
	it('print what is wrong, and end with 1 where it is an error', () => {
		write('good.json', mapOf('osier-weir-9'));
		expect(drawer('check-map', 'good.json')).toMatchObject({ code: 0, lines: [[]] });
		write(
			'bad.json',
			mapOf('osier-weir-9', { pages: [{ number: 1, assignments: [assigned('fader-1', 'reset')] }] })
		);
		const { code, lines } = drawer('check-map', 'bad.json');
		expect(code).toBe(1);
		expect(lines[0]).toMatchObject([{ rule: 'channel-mode', severity: 'error' }]);
	});

	it('name each field of a map that is not as the format says', () => {
		write('broken.json', { ...mapOf('osier-weir-9'), reserved: [17], taste: 'good' });
		const broken = drawer('check-map', 'broken.json');
		expect(broken.code).toBe(1);
		expect(broken.errors).toContain('reserved[0]: expected at most 16, found 17');
		write('more.json', { ...mapOf('osier-weir-9'), taste: 'good' });
		expect(drawer('check-map', 'more.json').errors).toContain('taste is not a field of the format');
		write('none.json', '{');
		expect(drawer('check-map', 'none.json').errors).toContain('not JSON');
	});

	it('write the strips', () => {
		write('good.json', mapOf('osier-weir-9'));
		expect(drawer('strips', 'good.json', '--out', 'strips.svg').lines).toEqual([
			{ out: 'strips.svg', strips: 1 }
		]);
		expect(readFileSync(join(folder, 'strips.svg'), 'utf8')).toMatch(/^<svg .*Cutoff/s);
	});
});

describe('plan-pages', () => {
	it('prints a plan, and refuses a task that cannot be meant', () => {
		const task = {
			format: 'silent-drawer.page-task',
			version: 1,
			controls: ['a', 'b'],
			pages: { count: 2 },
			targets: [{ id: 'cut' }, { id: 'res' }, { id: 'mix' }],
			songs: [{ touches: ['cut', 'res', 'cut', 'mix'] }]
		};
		write('task.json', task);
		const { code, lines } = drawer('plan-pages', 'task.json');
		expect(code).toBe(0);
		expect(lines[0]).toMatchObject({
			proved: true,
			goals: [
				{ goal: 'unplaced', value: 0 },
				{ goal: 'presses', value: 1 },
				{ goal: 'scattered', value: 0 },
				{ goal: 'pages', value: 2 }
			]
		});
		write('task.json', { ...task, songs: [{ touches: ['cut', 'nothing'] }] });
		expect(drawer('plan-pages', 'task.json')).toMatchObject({
			code: 1,
			errors: expect.stringContaining('A song touches “nothing”, which is no target.')
		});
	});
});

describe('pedal and calibrate', () => {
	it('say what a jack reads and the verdict, and refuse kinds that there are not', () => {
		const { code, lines } = drawer('pedal', 'switches', 'ts', 'two-switches');
		expect(code).toBe(1);
		expect(lines[0].verdict).toMatchObject({ kind: 'one of two', says: 'Only left reaches the box.' });
		expect(lines[0].best).toMatchObject({ cable: 'trs', verdict: { kind: 'works' } });
		expect(lines[0].reads[0]).toEqual({
			at: [0, 0],
			reads: [
				{ contact: 'tip', level: 1 },
				{ contact: 'ring', level: 0 }
			]
		});
		expect(drawer('pedal', 'switches', 'own', 'two-switches').lines[0]).toMatchObject({
			reads: [],
			verdict: { kind: 'does not fit' }
		});
		expect(drawer('pedal', 'constructor', 'ts', 'knob').errors).toContain(
			'There is no jack “constructor”. Known are'
		);
	});

	it('find the ends in a recording, whose end is a rest, too', () => {
		// 192 ticks a second: a second at 7, up by steps of one, and a second at 107 that only the file's end shows.
		const up = Array.from({ length: 101 }, (_, i) => [i === 0 ? 0 : 3, 0xb0, 11, 7 + i]);
		up[1][0] = 120;
		const file = midiFile(...up, [0x81, 0x40, 0xff, 0x01, 0]);
		writeFileSync(join(folder, 'foot.mid'), file);
		const { code, lines } = drawer('calibrate', 'foot.mid', '--controller', '11');
		expect(lines[0]).toMatchObject({ heel: 7, toe: 107, noise: 1, falls: false, steps: 100, worn: [] });
		expect(code).toBe(0);
		expect(drawer('calibrate', 'foot.mid', '--controller', '12').errors).toContain('is not in the recording');
		expect(drawer('calibrate', 'foot.mid').errors).toContain('Usage: drawer calibrate');
		expect(drawer('calibrate', 'foot.mid', '--controller', '400').code).toBe(1);
	});
});

describe('power', () => {
	it('plans a power file, and of a wiring says that every label is to be read', () => {
		const nine = { volts: [9, 9], kind: 'DC', polarity: 'negative' };
		write('power.json', {
			format: 'silent-drawer.power',
			version: 1,
			loads: [{ id: 'a', name: 'A', ...nine, ma: 300 }],
			supplies: [
				{
					id: 's',
					name: 'Feed',
					outputs: [{ id: '1', name: '1', volts: [9], kind: 'DC', polarity: 'negative', ma: 320 }]
				}
			]
		});
		const { code, lines } = drawer('power', 'power.json');
		expect(code).toBe(0);
		// 300 and a fifth more are 360: the output does not carry that.
		expect(lines[0].plan.wants).toEqual([{ says: '9 V DC, centre negative, ≥ 360 mA', loads: ['a'] }]);
		expect(lines[0].plan.proved).toBe(true);
		const port = (id: string, direction: string) => ({ id, name: id, direction, connector: 'power' });
		write('power-rig.json', {
			format: 'silent-drawer.rig',
			version: 2,
			devices: [
				{ id: 'f', name: 'Feed', ports: [port('f.1', 'out')] },
				{ id: 'p', name: 'Pedal', ports: [port('p.in', 'in')] }
			],
			cables: [{ from: 'f.1', to: 'p.in' }]
		});
		expect(drawer('power', 'power-rig.json').lines[0]).toMatchObject({
			plan: { left: [{ load: 'p.in' }], steps: [] },
			findings: [{ rule: 'read-the-label' }]
		});
		write('power-null.json', 'null');
		expect(drawer('power', 'power-null.json').code).toBe(1);
	});
});

describe('procedure', () => {
	it('is checked, and run one act at a time; a gate is passed with a reason that stays on record', () => {
		write('clock.json', {
			format: 'silent-drawer.procedure',
			version: 1,
			id: 'clock',
			title: 'Clock check',
			about: 'device',
			back: 'Set the tempo back.',
			steps: [
				{ by: 'gate', id: 'there', title: 'Answers', says: 'x', holds: { is: 'answers', withinMinutes: 5 } },
				{ by: 'hand', id: 'turn', title: 'Turn the tempo', says: 'x' }
			]
		});
		expect(drawer('procedure', 'check', 'clock.json').lines[0].steps).toHaveLength(2);
		const run = (...words: string[]) =>
			drawer('procedure', 'run', 'clock.json', '--out', 'run.json', ...words);
		expect(run().lines[0]).toMatchObject({
			step: { id: 'there' },
			gate: expect.stringContaining('has not answered')
		});
		expect(run('--pass', 'there').code).toBe(1);
		expect(run('--done', 'turn').errors).toContain('It is the turn of “Answers”.');
		expect(run('--overrule', 'there', '--reason', 'It has no way back to us.').lines[0].step.id).toBe('turn');
		expect(run('--done', 'turn').lines[0]).toMatchObject({ step: null, over: 'done' });
		const { entries } = JSON.parse(readFileSync(join(folder, 'run.json'), 'utf8'));
		expect(entries.map(({ what }: { what: string }) => what)).toEqual(['overruled', 'done']);
		write('bad.json', {
			format: 'silent-drawer.procedure',
			version: 1,
			id: 'x',
			title: 'x',
			about: 'device',
			back: 'x',
			steps: []
		});
		expect(drawer('procedure', 'check', 'bad.json').code).toBe(1);
	});
});

describe('play', () => {
	it('prints who sounds, and what made no note, a line each', () => {
		write('setup.json', {
			format: 'silent-drawer.setup',
			players: [{ id: 'p', name: 'Upper' }],
			instruments: [{ id: 'm', name: 'Module', keys: [48, 127] }],
			zones: [
				{
					id: 'z',
					name: 'Lead',
					player: 'p',
					octaves: -1,
					colour: 'red',
					to: [{ instrument: 'm', channel: 2 }]
				}
			]
		});
		writeFileSync(
			join(folder, 'tune.mid'),
			midiFile([0, 0x90, 60, 100], [96, 0x80, 60, 0], [0, 0x90, 40, 100], [96, 0x80, 40, 0])
		);
		const { code, lines, errors } = drawer('play', 'setup.json', 'tune.mid');
		expect(code).toBe(1);
		expect(lines).toEqual([
			{ atMs: 0, untilMs: 500, instrument: 'm', channel: 2, note: 48, velocity: 100, cut: false },
			{ atMs: 500, player: 'p', key: 40, zone: 'z', instrument: 'm', why: 'out of its range' }
		]);
		expect(errors).toContain('zones[0].colour is not a field of the format and was ignored.');
	});

	it('refuses a setup that is none, naming the field', () => {
		write('setup.json', { zones: [{ id: 'z', name: 'Lead', player: 'p', keys: [60, 20] }] });
		const { code, lines, errors } = drawer('play', 'setup.json', 'tune.mid');
		expect([code, lines]).toEqual([1, []]);
		expect(errors).toContain('The lower one first: from, then to.');
	});
});

describe('scene-change', () => {
	const part = (program: number) => ({
		instrument: 'm',
		channel: 2,
		sound: { name: 'Glass', program, msb: 1 }
	});
	const scene = (number: number, name: string, program: number) => ({
		number,
		name,
		zones: [{ id: 'z', name: 'Lead', player: 'p', to: [{ instrument: 'm', channel: 2 }] }],
		parts: [part(program)]
	});
	const set = (more: object = {}) => ({
		format: 'silent-drawer.set',
		setup: {
			players: [{ id: 'p', name: 'Upper' }],
			instruments: [{ id: 'm', name: 'Module', loadMs: 20, ...more }]
		},
		scenes: [scene(1, 'Doors', 4), scene(2, 'Comets', 5)]
	});

	it('prints the fewest messages with their times, from nothing or from another scene', () => {
		write('set.json', set());
		const first = drawer('scene-change', 'set.json', '--to', 'doors');
		expect(first.code).toBe(0);
		expect(first.lines[0]).toMatchObject({
			messages: [
				{ purpose: 'bank', bytes: 'b1 00 01', atMs: 0 },
				{ purpose: 'program', bytes: 'c1 04', atMs: 0.96 }
			],
			readyMs: 21.6
		});
		const next = drawer('scene-change', 'set.json', '--from', '1', '--to', '2');
		expect(next.lines[0]).toMatchObject({ messages: [{ bytes: 'c1 05' }] });
	});

	it('writes them to a file that plays them, or as bytes, and refuses another ending', () => {
		write('set.json', set());
		expect(drawer('scene-change', 'set.json', '--to', '1', '--out', 'one.syx').code).toBe(0);
		expect(readFileSync(join(folder, 'one.syx')).toString('hex')).toBe('b10001c104');
		expect(drawer('scene-change', 'set.json', '--to', '1', '--out', 'one.mid').code).toBe(0);
		const expects = drawer('expects', 'one.mid');
		expect([expects.code, expects.lines[0]]).toMatchObject([
			0,
			{ channels: [{ channel: 2, programs: [{ msb: 1, program: 4 }], notes: 0 }], turnsOn: null }
		]);
		const { code, errors } = drawer('scene-change', 'set.json', '--to', '1', '--out', 'one.txt');
		expect(code).not.toBe(0);
		expect(errors).toContain('Usage: drawer scene-change');
	});

	it('says which scene there is none of, and what is not sent', () => {
		write('set.json', set({ away: true }));
		const { code, lines } = drawer('scene-change', 'set.json', '--to', '1');
		expect([code, lines[0]]).toMatchObject([1, { messages: [], unreached: [{ why: 'away', messages: 2 }] }]);
		expect(drawer('scene-change', 'set.json', '--to', '7').errors).toContain('The set has no scene “7”.');
		expect(drawer('scene-change', 'set.json').code).not.toBe(0);
	});
});
