import { changeInWords } from './change-words';
import { nothingHeld } from './held';
import type { ReadyItem } from './ready-item';
import { loadItems } from './ready-loads';
import { soundItems, type WantedSound } from './ready-sounds';
import { checkZones, type SceneWiring } from './rules';
import { hand } from './rules/rule';
import { sceneChange } from './scene-change';
import {
	instrumentName,
	sceneNumbered,
	scenesPlayed,
	setupOf,
	type Scene,
	type ShowSet,
	type Song
} from './set';
import { askedOf, loadInWords, noLoads, type ShowLoads, type StepLoad } from './show-loads';
import { soundKey, soundsPlayed } from './sounds-played';
import { studioItems, type StudioNotes } from './studio-needs';
import type { FollowedSound } from './told-set';

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

/** All that hands do before a step, what they load first. */
export const handsBefore = ({ loads, hands }: Pick<SetStep, 'loads' | 'hands'>): string[] => [
	...loads.map(({ says }) => says),
	...hands
];

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
	const wanted = sounds.flatMap((named): WantedSound[] => {
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
