import type { Transaction } from 'sequelize';
import {
	bankSlots,
	keepLinks,
	type LiveWorld,
	type MeantBy,
	type RestoreSource,
	type WantedSlot
} from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { areaOf, makeSlot, slotKey, writeName, type Profile, type Slot } from '../core/profile';
import { slotsInScope, type Scope } from '../core/transfer';
import { getBank } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { hashOf } from './hash';
import { unchangedSlots } from './knowing';
import { readKnowledge } from './store/knowledge';
import { getRecords, keepRecords } from './store/records';

/** What a source wants a device to hold, and by which versions what that names is meant. */
export interface Meant {
	slots: Slot[];
	meant: MeantBy;
	/** What slots were thought to hold when this was worked out, by `slotKey`. */
	over: ReadonlyMap<string, string>;
}

/** What a restore writes, and what slots were thought to hold when that was worked out. */
export type Written = Pick<Meant, 'slots' | 'over'>;

/**
 * What a restore writes: what is meant; where links are kept, with the slots that name what is moved, and the sounds that
 * come along.
 * @param known what the device is known to hold and was not touched since
 */
export function writtenOf(
	profile: Profile,
	known: readonly Slot[],
	{ slots, meant, over }: Meant,
	links: RestoreSource['links']
): Written {
	if (!links) return { slots, over };
	const { wanted } = keepLinks(profile, known, slots, { meant, bring: links === 'bring' });
	return {
		slots: wanted,
		over: new Map(known.map((slot) => [slotKey(slot.area, slot.index), hashOf(slot.bytes)]))
	};
}

/** The same from a source, by what is known of the device in a world. @throws Problem where the source is of another model or not whole */
export async function slotsOfSource(
	studio: Studio,
	device: Device,
	profile: Profile,
	source: RestoreSource,
	world: LiveWorld
): Promise<Written> {
	const meant = await meantBy(studio, device, profile, source);
	if (!source.links) return meant;
	const known = await unchangedSlots(studio, profile, await readKnowledge(studio, device.id, world));
	return writtenOf(
		profile,
		known.map(({ slot }) => slot),
		meant,
		source.links
	);
}

const NOTHING: ReadonlyMap<string, never> = new Map<string, never>();

/** @throws Problem where the source is of another model or not whole */
export async function meantBy(
	studio: Studio,
	device: Device,
	profile: Profile,
	source: RestoreSource
): Promise<Meant> {
	if (source.from === 'version') {
		const { version, profile: readBy, slots } = await openVersion(studio, source.versionId);
		if (readBy?.id !== profile.id)
			throw new Problem(
				'restore.other-model',
				`That version is ${readBy ? `of a ${readBy.maker} ${readBy.model}` : 'raw'}; “${device.name}” is a ${profile.maker} ${profile.model}.`,
				'Choose a version of the same model.',
				{ version: version.id }
			);
		const scope = slotsInScope(profile, source.scope);
		const chosen = slots.filter(({ area, index }) => scope.get(area)?.includes(index));
		const meant = new Map(chosen.map(({ area, index }) => [slotKey(area, index), slots]));
		return { slots: chosen, meant, over: NOTHING };
	}
	if (source.from === 'bank') {
		const { document } = await getBank(studio, source.bankId);
		if (document.profileId !== profile.id)
			throw new Problem(
				'restore.other-model',
				`The bank “${document.title}” is for another model than “${device.name}”.`,
				'Send it to a device of its own model.'
			);
		const records = await getRecords(
			studio,
			document.entries.flatMap((entry) => (entry ? [entry.record] : []))
		);
		return { slots: bankSlots(profile, document, records), meant: NOTHING, over: NOTHING };
	}
	const records = await getRecords(
		studio,
		source.sounds.map(({ record }) => record)
	);
	const slots = source.sounds.map(({ area, index, record, name }) => {
		const described = areaOf(profile, area);
		const bytes = records.get(record);
		if (!bytes)
			throw new Problem(
				'restore.no-sound',
				'That sound is no longer kept.',
				'Look for it by its name again.'
			);
		if (index >= described.slots || bytes.length !== profile.records[described.record].size)
			throw new Problem(
				'restore.no-slot',
				`That sound does not fit in a slot of “${described.name}” of a ${profile.model}.`,
				'Choose a slot of the area that it belongs to.'
			);
		return makeSlot(
			profile,
			area,
			index,
			name === undefined ? bytes : writeName(profile, profile.records[described.record], bytes, name)
		);
	});
	return { slots, ...(await originsOf(studio, profile, source.sounds)) };
}

/** By which versions chosen sounds are meant, and what their places were thought to hold. */
async function originsOf(
	studio: Studio,
	profile: Profile,
	sounds: Extract<RestoreSource, { from: 'sounds' }>['sounds']
): Promise<{ meant: MeantBy; over: Map<string, string> }> {
	const opened = new Map<string, readonly Slot[]>();
	const meant = new Map<string, readonly Slot[]>();
	const over = new Map<string, string>();
	for (const { area, index, of, over: thought } of sounds) {
		const key = slotKey(area, index);
		if (thought !== undefined) over.set(key, thought);
		if (of === undefined) continue;
		if (!opened.has(of)) {
			const { profile: readBy, slots } = await openVersion(studio, of);
			opened.set(of, readBy?.id === profile.id ? slots : []);
		}
		meant.set(key, opened.get(of)!);
	}
	return { meant, over };
}

/** Keeps what a restore wants, so that it can be resumed and looked up after its source has changed. */
export async function keepWanted(
	studio: Studio,
	profile: Profile,
	{ slots, over }: Written,
	transaction: Transaction
): Promise<WantedSlot[]> {
	const kept = slots.map((slot) => ({ slot, record: hashOf(slot.bytes) }));
	await keepRecords(studio, profile.id, kept, transaction);
	return kept.map(({ slot: { area, index }, record }) => {
		const thought = over.get(slotKey(area, index));
		return { area, index, record, ...(thought === undefined ? {} : { over: thought }) };
	});
}

export const wantedScope = (slots: readonly { area: string; index: number }[]): Scope => ({
	kind: 'slots',
	slots: slots.map(({ area, index }) => ({ area, index }))
});
