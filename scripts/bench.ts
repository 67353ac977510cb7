import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseMidi } from 'midi-file';
import { firstView } from '../e2e/first-view';
import { serve } from '../e2e/server-process';
import { control } from './bench-control';
import { eyes } from './bench-eyes';
import { heart } from './bench-heart';
import { profiles } from './bench-profile';
import { power } from './bench-power';
import { scene } from './bench-scene';
import { scale } from './bench-scale';
import { store } from './bench-store';
import { wiring } from './bench-wiring';
import { BenchStation, factoryState, seededRandom, tweak, between } from '../src/lib/core/bench';
import { compareSlots } from '../src/lib/core/drawer';
import { deviceSchema } from '../src/lib/core/gear';
import { joinBytes, readMidiFile, sysexOfMidiFile, wireMs, writeSysexMidiFile } from '../src/lib/core/midi';
import { layoutOf, makeSlot, messagesFor, parseProfile, type Profile } from '../src/lib/core/profile';
import { frameAll } from '../src/lib/core/sysex';
import {
	VirtualClock,
	capture,
	captureCost,
	converse,
	planCapture,
	slotsInScope,
	type CaptureOutcome
} from '../src/lib/core/transfer';
import { openStudio } from '../src/lib/server/db/connection';
import { keepVersion } from '../src/lib/server/drawer';
import { addDevice } from '../src/lib/server/gear';
import { shippedProfiles } from '../src/lib/server/profiles';
import { n } from './bench-rows';

const VERSIONS = Number(process.env.BENCH_VERSIONS ?? 10_000);
const DEVICES = 60;
const PAGES_AT = Math.min(5000, VERSIONS);

const rows: [string, string, string][] = [];
const row = (what: string, figure: string, beside = '') => {
	rows.push([what, figure, beside]);
	console.log(`${what.padEnd(52)} ${figure.padStart(16)}  ${beside}`);
};
const best = (work: () => void, runs = 7): number => {
	let least = Infinity;
	for (let i = 0; i < runs; i++) {
		const start = performance.now();
		work();
		least = Math.min(least, performance.now() - start);
	}
	return least;
};

/** An instrument with 128 programs of 256 bytes, 32 KiB of memory: larger than any that ships. */
function largeProfile(): Profile {
	const json = JSON.parse(JSON.stringify(shippedProfiles().find(({ id }) => id === 'vellbrook-orrery')));
	json.id = 'bench-large';
	json.areas[0] = { ...json.areas[0], slots: 128, labels: { style: 'number', first: 1, digits: 3 } };
	json.records.program.size = 256;
	json.messages['bank-dump'].parts[3].records = 128;
	return parseProfile(json);
}

function framing(): void {
	const random = seededRandom(1);
	const message = () =>
		Uint8Array.of(
			0xf0,
			0x7d,
			...Array.from({ length: between(random, 20, 9000) }, () => between(random, 0, 127)),
			0xf7
		);
	const messages = Array.from({ length: 2000 }, message);
	const bytes = joinBytes(messages);
	const mib = bytes.length / 1e6;
	const copy = best(() => void bytes.slice());
	const frame = best(() => void frameAll(bytes));
	const file = writeSysexMidiFile(messages);
	const ours = best(() => void sysexOfMidiFile(readMidiFile(file)));
	const theirs = best(() => void parseMidi(file), 3);
	row(
		'Framer, MB/s',
		n(mib / (frame / 1000), 0),
		`plain copy of the same bytes ${n(mib / (copy / 1000), 0)} MB/s: ${n(frame / copy, 1)} × the time`
	);
	row(
		'Reading the same as a .mid file, MB/s',
		n(mib / (ours / 1000), 0),
		`midi-file (npm) ${n(mib / (theirs / 1000), 0)} MB/s: ${n(theirs / ours, 1)} × as fast`
	);
}

function wire(): void {
	for (const profile of shippedProfiles().filter((entry) => entry.capture.length > 0)) {
		const clock = new VirtualClock();
		const station = new BenchStation('bench', profile, factoryState(profile, seededRandom(3)), clock);
		let outcome: CaptureOutcome | null = null;
		let begun = 0;
		converse(
			capture(
				{
					profile,
					target: { deviceId: profile.addressing.deviceId?.default ?? 0, channel: 1 },
					scope: { kind: 'all' },
					identified: true
				},
				(event) => {
					if (event.event === 'hands') {
						begun = clock.now();
						station.unit.dump();
					}
				}
			),
			{ link: station, clock, trace: () => undefined, keep: (_, kept) => kept() },
			(result) => (outcome = result)
		);
		clock.run(() => outcome !== null);
		const took = clock.now() - begun;
		const { asks } = planCapture(profile, slotsInScope(profile, { kind: 'all' }));
		const { bytes } = captureCost(asks);
		const think = station.unit.manners.thinkMs;
		// What the device itself costs: it thinks before each answer, rests between messages, hears each request first, and wants its acknowledgements.
		const messages = asks.reduce((sum, ask) => sum + ask.firsts.length, 0);
		const panel = asks[0].way.start.by === 'panel';
		const device = panel
			? think + 60 * (messages - 1)
			: asks.reduce(
					(sum, ask) =>
						sum +
						think +
						wireMs(ask.requestBytes) +
						(ask.way.confirm ? wireMs(layoutOf(profile, ask.way.confirm.good).length) : 0),
					0
				);
		const share = wireMs(bytes) / took;
		row(
			`Capture of ${profile.model} (${bytes.toLocaleString('en')} bytes), share of the wire`,
			`${n(share * 100)} %`,
			`${n(((wireMs(bytes) + device) / took) * 100)} % of what its own ${n(device, 0)} ms of pauses and requests allow`
		);
	}
}

