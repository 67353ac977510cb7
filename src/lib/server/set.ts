import type { z } from 'zod';
import { pageTitle } from '../core/control';
import { fileStem } from '../core/drawer';
import { Problem } from '../core/problem';
import {
	changeBetween,
	checkZones,
	earlierScenes,
	readiness,
	sceneFile,
	sceneNumbered,
	sceneWays,
	setSchema,
	setupFromRig,
	usualChannelOf,
	type EarlierScene,
	type Instrument,
	type Readiness,
	type SceneFile,
	type SceneWays,
	type ShowSet,
	type SlotSeen,
	type StudioNotes,
	type ToldSet
} from '../core/scene';
import type { Studio } from './db/connection';
import type { AnsweredFile } from './file-answer';
import { floorDocument } from './floor';
import { listDevices } from './gear';
import { paperServices, takeOrderOf, type Paper, type PaperKind } from './papers';
import { powerDocument } from './power';
import { readStudioRig } from './rig';
import { heldInWorlds } from './set-held';
import { loadsOfSet } from './set-loads';
import { deviceOf, followedSounds, seenOfSet, slotsSeen, withNames } from './set-sounds';
import { mapRows } from './store/maps';
import { pastSteps } from './store/steps';

export const SET: PaperKind<ShowSet> = {
	kind: 'set',
	a: 'a set',
	schema: setSchema,
	empty: setSchema.parse({})
};

/** The set, with what is wrong on its desk, where its sounds are now, and how its instruments are reached. */
export type OpenSet = Paper<ShowSet> & ToldSet;

/** Where the sounds of a set are, and whether a show can be played with it, by what is known in the studio. */
async function looked(studio: Studio, set: ShowSet, ways: SceneWays) {
	const seen = await seenOfSet(studio, set);
	const sounds = await followedSounds(studio, set, seen);
	const controllers = (await mapRows(studio)).map(({ document: { name, pages } }) => ({
		name,
		pages: pages.map(pageTitle)
	}));
	const notes: StudioNotes = {
		power: await powerDocument(studio),
		floor: await floorDocument(studio),
		controllers
	};
	const loads = await loadsOfSet(studio, set, sounds, seen);
	return { sounds, controllers, readiness: readiness(set, sounds, ways, lineOf(set, ways), notes, loads) };
}

/** The computer's out that leads to an instrument of a set. */
const lineOf =
	({ setup: { instruments } }: ShowSet, ways: SceneWays) =>
	(id: string): string | null => {
		const one = instruments.find((each) => each.id === id);
		return one ? ways.line(one) : null;
	};

/** Whether a set, that of the studio or another one, can be played with what the studio has and knows. */
export async function readinessOf(studio: Studio, set: ShowSet): Promise<Readiness> {
	const { rig } = await readStudioRig(studio);
	return (await looked(studio, set, sceneWays(rig))).readiness;
}

/** A scene of the studio's set as a file: all of it, or only what differs from another one. @throws Problem `scene.not-found` */
export async function sceneAsFile(
	studio: Studio,
	order: { to: number; from: number | null; as: SceneFile }
): Promise<AnsweredFile> {
	const set = await setDocument(studio);
	const numbered = (number: number) => {
		const scene = sceneNumbered(set, number);
		if (scene) return scene;
		throw new Problem('scene.not-found', `No scene has the number ${number}.`, 'Choose one that is stored.');
	};
	const { rig } = await readStudioRig(studio);
	const to = numbered(order.to);
	const from = order.from === null ? null : numbered(order.from);
	const change = changeBetween(set, from, to, { line: lineOf(set, sceneWays(rig)) });
	return { name: `${fileStem(`${to.number} ${to.name}`)}.${order.as}`, bytes: sceneFile(change, order.as) };
}

/** What a scene of the studio's set held before, the latest first, as far as the history of the set goes. */
export async function sceneHistory(studio: Studio, number: number): Promise<EarlierScene[]> {
	return earlierScenes(await setDocument(studio), await pastSteps(studio, SET.kind), number);
}

async function tell(studio: Studio, open: Paper<ShowSet>): Promise<OpenSet> {
	const set = open.document;
	const { rig } = await readStudioRig(studio);
	const ways = sceneWays(rig);
	const late = set.setup.zones.map(({ id, player: of, to }): [string, (number | null)[]] => {
		const player = set.setup.players.find((each) => each.id === of);
		const delays = to.map(({ instrument, channel }) => {
			const one = set.setup.instruments.find((each) => each.id === instrument);
			return player && one ? ways.delayMs(player, channel, one) : null;
		});
		return [id, delays];
	});
	return {
		...open,
		...(await looked(studio, set, ways)),
		findings: checkZones(set, ways),
		lateMs: Object.fromEntries(late),
		held: await heldInWorlds(studio, set),
		found: setupFromRig(rig, set.setup),
		channels: Object.fromEntries(set.setup.instruments.map((each) => [each.id, usualChannelOf(rig, each)]))
	};
}

export const {
	document: setDocument,
	get: getSet,
	edit: editSet,
	move: moveSet,
	take: takeSet
} = paperServices(SET, tell, 'A set from a file');

export const takeSetSchema = takeOrderOf(setSchema as z.ZodType<ShowSet>);

/** @throws Problem `instrument.not-found` */
export function instrumentOf(set: ShowSet, id: string): Instrument {
	const found = set.setup.instruments.find((each) => each.id === id);
	if (found) return found;
	throw new Problem(
		'instrument.not-found',
		`The set has no instrument “${id}”.`,
		'Open Zones again: it may be gone.'
	);
}

/** Sounds that can be chosen for an instrument of the set: slots of its drawers, as they were last seen. */
export async function soundsToChoose(studio: Studio, instrument: string): Promise<SlotSeen[]> {
	const set = await setDocument(studio);
	const device = deviceOf(await listDevices(studio), set, instrumentOf(set, instrument).id);
	const seen = device && (await slotsSeen(studio, device, studio.world));
	return seen ? withNames(studio, seen.slots) : [];
}
