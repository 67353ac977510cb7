import {
	nothingHeld,
	readiness,
	sceneChange,
	setSchema,
	soundsOf,
	type FollowedSound
} from '../src/lib/core/scene';
import { between, seededRandom } from '../src/lib/core/bench';
import { planLoads } from '../src/lib/core/scene/load-plan';
import { mixedStudio } from '../src/lib/core/plan/mixed-studio.fixture';
import { readRig } from '../src/lib/core/rig';
import { sceneWays } from '../src/lib/core/scene';
import type { Row } from './bench-rows';
import { collect } from './collect';

const INSTRUMENTS = 40;
const SCENES = 60;
const SONGS = 40;

/** A stage of forty instruments on a cabled studio, every scene with sounds of its own on all of them. */
function stage() {
	const { rig } = readRig(mixedStudio(INSTRUMENTS, 16, 1));
	const devices = rig.devices.filter(({ kind }) => !/interface|computer/.test(kind)).slice(0, INSTRUMENTS);
	const instruments = devices.map(({ id, name }, i) => ({
		id: `i${i}`,
		name,
		device: id,
		loadMs: 20 + (i % 7) * 5
	}));
	const zones = instruments.map(({ id, name }, i) => ({
		id: `z${i}`,
		name,
		player: 'p',
		keys: [i, 127 - i],
		to: [{ instrument: id, channel: (i % 16) + 1 }]
	}));
	const record = (n: number) => n.toString(16).padStart(64, '0');
	const scenes = Array.from({ length: SCENES }, (_, s) => ({
		number: s + 1,
		name: `Scene ${s + 1}`,
		zones,
		parts: instruments.map(({ id }, i) => ({
			instrument: id,
			channel: (i % 16) + 1,
			volume: 50 + ((s * 7 + i) % 50),
			sound: {
				name: `Sound ${s} ${i}`,
				msb: s % 2,
				lsb: i % 3,
				program: (s * 11 + i) % 128,
				from: 'drawer',
				kept: { area: 'programs', index: (s * 11 + i) % 128, record: record(s * 100 + i) }
			}
		}))
	}));
	const songs = Array.from({ length: SONGS }, (_, n) => ({
		id: `s${n}`,
		name: `Song ${n}`,
		scenes: [n + 1, ((n * 7) % SCENES) + 1],
		pauseSeconds: 5
	}));
	const set = setSchema.parse({
		setup: { players: [{ id: 'p', name: 'Keys', device: devices[0].id }], instruments, zones },
		scenes,
		songs
	});
	const sounds = soundsOf(set).map((named): FollowedSound => ({
		...named,
		followed: {
			is: 'there',
			slot: {
				...named.sound.kept!,
				label: '1',
				name: named.sound.name,
				state: 'proved',
				at: '2026-01-01T00:00:00.000Z',
				select: named.sound
			}
		}
	}));
	return { set, sounds, rig };
}

/** Scene changes and readiness of a stage as large as the field's. */
export function scene(row: Row): void {
	const { set, sounds, rig } = stage();
	collect();
	const times: number[] = [];
	let held = nothingHeld;
	let messages = 0;
	for (const to of [...set.scenes, ...set.scenes]) {
		const begun = performance.now();
		const change = sceneChange(set, held, to);
		times.push(performance.now() - begun);
		held = change.held;
		messages += change.messages.length;
	}
	times.sort((a, b) => a - b);
	row(
		`Scene change, ${set.setup.instruments.length} instruments, ${SCENES} scenes`,
		`p50 ${times[Math.floor(times.length / 2)].toFixed(1)} ms`,
		`p95 ${times[Math.floor(times.length * 0.95)].toFixed(1)} ms, worst ${times.at(-1)!.toFixed(1)} ms, ${Math.round(messages / times.length)} messages each; aim 10 ms`
	);
	const begun = performance.now();
	const { items, steps } = readiness(set, sounds, sceneWays(rig));
	row(
		`Readiness, ${SONGS} songs, ${steps.length} changes`,
		`${Math.round(performance.now() - begun)} ms`,
		`${items.length} items; aim 500 ms`
	);
	loads(row);
}

/** Loads of instruments that hold less than the songs want, for sets made at random. */
function loads(row: Row): void {
	for (const [sounds, slots, perSong] of [
		[30, 8, 3],
		[60, 16, 4],
		[40, 32, 6]
	]) {
		const times: number[] = [];
		let fewest = 0;
		for (let seed = 1; seed <= 20; seed++) {
			const random = seededRandom(seed);
			const songs = Array.from(
				{ length: SONGS },
				() => new Set(Array.from({ length: perSong }, () => String(between(random, 1, sounds))))
			);
			const memory = new Map(Array.from({ length: slots }, (_, i) => [`slot ${i}`, null]));
			const begun = performance.now();
			const plan = planLoads({ songs, slots: memory, home: new Map() });
			times.push(performance.now() - begun);
			if ('fewest' in plan && plan.fewest) fewest++;
		}
		times.sort((a, b) => a - b);
		row(
			`Loads, ${SONGS} songs, ${sounds} sounds, ${slots} slots`,
			`p50 ${Math.round(times[10])} ms`,
			`worst ${Math.round(times.at(-1)!)} ms, ${fewest} of 20 shown to be the fewest`
		);
	}
}
