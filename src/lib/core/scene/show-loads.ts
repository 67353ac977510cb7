import { valueAt, type Edit } from '../edit';
import { soundIn, type SlotSeen } from './follow';
import { planLoads, type LoadPlan } from './load-plan';
import { partsPlayed } from './scene-change';
import { sceneNumbered, scenesPlayed, type Part, type ShowSet, type Sound } from './set';
import { soundKey, soundsPlayed } from './sounds-played';
import type { FollowedSound } from './told-set';

/** Sounds that are written into an instrument before a song. */
export interface Loading {
	instrument: string;
	area: string;
	/** The song that it comes before; null: the show. */
	before: { id: string; name: string } | null;
	/** `over`: the sound of the set that gives way; null where it is something else. */
	loads: { sound: Sound; slot: SlotSeen; over: string | null }[];
	/** With the safety copy before it and reading back after it, ms; null where nobody knows. */
	ms: number | null;
}

/** What has to be written into instruments for a set, and when. */
export interface ShowLoads {
	/** In the order of the set. */
	loadings: Loading[];
	/** Instruments of which was not shown that fewer loads would not do. */
	open: string[];
	/** Songs that want more of an instrument at once than there are slots. */
	crowded: { instrument: string; song: string; slots: number }[];
	/** Scenes whose sound lies elsewhere for one of their songs than for another. */
	torn: { scene: number; instrument: string; sound: string }[];
	/** The numbers of the slots that sounds are written into, in the scenes. */
	edits: Edit[];
}

/** One of the loads of a set; `before`: the id of a song, null for the show. */
export interface LoadAsked {
	instrument: string;
	area: string;
	before: string | null;
}
/** A load before a song, as the stage has it. */
export interface StepLoad {
	asked: LoadAsked;
	says: string;
	/** Slots with the contents (SHA-256) that they will hold. */
	slots: { index: number; record: string }[];
}

export const noLoads: ShowLoads = { loadings: [], open: [], crowded: [], torn: [], edits: [] };

/** What has to be known of the instruments to plan loads. */
export interface LoadNotes {
	/** Slots of an instrument that program changes select. */
	slots: (instrument: string) => readonly SlotSeen[];
	/** Whether the content of a sound (SHA-256) is kept. */
	kept: (record: string) => boolean;
	/** How long writing takes, safety copy and reading back included, ms. */
	ms: (
		instrument: string,
		area: string,
		loads: readonly { index: number; record: string }[]
	) => number | null;
}

type Kept = NonNullable<Sound['kept']>;
const keyOf = ({ record, index }: Kept) => JSON.stringify([record, index]);

/** An area of an instrument: what songs want of it, by key, and what its slots for the show hold. */
interface AreaHeld {
	instrument: string;
	area: string;
	slots: ReadonlyMap<string, SlotSeen>;
	memory: ReadonlyMap<string, string | null>;
	wanted: ReadonlyMap<string, FollowedSound>;
	/** Sounds that are in slots which a set may not write, or that are kept nowhere. */
	settled: ReadonlySet<string>;
}

/**
 * Slots that may be written are those that are noted for the show; without a note, those that the scenes name. A sound that was
 * renamed, edited or is unknown counts as being in its slot: the scenes' own cures are for that.
 */
function areaHeld(set: ShowSet, sounds: readonly FollowedSound[], notes: LoadNotes): AreaHeld {
	const [{ instrument, sound: one }] = sounds;
	const { area } = one.kept!;
	const noted = set.setup.instruments.find(({ id }) => id === instrument)?.showSlots ?? null;
	const named = new Set(sounds.map(({ sound }) => sound.kept!.index));
	const forShow = ({ area: of, index, select }: SlotSeen) =>
		of === area &&
		select !== null &&
		(noted?.area === area ? index >= noted.slots[0] && index <= noted.slots[1] : named.has(index));
	const slots = new Map(
		notes
			.slots(instrument)
			.filter(forShow)
			.map((slot) => [String(slot.index), slot])
	);
	const wanted = new Map(sounds.map((each) => [keyOf(each.sound.kept!), each]));
	const memory = new Map<string, string | null>([...slots.keys()].map((slot) => [slot, null]));
	const settled = new Set<string>();
	const isIn = (key: string, index: number) => {
		if (!slots.has(String(index))) settled.add(key);
		else if (memory.get(String(index)) === null) memory.set(String(index), key);
	};
	// What was seen comes before what is only believed.
	for (const [key, { followed, sound }] of wanted) {
		if (followed.is === 'there' || followed.is === 'renumbered') isIn(key, sound.kept!.index);
		else if (followed.is === 'moved') isIn(key, followed.to[0].index);
	}
	for (const [key, { followed, sound }] of wanted)
		if (followed.is === 'renamed' || followed.is === 'edited' || followed.is === 'unknown')
			isIn(key, sound.kept!.index);
	const present = new Set(memory.values());
	for (const [key, { sound }] of wanted)
		if (!present.has(key) && !notes.kept(sound.kept!.record)) settled.add(key);
	return { instrument, area, slots, memory, wanted, settled };
}

