/** What songs want to find in an instrument's memory, and where there is room for it. */
export interface LoadTask {
	/** The sounds of each song, in the order of the songs. */
	songs: readonly ReadonlySet<string>[];
	/** Slots that may be written, with the sound that each holds; null: one that no song wants. */
	slots: ReadonlyMap<string, string | null>;
	/** The slot that a sound is put into where that is free. */
	home: ReadonlyMap<string, string>;
}

export interface Load {
	sound: string;
	slot: string;
	/** The sound that gives way; null where no song wants what is there. */
	over: string | null;
}

export interface LoadPlan {
	/** The song before which something is loaded, by its place; what comes before the first one is loaded before the show. */
	moments: { song: number; loads: Load[] }[];
	/** Where each song finds its sounds. */
	places: ReadonlyMap<string, string>[];
	/** It was shown that with so few moments no plan has fewer loads. */
	fewest: boolean;
}

/** Stretches that are looked at for fewer loads: some tenths of a second. */
const MOST_TRIED = 20_000;

/** A run of songs that is played without loading: from this song to before that one, and all that it wants. */
interface Stretch {
	from: number;
	to: number;
	wants: ReadonlySet<string>;
}

const unionOf = (sets: readonly ReadonlySet<string>[]) => new Set(sets.flatMap((set) => [...set]));

/** Songs taken together from one end for as long as there is room: as few stretches as there can be. */
function stretched(songs: LoadTask['songs'], room: number): number[] {
	const begins = [0];
	let held = new Set<string>();
	songs.forEach((wants, song) => {
		const more = unionOf([held, wants]);
		if (more.size <= room) held = more;
		else {
			begins.push(song);
			held = new Set(wants);
		}
	});
	return begins;
}

/** What is in memory in each stretch: what it wants, and what is kept for a later one, so that least is loaded. */
function heldIn(stretches: readonly Stretch[], first: ReadonlySet<string>, room: number): Set<string>[] {
	const nextUse = (sound: string, after: number) => {
		const at = stretches.findIndex(({ wants }, i) => i > after && wants.has(sound));
		return at < 0 ? Infinity : at;
	};
	let before: ReadonlySet<string> = first;
	return stretches.map(({ wants }, at) => {
		const kept = [...before]
			.filter((sound) => !wants.has(sound) && nextUse(sound, at) < Infinity)
			.sort((a, b) => nextUse(a, at) - nextUse(b, at))
			.slice(0, Math.max(0, room - wants.size));
		const held = new Set([...wants, ...kept]);
		before = held;
		return held;
	});
}

const loadsOf = (held: readonly ReadonlySet<string>[], first: ReadonlySet<string>): number =>
	held.reduce(
		(sum, now, at) => sum + [...now].filter((sound) => !(at > 0 ? held[at - 1] : first).has(sound)).length,
		0
	);

/**
 * What is loaded later and for the first time is loaded before the show, where a slot lies idle until then: first what has its
 * own slot free until then, too.
 */
function hoisted(held: Set<string>[], first: ReadonlySet<string>, { slots, home }: LoadTask): void {
	for (const own of [true, false])
		for (let at = 1; at < held.length; at++)
			for (const sound of [...held[at]]) {
				const earlier = held.slice(0, at);
				if (first.has(sound) || earlier.some((now) => now.has(sound) || now.size >= slots.size)) continue;
				const taken = earlier.some((now) => [...now].some((each) => home.get(each) === home.get(sound)));
				if (own && taken) continue;
				for (const now of earlier) now.add(sound);
			}
}

