import type { Edit } from '../edit';
import { changeInWords } from './change-words';
import { replaceSound, soundIn } from './follow';
import { nothingHeld } from './held';
import { checkZones, type SceneWiring } from './rules';
import { hand } from './rules/rule';
import { partsPlayed, sceneChange } from './scene-change';
import {
	instrumentName,
	sceneNumbered,
	scenesPlayed,
	setupOf,
	type Scene,
	type ShowSet,
	type Song,
	type Sound
} from './set';
import { askedOf, loadInWords, noLoads, type LoadAsked, type ShowLoads, type StepLoad } from './show-loads';
import { studioItems, type StudioNotes } from './studio-needs';
import type { FollowedSound } from './told-set';

/** Something that a show needs and that is not there, not known, or to be done by hand. */
export interface ReadyItem {
	/** `missing`: the show will be wrong; `unknown`: nobody has shown it; `look`: perhaps not meant so; `hand`: a hand does it in time. */
	kind: 'missing' | 'unknown' | 'look' | 'hand';
	/** Scenes that it is about, by number. */
	scenes: number[];
	says: string;
	/** What does away with it, in one step: edits, or sounds to load; without either, what a hand does. */
	cure: { says: string; edits: Edit[]; load?: LoadAsked };
}

/** From one scene of the set to the next. */
export interface SetStep {
	song: string;
	scene: number;
	/** The messages and times of the change, in words. */
	says: string;
	messages: number;
	readyMs: number;
	/** The pause that there is before it, ms; null where nobody said, or within a song. */
	pauseMs: number | null;
	/** What is written into instruments before it. */
	loads: StepLoad[];
	/** What hands do then. */
	hands: string[];
}

export interface Readiness {
	items: ReadyItem[];
	/** The set in its order. */
	steps: SetStep[];
	/** Every sound, way and change was looked at, and nothing of it is missing or unknown. */
	ready: boolean;
	/** When the oldest of the readings was made that say where sounds are, ISO 8601; null where there is none. */
	since: string | null;
}

function songItems(set: ShowSet): ReadyItem[] {
	return set.songs.flatMap((song, at): ReadyItem[] => {
		const gone = song.scenes.filter((number) => !sceneNumbered(set, number));
		return [
			...(song.scenes.length === 0
				? [
						{
							kind: 'missing' as const,
							scenes: [],
							says: `${song.name} has no scene.`,
							cure: hand('Choose its scenes.')
						}
					]
				: []),
			...gone.map((number): ReadyItem => ({
				kind: 'missing',
				scenes: [number],
				says: `${song.name} wants scene ${number}, which is not stored.`,
				cure: {
					says: `Leave scene ${number} out of ${song.name}`,
					edits: [{ path: ['songs', at, 'scenes'], value: song.scenes.filter((each) => each !== number) }]
				}
			})),
			...song.hands.map((says): ReadyItem => ({
				kind: 'hand',
				scenes: song.scenes,
				says: `Before ${song.name}: ${says}`,
				cure: hand('By hand.')
			}))
		];
	});
}

/** The sounds that keys of a scene lead to, each once. */
const soundsPlayed = (set: ShowSet, scene: Scene): Set<string> =>
	new Set(partsPlayed(set, scene).map(({ instrument, sound }) => soundKey(instrument, sound)));
const soundKey = (instrument: string, sound: Sound | null) => JSON.stringify([instrument, sound]);

/** A sound with the scenes that play it. */
type Wanted = FollowedSound & { played: number[] };

