import fc from 'fast-check';
import { expect, it } from 'vitest';
import { between, seededRandom, tweak } from '../../core/bench';
import { makeSlot, type Slot } from '../../core/profile';
import { listVersions, openVersion } from '../drawer';
import { hashOf } from '../hash';
import { anUmbra, keep } from '../heart.fixture';
import { count, freshStudio } from '../studio.fixture';
import { consequences, letGo } from './retention';
import { all } from './sql';

const here = freshStudio();
const SLOTS = 50;

/** A device whose versions hold all of its slots or a part of them, read or from files, with edits in between. */
async function history(seed: number, versions: number) {
	const { profile, device, slots } = await anUmbra(here.studio, `Hall ${seed}`, 5 + (seed % 40));
	const random = seededRandom(seed);
	const memory: Slot[] = slots.slice(0, SLOTS);
	const kept: { id: string; slots: Slot[]; world: 'hardware' | 'file'; takenAt: string }[] = [];
	for (let i = 0; i < versions; i++) {
		for (let edits = between(random, 0, 4); edits > 0; edits--) {
			const at = between(random, 0, 5);
			memory[at] = makeSlot(profile, 'programs', at, tweak(profile, 'programs', memory[at].bytes, random));
		}
		const from = between(random, 0, 3);
		// Single programs travel by themselves; the whole bank as one message.
		const part = between(random, 0, 2) === 0 ? memory.slice(from, from + between(random, 1, 4)) : memory;
		const world = between(random, 0, 5) === 0 ? ('file' as const) : ('hardware' as const);
		const takenAt = new Date(Date.UTC(2026, 0, 1 + i)).toISOString();
		const { id } = await keep(here.studio, device, profile, [...part], { takenAt, world });
		kept.push({ id, slots: [...part], world, takenAt });
	}
	return { device, kept };
}

interface StayRow {
	record: string;
	slot: number;
	world: string;
	version: string;
	fromAt: number;
	toAt: number | null;
}

const stays = (): Promise<StayRow[]> =>
	all(
		here.studio,
		`SELECT lower(hex(k.hash)) AS record, r.slot, w.text AS world, v.id AS version, r.fromAt, r.toAt
		 FROM slot_runs r JOIN records k ON k.id = r.record JOIN words w ON w.id = r.world JOIN versions v ON v.seq = r.version`
	);

type Kept = Awaited<ReturnType<typeof history>>['kept'][number];

/** Sounds of which no stay is told of any more by a version that stays: each stay against each version. */
function lost(rows: readonly StayRow[], kept: readonly Kept[], going: ReadonlySet<string>): number {
	const staying = kept.filter(({ id }) => !going.has(id));
	const told = (stay: StayRow) =>
		!going.has(stay.version) ||
		staying.some(({ slots, world, takenAt }) => {
			const at = Date.parse(takenAt);
			return (
				world === stay.world &&
				slots.some(({ index }) => index === stay.slot) &&
				at >= stay.fromAt &&
				(stay.toAt === null || at < stay.toAt || at === stay.fromAt)
			);
		});
	const records = new Map<string, boolean>();
	for (const stay of rows) records.set(stay.record, (records.get(stay.record) ?? false) || told(stay));
	return [...records.values()].filter((each) => !each).length;
}

const kilobytes = async () =>
	(await all<{ n: number | null }>(here.studio, 'SELECT SUM(LENGTH(data)) AS n FROM objects'))[0].n ?? 0;

it('what letting versions go would cost is what it costs, and what stays is as it was', async () => {
	let freedSomething = 0;
	let lostSomething = 0;
	await fc.assert(
		fc.asyncProperty(
			fc.integer({ min: 1, max: 1e6 }),
			fc.integer({ min: 3, max: 14 }),
			fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }),
			async (seed, versions, chosen) => {
				const { device, kept } = await history(seed, versions);
				const going = new Set(kept.filter((_, i) => chosen[i]).map(({ id }) => id));
				if (going.size === 0) return;
				const mine = (rows: StayRow[]) => rows.filter(({ version }) => kept.some(({ id }) => id === version));
				const before = mine(await stays());
				const room = await kilobytes();
				const told = await consequences(here.studio, [...going]);
				// Nothing is changed by asking.
				expect(mine(await stays())).toEqual(before);
				// Other devices may have held the same sound.
				expect(told.soundsLost).toBe(lost(await stays(), kept, going));
				const freed = await letGo(here.studio, [...going]);
				expect(freed).toBe(told.freedBytes);
				expect(room - (await kilobytes())).toBe(freed);
				if (freed > 0) freedSomething++;
				if (told.soundsLost > 0) lostSomething++;

				const left = await listVersions(here.studio, device.id);
				expect(left.map(({ id }) => id).sort()).toEqual(
					kept.flatMap(({ id }) => (going.has(id) ? [] : [id])).sort()
				);
				for (const { id } of left) {
					const { slots } = kept.find((version) => version.id === id)!;
					const opened = await openVersion(here.studio, id);
					expect(opened.seen.map(({ slot, record }) => [slot.index, record])).toEqual(
						slots.map(({ index, bytes }) => [index, hashOf(bytes)])
					);
				}
				// Every stay that is left is told of by a version that is there and held its slot.
				for (const { version, slot } of mine(await stays())) {
					const teller = kept.find(({ id }) => id === version)!;
					expect(going.has(version)).toBe(false);
					expect(teller.slots.some(({ index }) => index === slot)).toBe(true);
				}
			}
		),
		{ numRuns: 25 }
	);
	expect(freedSomething).toBeGreaterThan(0);
	expect(lostSomething).toBeGreaterThan(0);
});

it('two previews at once give what each alone gives, and leave nothing behind', async () => {
	const { kept } = await history(77, 12);
	const some = kept.slice(0, 4).map(({ id }) => id);
	const others = kept.slice(2, 9).map(({ id }) => id);
	const alone = [await consequences(here.studio, some), await consequences(here.studio, others)];
	expect(await Promise.all([consequences(here.studio, some), consequences(here.studio, others)])).toEqual(
		alone
	);
	expect(await all(here.studio, 'SELECT name FROM sqlite_temp_master')).toEqual([]);
	expect(await count(here.studio, 'versions')).toBe(12);
});

it('nothing goes where nothing is named', async () => {
	await history(3, 3);
	expect(await consequences(here.studio, [])).toEqual({ freedBytes: 0, soundsLost: 0 });
	expect(await letGo(here.studio, ['nobody'])).toBe(0);
	expect(await count(here.studio, 'versions')).toBe(3);
});