/** A slot for each sound that is held: the one that it is in, its own, the one that it was in last, or one that is free. */
function placed(
	task: LoadTask,
	stretches: readonly Stretch[],
	held: readonly ReadonlySet<string>[]
): Pick<LoadPlan, 'moments' | 'places'> {
	const inSlot = new Map(task.slots);
	const last = new Map<string, string>();
	const moments: LoadPlan['moments'] = [];
	const places: ReadonlyMap<string, string>[] = [];
	const slotOf = (sound: string) => [...inSlot].find(([, each]) => each === sound)?.[0];
	held.forEach((now, at) => {
		const loads: Load[] = [];
		const free = () => [...inSlot].filter(([, sound]) => sound === null || !now.has(sound));
		const put = (sound: string, slot: string) => {
			loads.push({ sound, slot, over: inSlot.get(slot) ?? null });
			inSlot.set(slot, sound);
		};
		const take = (sound: string, slot: string | undefined) => {
			if (slot === undefined || !free().some(([each]) => each === slot)) return false;
			put(sound, slot);
			return true;
		};
		const missing = [...now].filter((sound) => slotOf(sound) === undefined);
		const homeless = missing
			.filter((sound) => !take(sound, task.home.get(sound)))
			.filter((sound) => !take(sound, last.get(sound)));
		for (const sound of homeless) {
			const room = free();
			put(sound, (room.find(([, was]) => was === null) ?? room[0])[0]);
		}
		for (const sound of now) last.set(sound, slotOf(sound)!);
		const { from, to } = stretches[at];
		if (loads.length > 0) moments.push({ song: from, loads });
		for (let song = from; song < to; song++)
			places.push(new Map([...task.songs[song]].map((sound) => [sound, last.get(sound)!])));
	});
	return { moments, places };
}

/**
 * What to load into an instrument before which songs: first as few moments between songs as there can be, then as few loads,
 * then as many of them as possible before the show.
 *
 * Each stretch of songs without loading is as long as possible when as few as possible are wanted, so their number is exact.
 * Where they begin is tried within the bounds that this gives; for given stretches, keeping what is wanted again soonest loads
 * least.
 * @param most stretches that are looked at before it is left open whether fewer loads would do
 * @returns or the songs, by their places, that want more at once than there are slots
 */
export function planLoads(task: LoadTask, most = MOST_TRIED): LoadPlan | { crowded: number[] } {
	const { songs } = task;
	const room = task.slots.size;
	const crowded = songs.flatMap(({ size }, song) => (size > room ? [song] : []));
	if (crowded.length > 0) return { crowded };
	const wanted = unionOf(songs);
	const first = new Set(
		[...task.slots.values()].flatMap((sound) => (sound && wanted.has(sound) ? [sound] : []))
	);
	const latest = stretched(songs, room);
	const earliest = stretched([...songs].reverse(), room)
		.map((begin, i, all) => songs.length - (all[i + 1] ?? songs.length))
		.reverse();

	const among = (from: number, to: number): Stretch => ({ from, to, wants: unionOf(songs.slice(from, to)) });
	let best: { stretches: Stretch[]; held: Set<string>[]; loads: number } | null = null;
	let tried = 0;
	let fewest = true;
	/** @param done the stretches that are chosen, up to the song `from` */
	const search = (done: readonly Stretch[], from: number) => {
		const at = done.length;
		tried += at + 1;
		if (best && tried > most) {
			fewest = false;
			return;
		}
		const end = at === latest.length - 1;
		const before = heldIn(done, first, room);
		const seen = unionOf([first, ...done.map(({ wants }) => wants)]);
		const ahead = [...unionOf(songs.slice(from))].filter((sound) => !seen.has(sound)).length;
		if (best && loadsOf(before, first) + ahead >= best.loads) return;
		const to = end ? [songs.length, songs.length] : [earliest[at + 1], latest[at + 1]];
		for (let cut = to[1]; cut >= Math.max(to[0], from + 1); cut--) {
			const next = among(from, cut);
			if (next.wants.size > room) continue;
			const stretches = [...done, next];
			if (!end) search(stretches, cut);
			else {
				const held = heldIn(stretches, first, room);
				const loads = loadsOf(held, first);
				if (!best || loads < best.loads) best = { stretches, held, loads };
			}
		}
	};
	if (songs.length === 0) return { moments: [], places: [], fewest };
	search([], 0);
	const { stretches, held } = best!;
	hoisted(held, first, task);
	return { ...placed(task, stretches, held), fewest };
}
