import type { Transaction } from 'sequelize';
import { z } from 'zod';
import {
	compilePage,
	hostNeedStates,
	takeTemplate,
	unlike,
	type ControlMap,
	type ControllerMemory,
	type HeldTemplate,
	type HostNeedState,
	type Lost,
	type Surface
} from '../core/control';
import {
	lastSeen,
	liveWorldSchema,
	seenOf,
	stateOf,
	type Knowledge,
	type LiveWorld,
	type SlotRef
} from '../core/drawer';
import type { Device } from '../core/gear';
import { sameBytes } from '../core/midi';
import { Problem } from '../core/problem';
import { areaLabels, areaOf, makeSlot, readName, type Profile } from '../core/profile';
import { putUnit } from './bench';
import type { Studio } from './db/connection';
import {
	addDevice,
	factsOfModel,
	freeName,
	getDevice,
	listDevices,
	plugDevice,
	simulatedProfiles
} from './gear';
import { hashOf } from './hash';
import { editMap, getMap, type OpenMap } from './maps';
import { knownProfiles } from './profiles';
import { readStudioRig } from './rig';
import { readKnowledge } from './store/knowledge';
import { mapsOfSurface, noteSent } from './store/maps';
import { getRecords, keepRecords } from './store/records';

/** Which slot of which controller a page is about. */
const place = {
	page: z.number().int().min(1).max(128),
	device: z.string().min(1).max(60),
	slot: z.number().int().min(0).max(1023)
};
/** A page for a slot of a controller. */
export const sendPageSchema = z.strictObject({ ...place, world: liveWorldSchema });
/** What a slot holds, for a page. */
export const takeTemplateSchema = z.strictObject({
	...place,
	world: liveWorldSchema,
	revision: z.number().int().min(1)
});

const memoryProfile = (studio: Studio, { id }: Surface): Profile | null =>
	knownProfiles(studio).find(({ surface }) => surface?.body === id) ?? null;

const none = (surface: Surface) =>
	new Problem(
		'controller.not-found',
		`No profile says how the memory of a ${surface.model} is read and written.`,
		'Set it up by hand, from the printed strips.'
	);

/** What was last seen in a controller's slots, by slot. */
async function heldBy(
	studio: Studio,
	profile: Profile,
	knowledge: Knowledge,
	sightOf = lastSeen,
	transaction?: Transaction
): Promise<Map<number, Uint8Array>> {
	const area = areaOf(profile, profile.surface!.area);
	const seen = Array.from({ length: area.slots }, (_, index) => sightOf(knowledge, { area: area.id, index }));
	const records = await getRecords(
		studio,
		seen.flatMap((sight) => (sight ? [sight.record] : [])),
		transaction
	);
	return new Map(
		seen.flatMap((sight, slot) => {
			const bytes = sight && records.get(sight.record);
			return bytes ? [[slot, bytes] as const] : [];
		})
	);
}

/** How a page of a map stands to the memory of its controller. @throws Problem `map.not-found`, `device.not-found` */
export async function controllerMemory(
	studio: Studio,
	mapId: string,
	{ page, world, device: wanted, slot }: { page: number; world: LiveWorld; device?: string; slot?: number }
): Promise<ControllerMemory> {
	const { document: map } = await getMap(studio, mapId);
	const profile = memoryProfile(studio, map.surface);
	const controllers = (await listDevices(studio)).filter(({ profileId }) => profileId === profile?.id);
	const told = {
		controllers: controllers.map(({ id, name, benchUnit }) => ({ id, name, benchUnit })),
		model: profile?.model ?? null,
		slotWord: profile ? areaOf(profile, profile.surface!.area).slotWord : '',
		whole: profile?.surface?.pages !== undefined
	};
	const device = controllers.find(({ id }) => id === wanted) ?? controllers.at(0);
	if (!profile || !device) return { ...told, ...nowhere };
	const knowledge = await readKnowledge(studio, device.id, world);
	const area = areaOf(profile, profile.surface!.area);
	const held = await heldBy(studio, profile, knowledge);
	const exact = [...held].flatMap(([at, bytes]) => (isExactly(profile, map, page, bytes) ? [at] : []));
	const chosen = slot ?? exact[0] ?? (told.whole ? 0 : Math.min(page, area.slots) - 1);
	const there = held.get(chosen);
	return {
		...told,
		device: device.id,
		slot: chosen,
		slots: areaLabels(area).map((label, index): HeldTemplate => {
			const ref = { area: area.id, index };
			const sight = lastSeen(knowledge, ref);
			const bytes = held.get(index);
			return {
				slot: index,
				label,
				name: bytes ? readName(profile, profile.records[area.record], bytes) : null,
				state: stateOf(knowledge, ref),
				at: sight?.at ?? null,
				proof: sight?.proof ?? null
			};
		}),
		exact,
		unlike: there ? unlike(profile, map, page, there) : [],
		lost: compilePage(profile, map, page, there).lost
	};
}