/** What the bank builder has to load so that every song finds its sounds in one area of an instrument. */
function areaLoads(set: ShowSet, held: AreaHeld, notes: LoadNotes): ShowLoads {
	const { instrument, area, slots, memory, wanted, settled } = held;
	const present = new Set(memory.values());
	if (slots.size === 0 || [...wanted.keys()].every((key) => settled.has(key) || present.has(key)))
		return noLoads;
	const plan = planLoads({
		songs: set.songs.map(({ scenes }) => new Set(scenes.flatMap((scene) => keysOf(set, held, scene)))),
		slots: memory,
		home: new Map([...wanted].map(([key, { sound }]) => [key, String(sound.kept!.index)]))
	});
	if ('crowded' in plan)
		return {
			...noLoads,
			crowded: plan.crowded.map((at) => ({ instrument, song: set.songs[at].name, slots: slots.size }))
		};
	const nameOf = (key: string | null) => (key === null ? null : wanted.get(key)!.sound.name);
	const loadings = plan.moments.map(({ song, loads }): Loading => ({
		instrument,
		area,
		before: song === 0 ? null : { id: set.songs[song].id, name: set.songs[song].name },
		loads: loads.map(({ sound, slot, over }) => ({
			sound: wanted.get(sound)!.sound,
			slot: slots.get(slot)!,
			over: nameOf(over)
		})),
		ms: notes.ms(
			instrument,
			area,
			loads.map(({ sound, slot }) => ({ index: Number(slot), record: wanted.get(sound)!.sound.kept!.record }))
		)
	}));
	return { ...noLoads, ...numbersOf(set, held, plan), loadings, open: plan.fewest ? [] : [instrument] };
}

/** Sounds of an area that a scene plays and that are planned for, by key. */
function keysOf(set: ShowSet, { instrument, area, wanted, settled }: AreaHeld, number: number): string[] {
	const scene = sceneNumbered(set, number);
	return (scene ? partsPlayed(set, scene) : []).flatMap(({ instrument: on, sound }) => {
		if (on !== instrument || sound?.kept?.area !== area) return [];
		const key = keyOf(sound.kept);
		return wanted.has(key) && !settled.has(key) ? [key] : [];
	});
}

