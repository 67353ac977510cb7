import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { between, factoryState, seededRandom, tweak } from '../bench';
import { contentHash, lifeNear, lifeOf, lineageOf, type Stay, type StaySource } from '.';

const profile = profileNamed('ternhill-umbra');
const SLOTS = 6;
const DEVICES = ['hall', 'stage'];

/** A studio of two small devices over some versions: edits, moves, copies to the other device, things brought back. */
function history(seed: number, versions: number): { stays: Stay[]; contents: Map<string, Uint8Array> } {
	const random = seededRandom(seed);
	const contents = new Map<string, Uint8Array>();
	const keep = (bytes: Uint8Array) => {
		const hash = contentHash(bytes);
		contents.set(hash, bytes);
		return hash;
	};
	const first = factoryState(profile, random).memory.programs;
	const memory = DEVICES.map((_, d) => first.slice(d * SLOTS, (d + 1) * SLOTS).map(keep));
	const stays: Stay[] = [];
	const current = new Map<string, Stay>();
	for (let version = 0; version < versions; version++) {
		const d = version < DEVICES.length ? version : between(random, 0, DEVICES.length - 1);
		const own = memory[d];
		for (let acts = between(random, 1, 4); version >= DEVICES.length && acts > 0; acts--) {
			const [a, b] = [between(random, 0, SLOTS - 1), between(random, 0, SLOTS - 1)];
			const edited = () => keep(tweak(profile, 'programs', contents.get(own[a])!, random));
			const act = between(random, 0, 5);
			if (act === 0) [own[a], own[b]] = [own[b], own[a]];
			else if (act === 1) own[b] = own[a];
			else if (act === 2) own[b] = edited();
			else if (act === 3) own[a] = memory[1 - d][b];
			else if (act === 4 && stays.length > 0) own[a] = stays[between(random, 0, stays.length - 1)].record;
			else own[a] = edited();
		}
		const at = new Date(Date.UTC(2026, 0, 1 + version)).toISOString();
		own.forEach((record, slot) => {
			const key = `${d} ${slot}`;
			const before = current.get(key);
			if (before?.record === record) return;
			if (before) before.toAt = at;
			const stay: Stay = {
				id: stays.length + 1,
				deviceId: DEVICES[d],
				area: 'programs',
				slot,
				label: String(slot),
				name: null,
				record,
				versionId: `v${version}`,
				fromAt: at,
				toAt: null,
				imported: false
			};
			stays.push(stay);
			current.set(key, stay);
		});
	}
	return { stays, contents };
}

/** The source that looks every question up in the whole list, and counts what it gave. */
function sourceOf(stays: readonly Stay[], contents: ReadonlyMap<string, Uint8Array>) {
	const given = new Set<number>();
	const give = (test: (stay: Stay) => boolean) => {
		const found = stays.filter(test);
		for (const { id } of found) given.add(id);
		return Promise.resolve(found);
	};
	const sameSlot = (a: Stay, b: Stay) => a.deviceId === b.deviceId && a.slot === b.slot;
	const source: StaySource = {
		ofRecords: (records) => give(({ record }) => records.includes(record)),
		histories: (of) => give((stay) => of.some((each) => sameSlot(stay, each))),
		besides: (of) => give(({ versionId }) => of.some((each) => each.versionId === versionId)),
		before: (of) => give((stay) => of.some((each) => sameSlot(stay, each) && stay.toAt === each.fromAt)),
		bytes: (records) => Promise.resolve(new Map(records.map((record) => [record, contents.get(record)!])))
	};
	return { source, given };
}

/** All stays that hang together with those of a content, by the origin of every single one. */
function connected(
	stays: readonly Stay[],
	contents: ReadonlyMap<string, Uint8Array>,
	record: string
): number[] {
	const { origin } = lineageOf(profile, stays, (of) => contents.get(of));
	const links = stays.flatMap((stay) => {
		const { from } = origin(stay);
		return from ? [[stay.id, from.id]] : [];
	});
	const found = new Set(stays.filter((stay) => stay.record === record).map(({ id }) => id));
	for (let before = -1; before !== found.size;) {
		before = found.size;
		for (const [a, b] of links) if (found.has(a) || found.has(b)) found.add(a).add(b);
	}
	return [...found].sort((a, b) => a - b);
}

describe('the life of a sound, looked up as far as it bears on it', () => {
	it('is that which is found by reading every stay', async () => {
		let least = 1;
		await fc.assert(
			fc.asyncProperty(
				fc.integer({ min: 1, max: 1e6 }),
				fc.integer({ min: 3, max: 16 }),
				async (seed, versions) => {
					const { stays, contents } = history(seed, versions);
					for (const record of new Set(stays.map((stay) => stay.record))) {
						const { source, given } = sourceOf(stays, contents);
						const near = await lifeNear(profile, record, source);
						expect(near.stays.map(({ id }) => id).sort((a, b) => a - b)).toEqual(
							connected(stays, contents, record)
						);
						expect(near).toEqual(lifeOf(profile, stays, record, (of) => contents.get(of)));
						least = Math.min(least, given.size / stays.length);
					}
				}
			),
			{ numRuns: 60 }
		);
		// Otherwise nothing would have been spared, and nothing shown.
		expect(least).toBeLessThan(0.7);
	});
});