const nowhere = { device: null, slot: null, slots: [], exact: [], unlike: [], lost: [] };

/** Whether a template says all that a page does, and nothing else. */
const isExactly = (profile: Profile, map: ControlMap, page: number, held: Uint8Array): boolean =>
	sameBytes(compilePage(profile, map, page, held).bytes, held);

interface Placed {
	map: OpenMap;
	profile: Profile;
	device: Device;
	held: Uint8Array | undefined;
}

async function placed(
	studio: Studio,
	mapId: string,
	{ page, device: deviceId, slot, world }: z.infer<typeof sendPageSchema>
): Promise<Placed> {
	const map = await getMap(studio, mapId);
	const device = await getDevice(studio, deviceId);
	const profile = memoryProfile(studio, map.document.surface);
	if (!profile) throw none(map.document.surface);
	if (device.profileId !== profile.id)
		throw new Problem(
			'controller.other',
			`“${device.name}” is no ${profile.model}.`,
			`Choose a ${profile.maker} ${profile.model}.`
		);
	if (!map.document.pages.some(({ number }) => number === page))
		throw new Problem('map.page.not-found', `The map has no page ${page}.`, 'Look at it as it is now.');
	const area = areaOf(profile, profile.surface!.area);
	if (slot >= area.slots)
		throw new Problem(
			'controller.slot.not-found',
			`A ${profile.model} has ${area.slots} ${area.slotWord}s.`,
			'Choose one of these.'
		);
	const knowledge = await readKnowledge(studio, device.id, world);
	const sight = lastSeen(knowledge, { area: area.id, index: slot });
	const held = sight ? (await getRecords(studio, [sight.record])).get(sight.record) : undefined;
	return { map, profile, device, held };
}

/**
 * Compiles a page for a slot and keeps what it came to, as the tray is then asked for it.
 * @throws Problem `map.not-found`, `controller.not-found`, `controller.other`, `controller.slot.not-found`
 */
export async function preparePage(
	studio: Studio,
	mapId: string,
	order: z.infer<typeof sendPageSchema>
): Promise<{ ask: string; lost: Lost[] }> {
	const { map, profile, device, held } = await placed(studio, mapId, order);
	const { bytes, lost } = compilePage(profile, map.document, order.page, held);
	const { area } = profile.surface!;
	const record = hashOf(bytes);
	await studio.write((transaction) =>
		keepRecords(
			studio,
			profile.id,
			[{ slot: makeSlot(profile, area, order.slot, bytes), record }],
			transaction
		)
	);
	return { ask: `sounds=${area}:${order.slot}:${record}&device=${device.id}`, lost };
}

/**
 * Makes a page say what a slot was last seen to hold, as a step that can be undone.
 * @throws Problem as {@link preparePage}, `map.conflict`, `controller.unread` where the slot was never read
 */
