import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve } from '../e2e/server-process';
import { BenchLine, between, factoryState, inventName, seededRandom, tweak } from '../src/lib/core/bench';
import { groupFamilies, mergeSlots, type Family, type Patch } from '../src/lib/core/drawer';
import { deviceSchema } from '../src/lib/core/gear';
import { wireMs } from '../src/lib/core/midi';
import { areaOf, makeSlot, messagesFor, type Profile } from '../src/lib/core/profile';
import {
	VirtualClock,
	capture,
	converse,
	planBackup,
	planCapture,
	runLanes,
	slotsInScope,
	type CaptureOutcome
} from '../src/lib/core/transfer';
import { kindOf, meaning } from '../src/lib/ui/monitor-words';
import { openStudio, type Studio } from '../src/lib/server/db/connection';
import { keepVersion, listVersions } from '../src/lib/server/drawer';
import { findSounds } from '../src/lib/server/find';
import { addDevice } from '../src/lib/server/gear';
import { hashOf } from '../src/lib/server/hash';
import { inSteps } from '../src/lib/server/in-steps';
import { kindOf as kindOfSound } from '../src/lib/server/store/records';
import { run } from '../src/lib/server/store/sql';
import { numbersOf } from '../src/lib/server/store/words';
import { shippedProfile, shippedProfiles } from '../src/lib/server/profiles';
import { n, type Row } from './bench-rows';
import { measured } from './bench-waiting';

const percentile = (times: number[], share: number) =>
	times.toSorted((a, b) => a - b)[Math.floor(times.length * share)];

async function timed(times: number, work: (i: number) => Promise<unknown>): Promise<number[]> {
	const measured: number[] = [];
	for (let i = 0; i < times; i++) {
		const start = performance.now();
		await work(i);
		measured.push(performance.now() - start);
	}
	return measured.slice(5);
}

/** 40 devices on 8 ports, on the virtual clock, against what the busiest wire needs. */
function wholeStudio(row: Row): void {
	const clock = new VirtualClock();
	const models = ['vellbrook-orrery', 'tarnow-parallax', 'ternhill-umbra'].map(shippedProfile);
	const lines = Array.from({ length: 8 }, (_, i) => new BenchLine(`Port ${i + 1}`, clock, seededRandom(i)));
	const units = Array.from({ length: 40 }, (_, i) => {
		const profile = models[i % models.length];
		const state = factoryState(profile, seededRandom(i + 50));
		state.settings.deviceId = 1 + Math.floor(i / 8);
		const line = lines[i % 8];
		const unit = line.attach(profile, state);
		return { id: String(i), profile, line, unit, deviceId: unit.deviceId };
	});
	const plan = planBackup(
		units.map(({ id, profile, line }) => ({
			id,
			name: id,
			place: '',
			ports: [line.name],
			profile,
			past: []
		})),
		[]
	);
	const bounds = new Map<string, number>();
	const bare = new Map<string, number>();
	for (const { profile, line, unit } of units) {
		const { asks } = planCapture(profile, slotsInScope(profile, { kind: 'all' }));
		const bytes = asks.reduce((sum, { requestBytes, replyBytes }) => sum + requestBytes + replyBytes, 0);
		const gaps = asks.reduce((sum, { way }) => sum + way.gapMs, 0);
		bare.set(line.name, (bare.get(line.name) ?? 0) + wireMs(bytes) + gaps);
		// A device's own gaps: the rests of its profile, and the time that it takes to find each answer.
		const thinking = asks.length * unit.manners.thinkMs;
		bounds.set(line.name, (bounds.get(line.name) ?? 0) + wireMs(bytes) + gaps + thinking);
	}
	const bound = Math.max(...bounds.values());
	const wireAlone = Math.max(...bare.values());
	let ended = false;
	let complete = 0;
	const start = performance.now();
	runLanes(
		plan.jobs,
		({ id }, over) => {
			const { profile, line, deviceId } = units[Number(id)];
			converse<CaptureOutcome>(
				capture({ profile, target: { deviceId, channel: 1 }, scope: { kind: 'all' } }, () => undefined),
				{ link: line, clock, trace: () => undefined, keep: (_, kept) => kept() },
				({ status }) => {
					if (status === 'complete') complete++;
					over();
				}
			);
		},
		() => (ended = true)
	);
	clock.run(() => ended);
	row(
		'Whole studio: 40 devices on 8 ports, s on the wire',
		n(clock.now() / 1000),
		`lower bound ${n(bound / 1000, 2)} s: ${n((clock.now() / bound) * 100)} % (without the devices’ time to answer ${n(wireAlone / 1000, 2)} s: ${n((clock.now() / wireAlone) * 100)} %); predicted ${n(plan.predictedMs / 1000)} s; ${complete} of 40 complete; simulated in ${n((performance.now() - start) / 1000)} s`
	);
}