/** Sounds of the scenes that are played, as far as their drawers are known; those that are loaded are told with their loads. */
function soundItems(set: ShowSet, sounds: readonly Wanted[], { loadings }: ShowLoads): ReadyItem[] {
	const loaded = new Set(
		loadings.flatMap(({ instrument, loads }) => loads.map(({ sound }) => soundKey(instrument, sound)))
	);
	return sounds.flatMap((named): ReadyItem[] => {
		const { sound, followed, instrument, played: scenes } = named;
		const one = set.setup.instruments.find(({ id }) => id === instrument);
		const of = instrumentName(set, instrument);
		const item = (kind: ReadyItem['kind'], says: string, cure: ReadyItem['cure']): ReadyItem[] => [
			{ kind, scenes, says: `${sound.name} (${of}) ${says}`, cure }
		];
		// Nobody can have stored anything else where it was.
		if (sound.kept === null && one?.fixed) return [];
		if (sound.kept === null)
			return item(
				'unknown',
				'is no sound of a drawer: nobody can look whether it is there.',
				hand('Listen.')
			);
		const backUp = hand(`Back ${of} up: then it is known.`);
		const take = (slot: Parameters<typeof soundIn>[0], says: string): ReadyItem['cure'] => {
			const next = soundIn(slot);
			return next ? { says, edits: replaceSound(set, instrument, sound, next) } : backUp;
		};
		switch (followed.is) {
			case 'there':
				return followed.slot.state === 'proved'
					? []
					: item(
							'unknown',
							`was in ${followed.slot.label} when it was read, and that is not proved any more.`,
							backUp
						);
			case 'unknown':
				return item('unknown', 'is not known to be there.', backUp);
			case 'moved':
				return item(
					'missing',
					`is in ${followed.to[0].label} now.`,
					take(followed.to[0], `Take it from ${followed.to[0].label}`)
				);
			case 'renumbered':
				return item('missing', 'is selected by other numbers now.', take(followed.slot, 'Take these over'));
			case 'renamed':
			case 'edited':
				return item('missing', `was ${followed.is} since.`, take(followed.slot, 'Take it as it is now'));
			case 'lost':
				if (loaded.has(soundKey(instrument, sound))) return [];
				return item(
					'missing',
					`is not there: ${followed.slot.label} holds something else.`,
					hand('Bring it back from its drawer, or choose another.')
				);
		}
	});
}

const inSeconds = (ms: number) => `${Math.ceil(ms / 1000)} s`;

/** What has to be written into instruments, and what cannot be arranged so. */
function loadItems(set: ShowSet, { loadings, open, crowded, torn, edits }: ShowLoads): ReadyItem[] {
	const songScenes = (id: string | undefined) => set.songs.find((song) => song.id === id)?.scenes ?? [];
	const of = (id: string) => instrumentName(set, id);
	return [
		...loadings.flatMap((loading): ReadyItem[] => {
			const { instrument, before, loads, ms } = loading;
			const scenes = songScenes(before?.id);
			const takes = ms === null ? '' : `, about ${inSeconds(ms)}`;
			const pause = set.songs.find(({ id }) => id === before?.id)?.pauseSeconds ?? null;
			const late = ms !== null && pause !== null && ms > pause * 1000;
			return [
				{
					kind: before === null ? 'missing' : 'hand',
					scenes,
					says:
						before === null
							? `${of(instrument)} lacks ${loads.length === 1 ? 'a sound' : `${loads.length} sounds`} of its drawer: load ${loadInWords(loading)}${takes}.`
							: `Before ${before.name}: load ${loadInWords(loading)} of ${of(instrument)}${takes}.`,
					cure: { says: `Put the load of ${of(instrument)} in the tray`, edits: [], load: askedOf(loading) }
				},
				...(late
					? [
							{
								kind: 'missing' as const,
								scenes,
								says: `The load of ${of(instrument)} before ${before!.name} takes about ${inSeconds(ms)}, and the pause has ${pause} s.`,
								cure: hand('Make the pause longer, or let more slots be written for the show.')
							}
						]
					: [])
			];
		}),
		...crowded.map(({ instrument, song, slots }): ReadyItem => ({
			kind: 'missing',
			scenes: [],
			says: `${song} wants more sounds of ${of(instrument)} at once than the ${slots} slots that may be written.`,
			cure: hand('Let more slots be written for the show, under Zones, Players and instruments.')
		})),
		...torn.map(({ scene, instrument, sound }): ReadyItem => ({
			kind: 'missing',
			scenes: [scene],
			says: `${sound} lies in other slots of ${of(instrument)} for one song of scene ${scene} than for another.`,
			cure: hand('Store the scene once more, for the later song.')
		})),
		...open.map((instrument): ReadyItem => ({
			kind: 'look',
			scenes: [],
			says: `Whether fewer loads of ${of(instrument)} would do was not shown.`,
			cure: hand('Nothing needs to be done.')
		})),
		...(edits.length > 0
			? [
					{
						kind: 'missing' as const,
						scenes: edits.flatMap(({ path: [of, at] }) =>
							of === 'scenes' ? [set.scenes[Number(at)].number] : []
						),
						says: 'Scenes want sounds that will be loaded into other slots.',
						cure: { says: 'Take the numbers of those slots', edits }
					}
				]
			: [])
	];
}

/** What is wrong in the scenes that are played; the same thing in several scenes is told once. */
function sceneItems(set: ShowSet, scenes: readonly Scene[], wiring: SceneWiring | null): ReadyItem[] {
	const found = new Map<string, ReadyItem>();
	for (const scene of scenes) {
		const { parts, messages } = scene;
		const desk = { ...set, setup: setupOf(set, scene), parts, messages };
		for (const { severity, says, cure } of checkZones(desk, wiring)) {
			if (severity === 'note') continue;
			const kind = severity === 'wrong' ? 'missing' : severity === 'unknown' ? 'unknown' : 'look';
			const one = found.get(says);
			if (one) one.scenes.push(scene.number);
			else
				found.set(says, {
					kind,
					scenes: [scene.number],
					says,
					cure: hand(cure.edits.length > 0 ? `In the scene: ${cure.says}.` : cure.says)
				});
		}
	}
	return [...found.values()];
}