export async function takeOver(
	studio: Studio,
	mapId: string,
	{ revision, ...order }: z.infer<typeof takeTemplateSchema>
): Promise<OpenMap> {
	const { map, profile, device, held } = await placed(studio, mapId, order);
	const label = areaLabels(areaOf(profile, profile.surface!.area))[order.slot];
	if (!held)
		throw new Problem(
			'controller.unread',
			`What ${label} of “${device.name}” holds is not known.`,
			'Back the controller up first.'
		);
	const edits = takeTemplate(profile, map.document, order.page, held);
	const { word } = map.document.surface.pages;
	const says = profile.surface!.pages
		? `All ${word}s as ${label} holds them`
		: `${word} ${order.page} as ${label} holds it`;
	return editMap(studio, mapId, { revision, says, edits });
}

/**
 * Notes that templates of a controller were written: a page that one of these slots held before, holds now, or stands for by
 * its number was not walked since; where a slot holds all pages of a map, none was. A slot that was sent along and holds what
 * it held before is as it was.
 * @param before what was known before anything was written
 */
export async function noteTemplatesSent(
	studio: Studio,
	{
		deviceId,
		profile,
		world,
		before,
		touched
	}: { deviceId: string; profile: Profile; world: LiveWorld; before: Knowledge; touched: readonly SlotRef[] },
	transaction: Transaction
): Promise<void> {
	const { area, body, pages: together } = profile.surface!;
	const after = await readKnowledge(studio, deviceId, world, transaction);
	const was = await heldBy(studio, profile, before, seenOf, transaction);
	const is = await heldBy(studio, profile, after, seenOf, transaction);
	const other = [...new Set(touched.filter((ref) => ref.area === area).map(({ index }) => index))].filter(
		(slot) => {
			const [one, now] = [was.get(slot), is.get(slot)];
			return !one || !now || !sameBytes(one, now) || stateOf(after, { area, index: slot }) !== 'proved';
		}
	);
	if (other.length === 0) return;
	const at = studio.now().toISOString();
	for (const { id, document } of await mapsOfSurface(studio, body, transaction)) {
		const pages = document.pages.filter(({ number }) =>
			other.some(
				(slot) =>
					// A slot that holds all pages may be the one that plays.
					together !== undefined ||
					number === slot + 1 ||
					[was.get(slot), is.get(slot)].some((held) => held && isExactly(profile, document, number, held))
			)
		);
		if (pages.length > 0)
			await noteSent(
				studio,
				id,
				pages.map(({ number }) => ({ page: number, world, at })),
				transaction
			);
	}
}

/** Sockets of a surface, as a device of the catalogue has them. */
const socketsOf = ({ ports }: Surface) =>
	ports.map(({ id, name, connector }) => ({
		id,
		name,
		connector,
		direction: connector.startsWith('usb') ? ('both' as const) : ('out' as const)
	}));

/** Adds the controller of a map to the catalogue; in a studio on the bench, with one to play on. @throws Problem `controller.not-found` */
export async function addController(studio: Studio, mapId: string): Promise<Device> {
	const { document: map } = await getMap(studio, mapId);
	const profile = memoryProfile(studio, map.surface);
	if (!profile) throw none(map.surface);
	const device = await addDevice(studio, {
		...factsOfModel(studio, profile.id, await freeName(studio, profile.model)),
		ports: socketsOf(map.surface)
	});
	if (device.benchUnit !== null || studio.world !== 'bench' || !simulatedProfiles().includes(profile.id))
		return device;
	const unit = await putUnit(studio, profile.id, device.name, seedOf(device.id));
	return plugDevice(studio, device.id, unit.id);
}

/** A number that a unit's made-up memory is made from. */
const seedOf = (id: string): number => parseInt(hashOf(Buffer.from(id)).slice(0, 8), 16);

/** What a map needs of its host's ports, and how these are for each controller of Gear. @throws Problem `map.not-found` */
export async function mapHostNeeds(
	studio: Studio,
	mapId: string
): Promise<{ id: string; name: string; needs: HostNeedState[] }[]> {
	const { document: map } = await getMap(studio, mapId);
	const { rig } = await readStudioRig(studio);
	const model = `${map.surface.maker} ${map.surface.model}`.trim();
	return rig.devices
		.filter((device) => device.kind === 'controller' || device.model === model || device.id === map.gear)
		.map((device) => ({ id: device.id, name: device.name, needs: hostNeedStates(map, rig, device.id) }));
}
