import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planLoads, type LoadPlan, type LoadTask } from './load-plan';

const task = (songs: string[], slots: (string | null)[], home: [string, string][] = []): LoadTask => ({
	songs: songs.map((wants) => new Set(wants)),
	slots: new Map(slots.map((sound, i) => [`s${i}`, sound])),
	home: new Map(home)
});
const planned = (...args: Parameters<typeof task>): LoadPlan => {
	const plan = planLoads(task(...args));
	if ('crowded' in plan) throw new Error(`crowded: ${plan.crowded.join()}`);
	return plan;
};
const cost = ({ moments }: LoadPlan) => ({
	pauses: moments.filter(({ song }) => song > 0).length,
	loads: moments.reduce((sum, { loads }) => sum + loads.length, 0)
});

/** Plays a plan through a memory of slots: whatever a song wants is where the plan says. */
function playThrough({ songs, slots }: LoadTask, { moments, places }: LoadPlan): void {
	const memory = new Map(slots);
	songs.forEach((wants, song) => {
		for (const { sound, slot, over } of moments.find((each) => each.song === song)?.loads ?? []) {
			expect(memory.has(slot)).toBe(true);
			expect(memory.get(slot)).toBe(over);
			memory.set(slot, sound);
		}
		expect([...places[song].keys()].sort()).toEqual([...wants].sort());
		for (const [sound, slot] of places[song]) expect(memory.get(slot)).toBe(sound);
	});
}

/** Every way to fill the slots before every song, the cheapest of them: pauses between songs first, then loads. */
function cheapest({ songs, slots }: LoadTask): { pauses: number; loads: number } {
	const sounds = [...new Set([...songs.flatMap((wants) => [...wants]), ...slots.values()])];
	const memories = [...slots.keys()].reduce<(string | null)[][]>(
		(all) => all.flatMap((some) => sounds.map((sound) => [...some, sound])),
		[[]]
	);
	const WEIGHT = 1000;
	let reached = new Map([[JSON.stringify([...slots.values()]), 0]]);
	songs.forEach((wants, song) => {
		const next = new Map<string, number>();
		const fitting = memories.filter((memory) => [...wants].every((sound) => memory.includes(sound)));
		for (const [was, sum] of reached)
			for (const memory of fitting) {
				const old = JSON.parse(was) as (string | null)[];
				const loads = memory.filter((sound, i) => sound !== old[i]).length;
				const all = sum + loads + (loads > 0 && song > 0 ? WEIGHT : 0);
				const key = JSON.stringify(memory);
				if (all < (next.get(key) ?? Infinity)) next.set(key, all);
			}
		reached = next;
	});
	const least = Math.min(...reached.values());
	return { pauses: Math.floor(least / WEIGHT), loads: least % WEIGHT };
}

describe('loads of a set', () => {
	it('are none where everything is there', () => {
		expect(planned(['ab', 'b', ''], ['a', 'b'])).toMatchObject({ moments: [], fewest: true });
		expect(planned([], ['a'])).toMatchObject({ moments: [], places: [] });
	});
	it('are before the show where there is room, each in its own slot if that is free', () => {
		const { moments } = planned(['a', 'b', 'c'], ['a', null, 'x'], [['c', 's2']]);
		expect(moments).toEqual([
			{
				song: 0,
				loads: [
					{ sound: 'c', slot: 's2', over: 'x' },
					{ sound: 'b', slot: 's1', over: null }
				]
			}
		]);
	});
	it('keep what is wanted again, and give way only what is not', () => {
		const plan = planned(['ab', 'ac', 'ad'], ['a', 'b']);
		expect(cost(plan)).toEqual({ pauses: 2, loads: 2 });
		expect(plan.places.map((at) => at.get('a'))).toEqual(['s0', 's0', 's0']);
	});
	it('come together in as few pauses as there can be, even where that is not when they are wanted', () => {
		// c could be loaded when it comes and d later; both come with one pause.
		const plan = planned(['ab', 'a', 'ac', 'cd', 'd'], ['a', 'b', null]);
		expect(cost(plan)).toEqual({ pauses: 1, loads: 2 });
		expect(plan.moments[0]).toMatchObject({ song: 0, loads: [{ sound: 'c', slot: 's2' }] });
	});
	it('are not planned where a song wants more at once than there are slots', () => {
		expect(planLoads(task(['a', 'abc', 'bcd'], ['a', 'b']))).toEqual({ crowded: [1, 2] });
	});
	it('equal the cheapest of all ways, and each song finds its sounds', () => {
		const sound = fc.constantFrom('a', 'b', 'c', 'd');
		const wants = fc.uniqueArray(sound, { maxLength: 2 }).map((some) => some.join(''));
		let pauses = 0;
		fc.assert(
			fc.property(
				fc.array(wants, { minLength: 1, maxLength: 6 }),
				fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'x', 'y', 'z'), { minLength: 2, maxLength: 3 }),
				fc.uniqueArray(fc.tuple(sound, fc.constantFrom('s0', 's1', 's2')), { selector: ([of]) => of }),
				(songs, slots, home) => {
					const one = task(songs, slots, home);
					const plan = planLoads(one) as LoadPlan;
					playThrough(one, plan);
					expect(plan.fewest).toBe(true);
					expect(cost(plan)).toEqual(cheapest(one));
					pauses = Math.max(pauses, cost(plan).pauses);
				}
			),
			{ numRuns: 300 }
		);
		// Cases where something must be loaded between songs were among them.
		expect(pauses).toBeGreaterThan(1);
	});
	it('of a long set say whether fewer are possible, and are right all the same', () => {
		const letters = 'abcdefghijklmnopqrstuvwxyz';
		const songs = Array.from({ length: 60 }, (_, i) =>
			[0, 7, 11, 16].map((by) => letters[(i * i + by * i) % letters.length]).join('')
		);
		const one = task(
			songs,
			Array.from({ length: 8 }, () => null)
		);
		const [all, few] = [planLoads(one), planLoads(one, 50)] as LoadPlan[];
		playThrough(one, all);
		playThrough(one, few);
		expect([all.fewest, few.fewest]).toEqual([true, false]);
		expect(cost(few).pauses).toBe(cost(all).pauses);
		expect(cost(few).loads).toBeGreaterThanOrEqual(cost(all).loads);
	});
});