/** 100,000 sounds of which every third is a near copy of another. */
async function grouping(row: Row): Promise<void> {
	const profile = shippedProfile('tarnow-parallax');
	const [{ id: area }] = profile.areas;
	const random = seededRandom(8);
	const patches: Patch[] = [];
	while (patches.length < 100_000)
		for (const bytes of factoryState(profile, seededRandom(patches.length + 1)).memory[area]) {
			const source = patches.length % 3 === 2 ? patches[between(random, 0, patches.length - 1)].bytes : null;
			patches.push({
				key: String(patches.length),
				bytes: source ? tweak(profile, area, source, random) : bytes
			});
			if (patches.length === 100_000) break;
		}
	let families: Family[] = [];
	const { ms, blocked } = await measured(async () => {
		families = await inSteps(groupFamilies(profile, area, patches));
	}, 1);
	row(
		'Grouping 100,000 sounds into look-alikes, s',
		n(ms / 1000, 2),
		`${families.length.toLocaleString('en')} families; kept others waiting ${n(blocked)} ms`
	);
}

function merging(row: Row, profile: Profile): void {
	const random = seededRandom(9);
	const base = factoryState(profile, random).memory.programs.map((bytes, i) =>
		makeSlot(profile, 'programs', i, bytes)
	);
	const side = () =>
		base.map((slot, i) =>
			between(random, 0, 3) === 0
				? makeSlot(profile, 'programs', i, tweak(profile, 'programs', slot.bytes, random))
				: slot
		);
	const [device, drawer] = [side(), side()];
	let least = Infinity;
	let conflicts = 0;
	for (let i = 0; i < 7; i++) {
		const start = performance.now();
		conflicts = mergeSlots(profile, base, device, drawer).filter(({ state }) => state === 'conflict').length;
		least = Math.min(least, performance.now() - start);
	}
	row('Merging a bank of 128 slots, ms', n(least), `${conflicts} conflicts`);
}

function monitor(row: Row): void {
	const profiles = shippedProfiles();
	const random = seededRandom(10);
	const messages = Array.from({ length: 60_000 }, (_, i) =>
		i % 40 === 0
			? Uint8Array.of(0xf0, 0x7e, between(random, 0, 126), 0x06, 0x01, 0xf7)
			: Uint8Array.of(0x90 + (i % 16), between(random, 0, 127), between(random, 0, 127))
	);
	const start = performance.now();
	for (const bytes of messages) {
		kindOf(bytes);
		meaning(profiles, bytes);
	}
	const spent = (performance.now() - start) / 1000;
	row(
		'Monitor: messages decoded and sorted, per second',
		n(messages.length / spent, 0),
		`3,000 are asked for: ${n(messages.length / spent / 3000, 0)} ×`
	);
}