/**
 * What a show lacks, and how long each of its changes takes. Changes are from scene to scene, with everything sent before the
 * first.
 * @param sounds where each sound of the set is now
 * @param line the wire to an instrument; null where none leads there
 * @param notes supplies, pedals and pages of the studio; without them nobody looks at those
 * @param loads what has to be written into instruments
 */
export function readiness(
	set: ShowSet,
	sounds: readonly FollowedSound[],
	wiring: SceneWiring | null,
	line: (instrument: string) => string | null = (id) => id,
	notes: StudioNotes | null = null,
	loads: ShowLoads = noLoads
): Readiness {
	const order = scenesPlayed(set);
	const scenes = set.scenes.filter((each) => order.some(({ scene }) => scene === each));
	const plays = scenes.map((scene) => ({ number: scene.number, sounds: soundsPlayed(set, scene) }));
	const wanted = sounds.flatMap((named): Wanted[] => {
		const key = soundKey(named.instrument, named.sound);
		const played = plays.filter((each) => each.sounds.has(key)).map(({ number }) => number);
		return played.length > 0 ? [{ ...named, played }] : [];
	});
	const items = [
		...songItems(set),
		...soundItems(set, wanted, loads),
		...loadItems(set, loads),
		...sceneItems(set, scenes, wiring),
		...(notes ? studioItems(set, scenes, notes) : [])
	];
	const loadsBefore = ({ id }: Song): StepLoad[] =>
		loads.loadings.flatMap((loading) =>
			loading.before?.id === id
				? [
						{
							asked: askedOf(loading),
							says: `Load ${loadInWords(loading)} of ${instrumentName(set, loading.instrument)}.`,
							slots: loading.loads.map(({ sound, slot }) => ({
								index: slot.index,
								record: sound.kept!.record
							}))
						}
					]
				: []
		);
	const unmeasured = new Set<string>();
	let held = nothingHeld;
	const steps = order.map(({ song, scene, first }, i): SetStep => {
		// The song's tempo counts where its first scene says none.
		const to = first && scene.tempo === null ? { ...scene, tempo: song.tempo } : scene;
		const change = sceneChange(set, held, to, { line });
		held = change.held;
		const pauseMs = first && song.pauseSeconds !== null ? song.pauseSeconds * 1000 : null;
		if (i > 0 && pauseMs !== null && change.readyMs > pauseMs)
			items.push({
				kind: 'missing',
				scenes: [scene.number],
				says: `${scene.number} ${scene.name} takes ${Math.ceil(change.readyMs)} ms, and the pause before ${song.name} has ${pauseMs} ms.`,
				cure: hand('Make the pause longer, or let it share sounds with the one before.')
			});
		for (const { instrument, why } of change.unreached) {
			const of = instrumentName(set, instrument);
			const says = why === 'away' ? `${of} is noted as away or off.` : `No line leads to ${of}.`;
			const one = items.find((item) => item.says === says);
			if (!one)
				items.push({
					kind: 'missing',
					scenes: [scene.number],
					says,
					cure: hand('Look at it under Gear and Wiring.')
				});
			else if (!one.scenes.includes(scene.number)) one.scenes.push(scene.number);
		}
		for (const instrument of change.unmeasured) unmeasured.add(instrument);
		return {
			song: song.id,
			scene: scene.number,
			says: changeInWords(change),
			messages: change.messages.length,
			readyMs: change.readyMs,
			pauseMs,
			loads: first ? loadsBefore(song) : [],
			hands: first ? [...song.hands, ...change.hands] : change.hands
		};
	});
	for (const id of unmeasured)
		items.push({
			kind: 'unknown',
			scenes: [],
			says: `How long ${instrumentName(set, id)} takes to load a program, nobody has noted.`,
			cure: hand('Measure it, and note it with the instrument.')
		});
	const at = wanted.flatMap(({ followed }) =>
		followed.is === 'there' && followed.slot.at !== null ? [followed.slot.at] : []
	);
	const ORDER = ['missing', 'unknown', 'look', 'hand'];
	return {
		items: items.sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind)),
		steps,
		ready: order.length > 0 && items.every(({ kind }) => kind === 'look' || kind === 'hand'),
		since: at.sort()[0] ?? null
	};
}