/** The numbers that scenes and the desk take for where a plan puts their sounds; scenes that would need two. */
function numbersOf(set: ShowSet, held: AreaHeld, plan: LoadPlan): Pick<ShowLoads, 'torn' | 'edits'> {
	const { instrument, area, slots, wanted } = held;
	/** Where each scene finds each sound; two places where its songs do not agree. */
	const places = new Map<number, Map<string, Set<string>>>();
	set.songs.forEach(({ scenes }, at) => {
		for (const scene of scenes)
			for (const key of keysOf(set, held, scene)) {
				const own = places.get(scene) ?? new Map<string, Set<string>>();
				places.set(scene, own);
				own.set(key, (own.get(key) ?? new Set()).add(plan.places[at].get(key)!));
			}
	});
	/** Parts with other numbers, as far as there is one slot for each of their sounds. */
	const renumbered = (
		path: Edit['path'],
		parts: readonly Part[],
		at: (key: string) => Iterable<string>
	): Edit[] => {
		const value = parts.map((part) => {
			const kept = part.instrument === instrument && part.sound?.kept?.area === area ? part.sound.kept : null;
			const [place, ...more] = kept ? at(keyOf(kept)) : [];
			if (!kept || place === undefined || more.length > 0 || Number(place) === kept.index) return part;
			const is = soundIn({ ...slots.get(place)!, record: kept.record });
			return is ? { ...part, sound: { ...is, name: part.sound!.name } } : part;
		});
		return value.some((part, i) => part !== parts[i]) ? [{ path, value }] : [];
	};
	const everywhere = (key: string) =>
		new Set([...places.values()].flatMap((own) => [...(own.get(key) ?? [])]));
	return {
		torn: [...places].flatMap(([scene, own]) =>
			[...own].flatMap(([key, at]) =>
				at.size > 1 ? [{ scene, instrument, sound: wanted.get(key)!.sound.name }] : []
			)
		),
		edits: [
			...renumbered(['parts'], set.parts, everywhere),
			...set.scenes.flatMap(({ number, parts }, i) =>
				renumbered(['scenes', i, 'parts'], parts, (key) => places.get(number)?.get(key) ?? [])
			)
		]
	};
}

/** Edits of the same parts one on the other: each puts its own in. */
function joinedEdits(set: ShowSet, all: readonly ShowLoads[]): Edit[] {
	const lists = new Map<string, Edit[]>();
	for (const edit of all.flatMap(({ edits }) => edits)) {
		const key = JSON.stringify(edit.path);
		lists.set(key, [...(lists.get(key) ?? []), edit]);
	}
	return [...lists.values()].map(([{ path, value }, ...more]) => {
		const was = valueAt(set, path) as readonly Part[];
		const merged = more.reduce(
			(parts, each) => parts.map((part, i) => (part === was[i] ? (each.value as Part[])[i] : part)),
			value as Part[]
		);
		return { path, value: merged };
	});
}

/**
 * What has to be written into the instruments of a set, and before which songs.
 * @param sounds where each sound of the set is now
 */
export function showLoads(set: ShowSet, sounds: readonly FollowedSound[], notes: LoadNotes): ShowLoads {
	const played = new Set(scenesPlayed(set).flatMap(({ scene }) => [...soundsPlayed(set, scene)]));
	const groups = new Map<string, FollowedSound[]>();
	for (const each of sounds) {
		const { instrument, sound } = each;
		if (!sound.kept || !played.has(soundKey(instrument, sound))) continue;
		const key = JSON.stringify([instrument, sound.kept.area]);
		groups.set(key, [...(groups.get(key) ?? []), each]);
	}
	const all = [...groups.values()].map((group) => areaLoads(set, areaHeld(set, group, notes), notes));
	const at = ({ before }: Loading) => (before ? set.songs.findIndex(({ id }) => id === before.id) : -1);
	return {
		loadings: all.flatMap(({ loadings }) => loadings).sort((a, b) => at(a) - at(b)),
		open: [...new Set(all.flatMap(({ open }) => open))],
		crowded: all.flatMap(({ crowded }) => crowded),
		torn: all.flatMap(({ torn }) => torn),
		edits: joinedEdits(set, all)
	};
}

/** A load in words: what goes where. */
export const loadInWords = ({ loads }: Loading): string =>
	loads
		.map(({ sound, slot, over }) => {
			const was = over ?? slot.name;
			return `${sound.name} into ${slot.label}${was === null ? '' : ` (over ${was})`}`;
		})
		.join(', ');

export const askedOf = ({ instrument, area, before }: Loading): LoadAsked => ({
	instrument,
	area,
	before: before?.id ?? null
});

/** Whether all that a load brings lies in its slots already, and was shown to. */
export const isLoaded = (sounds: readonly FollowedSound[], { asked, slots }: StepLoad): boolean =>
	slots.every(({ index, record }) =>
		sounds.some(({ instrument, sound, followed }) => {
			if (instrument !== asked.instrument || sound.kept?.record !== record) return false;
			const at = followed.is === 'there' ? [followed.slot] : followed.is === 'moved' ? followed.to : [];
			return at.some((slot) => slot.area === asked.area && slot.index === index && slot.state === 'proved');
		})
	);