/** A studio with 100,000 sounds in its drawers, of which one drawer holds 2,000 versions. */
async function searching(row: Row): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'drawer-heart-'));
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	const profile = shippedProfile('ternhill-umbra');
	const random = seededRandom(11);
	const device = await addDevice(
		studio,
		deviceSchema.parse({ name: 'Umbra', profileId: profile.id, deviceId: 0 })
	);
	await drawerOf(studio, device, profile, random);
	const [first] = await listVersions(studio, device.id);
	const record = profile.records[areaOf(profile, 'programs').record];
	// Sounds with names of their own, each a while in a slot; their contents do not matter here.
	const sounds = Array.from({ length: 100_000 }, (_, i) => {
		const name = inventName(profile, record, random);
		return [
			name,
			name.toLowerCase(),
			hashOf(Buffer.from(`${name}${i}`)),
			i % 50,
			Date.UTC(2018, 0, 1) + i * 1_000_000
		];
	});
	await studio.write(async (transaction) => {
		const number = await numbersOf(
			studio,
			[device.id, 'programs', '1', 'hardware', kindOfSound(profile.id, 'programs')],
			transaction
		);
		const given = [JSON.stringify(sounds)];
		const step = (sql: string, values = given) => run(studio, sql, values, transaction);
		await step(
			'INSERT OR IGNORE INTO names (name, folded) SELECT value ->> 0, NULLIF(value ->> 1, lower(value ->> 0)) FROM json_each(?)'
		);
		await step(`INSERT INTO records (kind, hash, name, form, place, data)
			SELECT ${number(kindOfSound(profile.id, 'programs'))}, unhex(value ->> 2), (SELECT id FROM names WHERE name = value ->> 0), 0, 0, x'00' FROM json_each(?)`);
		await step(
			`INSERT INTO slot_runs (device, world, area, slot, label, record, version, fromAt, toAt, current)
			 SELECT ${number(device.id)}, ${number('hardware')}, ${number('programs')}, j.value ->> 3, ${number('1')}, k.id,
				(SELECT seq FROM versions WHERE id = ?2), j.value ->> 4, j.value ->> 4, 0
			 FROM json_each(?1) j CROSS JOIN records k ON substr(k.hash, 1, 6) = substr(unhex(j.value ->> 2), 1, 6) AND k.hash = unhex(j.value ->> 2)`,
			[...given, first.id]
		);
	});
	const words = ['slow', 'moon', 'deep pad', 'far', 'iron', 'e', 'dusk arc', 'zzz', 'orbit', 'ha'];
	const times = await timed(85, (i) => findSounds(studio, words[i % words.length]));
	row(
		'Search over 100,000 sounds by name',
		`p50 ${n(percentile(times, 0.5))} ms`,
		`p95 ${n(percentile(times, 0.95))} ms`
	);
	await studio.close();
	const server = await serve(5396, folder);
	try {
		const pages = await timed(45, async () => (await fetch(`${server.url}/gear/${device.id}/drawer`)).text());
		row(
			'Opening a drawer of 2,000 versions',
			`p50 ${n(percentile(pages, 0.5))} ms`,
			`p95 ${n(percentile(pages, 0.95))} ms`
		);
	} finally {
		await server.kill();
	}
	rmSync(folder, { recursive: true, force: true });
}

async function drawerOf(
	studio: Studio,
	device: Awaited<ReturnType<typeof addDevice>>,
	profile: Profile,
	random: () => number
): Promise<void> {
	const { programs } = factoryState(profile, random).memory;
	studio.now = () => new Date(Date.UTC(2017, 0, 1));
	for (let i = 0; i < 2000; i++) {
		const slot = between(random, 0, programs.length - 1);
		programs[slot] = tweak(profile, 'programs', programs[slot], random);
		await keepVersion(studio, {
			device,
			profile,
			messages: messagesFor(
				profile,
				programs.map((bytes, at) => makeSlot(profile, 'programs', at, bytes)),
				{ deviceId: 0, channel: 1 }
			),
			kind: 'routine',
			world: 'hardware',
			proof: 'checksum',
			takenAt: new Date(Date.UTC(2017, 0, 1) + i * 3_600_000).toISOString()
		});
	}
}

/** The dump heart: whole studios, look-alikes, merging, monitor, search, large drawers. */
export async function heart(row: Row, large: Profile): Promise<void> {
	wholeStudio(row);
	await grouping(row);
	merging(row, large);
	monitor(row);
	await searching(row);
}
