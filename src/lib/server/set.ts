import { z } from 'zod';
import { pageTitle } from '../core/control';
import { fileStem, lastSeen, recordChange, stateOf, type LiveWorld } from '../core/drawer';
import type { Device } from '../core/gear';
import { recallOf, slotLabel, type Profile } from '../core/profile';
import { Problem } from '../core/problem';
import {
	changeBetween,
	checkZones,
	followSound,
	readiness,
	sceneFile,
	sceneNumbered,
	sceneWays,
	setSchema,
	setupFromRig,
	soundsOf,
	usualChannelOf,
	type Followed,
	type FollowedSound,
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
import { profileOrNull } from './profiles';
import { readStudioRig } from './rig';
import { heldInWorlds } from './set-held';
import { readKnowledge } from './store/knowledge';
import { mapRows } from './store/maps';
import { describeRecords } from './store/records';

const SET: PaperKind<ShowSet> = { kind: 'set', a: 'a set', schema: setSchema, empty: setSchema.parse({}) };

/** The set, with what is wrong on its desk, where its sounds are now, and how its instruments are reached. */
export type OpenSet = Paper<ShowSet> & ToldSet;

/** What is known of the slots that a device's program changes select, without their names, and the profile that says how. */
async function slotsSeen(
	studio: Studio,
	device: Device,
	world: LiveWorld
): Promise<{ profile: Profile; slots: SlotSeen[] } | null> {
	const profile = profileOrNull(studio, device.profileId);
	if (!profile) return null;
	const knowledge = await readKnowledge(studio, device.id, world);
	const refs = profile.areas.flatMap((area) =>
		area.recall ? Array.from({ length: area.slots }, (_, index) => ({ area, index })) : []
	);
	return {
		profile,
		slots: refs.map(({ area, index }) => {
			const sight = lastSeen(knowledge, { area: area.id, index });
			return {
				area: area.id,
				index,
				label: slotLabel(area.labels, index),
				record: sight?.record ?? null,
				name: null,
				state: stateOf(knowledge, { area: area.id, index }),
				select: recallOf(area, index),
				at: sight?.at ?? null
			};
		})
	};
}

const recordsIn = (slots: readonly SlotSeen[]) => slots.flatMap(({ record }) => record ?? []);
const named = (slot: SlotSeen, records: ReadonlyMap<string, { name: string | null }>): SlotSeen => ({
	...slot,
	name: slot.record === null ? null : (records.get(slot.record)?.name ?? null)
});

/** Where the sounds of a set are now, by what is known of each instrument's drawers. */
async function followed(studio: Studio, set: ShowSet): Promise<FollowedSound[]> {
	const sounds = soundsOf(set);
	const devices = new Map((await listDevices(studio)).map((device) => [device.id, device]));
	const deviceOf = new Map(
		set.setup.instruments.map((each) => [
			each.id,
			each.device === null ? undefined : devices.get(each.device)
		])
	);
	const seen = new Map<string, Awaited<ReturnType<typeof slotsSeen>>>();
	for (const { instrument, sound } of sounds) {
		const device = deviceOf.get(instrument);
		if (sound.kept && device && !seen.has(instrument))
			seen.set(instrument, await slotsSeen(studio, device, studio.world));
	}
	// Only what is no longer where it was has to be compared.
	const records = await describeRecords(studio, [
		...new Set(
			sounds.flatMap(({ instrument, sound: { kept } }) => {
				const slot = seen
					.get(instrument)
					?.slots.find(({ area, index }) => area === kept?.area && index === kept.index);
				return kept && slot?.record && slot.record !== kept.record ? [kept.record, slot.record] : [];
			})
		)
	]);
	const found = sounds.map((sound) => {
		const here = seen.get(sound.instrument);
		const { kept } = sound.sound;
		const likeness = (record: string): 'renamed' | 'edited' | null => {
			const [was, is] = [records.get(kept!.record), records.get(record)];
			if (!here || !was || !is) return null;
			const change = recordChange(here.profile, kept!.area, was.bytes, is.bytes);
			if (!change) return null;
			if (change.parameters.length === 0 && change.otherBytes === 0) return 'renamed';
			// A sound that kept its name is the same one, worked on; another name is another sound.
			return change.name === null ? 'edited' : null;
		};
		return { ...sound, followed: followSound(sound.sound, here?.slots ?? [], likeness) };
	});
	const told = found.flatMap(({ followed }) => [
		...(followed.slot ? [followed.slot] : []),
		...('to' in followed ? followed.to : [])
	]);
	const names = await describeRecords(studio, [...new Set(recordsIn(told))]);
	return found.map(({ followed, ...sound }): FollowedSound => {
		const slot = followed.slot && named(followed.slot, names);
		const to = 'to' in followed ? { to: followed.to.map((each) => named(each, names)) } : {};
		return { ...sound, followed: { ...followed, ...to, slot } as Followed };
	});
}

/** Where the sounds of a set are, and whether a show can be played with it, by what is known in the studio. */
async function looked(studio: Studio, set: ShowSet, ways: SceneWays) {
	const sounds = await followed(studio, set);
	const controllers = (await mapRows(studio)).map(({ document: { name, pages } }) => ({
		name,
		pages: pages.map(pageTitle)
	}));
	const notes: StudioNotes = {
		power: await powerDocument(studio),
		floor: await floorDocument(studio),
		controllers
	};
	return { sounds, controllers, readiness: readiness(set, sounds, ways, lineOf(set, ways), notes) };
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
	const { device } = instrumentOf(await setDocument(studio), instrument);
	const one = (await listDevices(studio)).find(({ id }) => id === device);
	const slots = one ? ((await slotsSeen(studio, one, studio.world))?.slots ?? []) : [];
	const names = await describeRecords(studio, [...new Set(recordsIn(slots))]);
	return slots.map((slot) => named(slot, names));
}