function comparing(profile: Profile): void {
	const random = seededRandom(4);
	const { memory } = factoryState(profile, random);
	const before = memory.programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes));
	const shuffled = before.map(({ bytes }, i) =>
		i % 3 === 0 ? tweak(profile, 'programs', bytes, random) : bytes
	);
	for (let i = 0; i < 60; i++) {
		const [a, b] = [between(random, 0, 127), between(random, 0, 127)];
		[shuffled[a], shuffled[b]] = [shuffled[b], shuffled[a]];
	}
	const after = shuffled.map((bytes, i) => makeSlot(profile, 'programs', i, bytes));
	row(
		'Comparing two banks of 128 slots, ms',
		n(best(() => void compareSlots(profile, before, after))),
		'60 moves and 43 edits between them'
	);
}

async function storing(profile: Profile): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'drawer-bench-'));
	const file = join(folder, 'studio.sqlite');
	const studio = await openStudio(file);
	const random = seededRandom(6);
	const names = ['Ash', 'Birch', 'Cedar', 'Dune', 'Elm', 'Fern'];
	const gear: { device: Awaited<ReturnType<typeof addDevice>>; memory: Record<string, Uint8Array[]> }[] = [];
	for (let i = 0; i < DEVICES; i++) {
		const facts = deviceSchema.parse({
			name: `${names[i % names.length]} ${i + 1}`,
			maker: 'Vellbrook',
			model: 'Large',
			place: ['Desk', 'Rack', 'Floor'][i % 3],
			deviceId: 0
		});
		gear.push({ device: await addDevice(studio, facts), memory: factoryState(profile, random).memory });
	}
	let raw = 0;
	let spent = 0;
	let day = 0;
	studio.now = () => new Date(Date.UTC(2016, 0, 1) + day * 20_000_000);
	for (let version = 0; version < VERSIONS; version++) {
		day = version;
		const { device, memory } = gear[version % DEVICES];
		for (let edits = between(random, 1, 3); edits > 0; edits--) {
			const slot = between(random, 0, 127);
			memory.programs[slot] = tweak(profile, 'programs', memory.programs[slot], random);
		}
		const messages = messagesFor(
			profile,
			memory.programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes)),
			{ deviceId: 0 }
		);
		raw += messages[0].length;
		const start = performance.now();
		await keepVersion(studio, {
			device,
			profile,
			messages,
			kind: 'routine',
			world: 'hardware',
			proof: 'checksum'
		});
		spent += performance.now() - start;
		if (version + 1 === PAGES_AT) {
			await studio.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
			await pages(folder, gear[0].device.id);
		}
	}
	await studio.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
	const disk = statSync(file).size;
	await studio.close();
	row(
		`Storing ${VERSIONS.toLocaleString('en')} versions of 37 kB dumps, versions/s`,
		n(VERSIONS / (spent / 1000), 0),
		'each in a transaction of its own, synchronous=FULL'
	);
	row('Bytes on disk', `${n(disk / 1e6, 0)} MB`, `raw sum ${n(raw / 1e6, 0)} MB: ${n((disk / raw) * 100)} %`);
	rmSync(folder, { recursive: true, force: true });
}

async function pages(folder: string, device: string): Promise<void> {
	const server = await serve(5397, folder);
	try {
		for (const [name, path] of [
			['Today', '/'],
			['Gear', '/gear'],
			['Drawer', `/gear/${device}/drawer`],
			['Find', '/sounds?q=slow'],
			['Transfers', '/transfers']
		]) {
			const times: number[] = [];
			for (let i = 0; i < 45; i++) {
				const start = performance.now();
				const response = await fetch(server.url + path);
				await response.text();
				if (!response.ok) throw new Error(`${path}: ${response.status}`);
				if (i >= 5) times.push(performance.now() - start);
			}
			times.sort((a, b) => a - b);
			row(
				`Page ${name}, ${DEVICES} devices, ${PAGES_AT.toLocaleString('en')} versions`,
				`p50 ${n(times[20])} ms`,
				`p95 ${n(times[38])} ms`
			);
		}
		const scripts = await firstView(server.url);
		const bytes = [...scripts.values()].reduce((sum, size) => sum + size, 0);
		row(
			'JavaScript for the first view, gzipped',
			`${n(bytes / 1000)} kB`,
			`${scripts.size} files, aim 95 kB`
		);
	} finally {
		await server.kill();
	}
}

console.log(`Node ${process.version}, ${new Date().toISOString().slice(0, 10)}\n`);
/** `npm run bench -- heart` or `-- store` measures that part alone. */
const only = process.argv[2];
const wanted = (part: string) => only === undefined || only === part;
const large = largeProfile();
// The services know it as they know the profiles that ship.
shippedProfiles().push(large);
if (wanted('core')) {
	framing();
	wire();
}
if (wanted('core') || wanted('heart')) comparing(large);
if (wanted('core') || wanted('profile')) profiles(row);
if (wanted('wiring')) await wiring(row);
if (wanted('power')) await power(row);
if (wanted('scene')) scene(row);
if (wanted('heart')) await heart(row, large);
if (wanted('store')) await store(row, large, VERSIONS);
if (wanted('scale')) await scale(row, 200, 100);
if (wanted('pages')) await storing(large);
if (wanted('eyes')) await eyes(row);
if (wanted('control')) await control(row);
