import type { Transaction } from 'sequelize';
import {
	bankSlots,
	keepLinks,
	type KeptLinks,
	type LiveWorld,
	type RestoreSource,
	type WantedSlot
} from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { areaOf, makeSlot, writeName, type Profile, type Slot } from '../core/profile';
import { slotsInScope, type Scope } from '../core/transfer';
import { getBank } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { hashOf } from './hash';
import { unchangedSlots } from './knowing';
import { readKnowledge } from './store/knowledge';
import { getRecords, keepRecords } from './store/records';

/** What a source wants a device to hold, and where what these slots name is meant. */
interface Meant {
	slots: Slot[];
	/** The slots of the place that they come from; null where that is not kept with them. */
	there: Slot[] | null;
}

/**
 * The slots that a source wants a device to hold; where it keeps links, with those that name what is moved.
 * @throws Problem where the source is of another model or not whole
 */
export async function slotsOfSource(
	studio: Studio,
	device: Device,
	profile: Profile,
	source: RestoreSource,
	world: LiveWorld
): Promise<Slot[]> {
	const { slots, there } = await meantBy(studio, device, profile, source);
	return source.links === 'keep'
		? keepLinks(profile, await heldBy(studio, device, profile, world), slots, there ?? undefined).wanted
		: slots;
}

/** What a restore from a source does to those that name what it moves. */
export async function linksOfSource(
	studio: Studio,
	device: Device,
	profile: Profile,
	source: RestoreSource,
	world: LiveWorld
): Promise<KeptLinks> {
	const { slots, there } = await meantBy(studio, device, profile, source);
	return keepLinks(profile, await heldBy(studio, device, profile, world), slots, there ?? undefined);
}

/** What a device is known to hold and was not touched since. */
async function heldBy(studio: Studio, device: Device, profile: Profile, world: LiveWorld): Promise<Slot[]> {
	const known = await unchangedSlots(studio, profile, await readKnowledge(studio, device.id, world));
	return known.map(({ slot }) => slot);
}

/** @throws Problem where the source is of another model or not whole */
async function meantBy(
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
		return { slots: slots.filter(({ area, index }) => scope.get(area)?.includes(index)), there: slots };
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
		return { slots: bankSlots(profile, document, records), there: null };
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
	return { slots, there: null };
}

/** Keeps what a restore wants, so that it can be resumed and looked up after its source has changed. */
export async function keepWanted(
	studio: Studio,
	profile: Profile,
	slots: readonly Slot[],
	transaction: Transaction
): Promise<WantedSlot[]> {
	const kept = slots.map((slot) => ({ slot, record: hashOf(slot.bytes) }));
	await keepRecords(studio, profile.id, kept, transaction);
	return kept.map(({ slot: { area, index }, record }) => ({ area, index, record }));
}

export const wantedScope = (slots: readonly { area: string; index: number }[]): Scope => ({
	kind: 'slots',
	slots: slots.map(({ area, index }) => ({ area, index }))
});
