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
import {
	areaIn,
	areaOf,
	asVariant,
	makeSlot,
	profileTitle,
	sameFamily,
	slotKey,
	writeName,
	type Conversion,
	type Profile,
	type Slot
} from '../core/profile';
import { slotsInScope, type Scope } from '../core/transfer';
import { getBank } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { hashOf } from './hash';
import { unchangedSlots } from './knowing';
import { readKnowledge } from './store/knowledge';
import { profileOrNull } from './profiles';
import { getRecords, keepRecords, kindsOfRecords } from './store/records';

/** What a source wants a device to hold, and by which versions what that names is meant. */
export interface Meant {
	slots: Slot[];
	meant: MeantBy;
	/** What slots were thought to hold when this was worked out, by `slotKey`. */
	over: ReadonlyMap<string, string>;
	/** Where it is of another variant of the model: what is lost on the way. */
	converted: Conversion | null;
	/** It is written though the slots hold it already. */
	rewrite?: boolean;
}

/** What a restore writes, and what slots were thought to hold when that was worked out. */
export type Written = Pick<Meant, 'slots' | 'over' | 'converted' | 'rewrite'>;

/**
 * What a restore writes: what is meant; where links are kept, with the slots that name what is moved, and the sounds that
 * come along.
 * @param known what the device is known to hold and was not touched since
 */
export function writtenOf(
	profile: Profile,
	known: readonly Slot[],
	{ slots, meant, over, converted, rewrite }: Meant,
	links: RestoreSource['links']
): Written {
	if (!links) return { slots, over, converted, rewrite };
	const { wanted } = keepLinks(profile, known, slots, { meant, bring: links === 'bring' });
	return {
		slots: wanted,
		over: new Map(known.map((slot) => [slotKey(slot.area, slot.index), hashOf(slot.bytes)])),
		converted
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
	if (source.from === 'version') return ofVersion(studio, device, profile, source);
	if (source.from === 'bank') return ofBank(studio, device, profile, source);
	const sounds = await inOwnKind(studio, profile, source.sounds);
	return {
		slots: sounds.slots,
		converted: sounds.converted,
		rewrite: source.sounds.every(({ rewrite }) => rewrite === true),
		...(await originsOf(studio, profile, source.sounds))
	};
}

async function ofVersion(
	studio: Studio,
	device: Device,
	profile: Profile,
	{ versionId, scope: asked }: Extract<RestoreSource, { from: 'version' }>
): Promise<Meant> {
	const { version, profile: readBy, slots } = await openVersion(studio, versionId);
	if (!readBy || !sameFamily(readBy, profile))
		throw new Problem(
			'restore.other-model',
			`That version is ${readBy ? `of a ${profileTitle(readBy)}` : 'raw'}; “${device.name}” is a ${profileTitle(profile)}.`,
			'Choose a version of the same model.',
			{ version: version.id }
		);
	const scope = slotsInScope(profile, asked);
	const chosen = slots.filter(({ area, index }) => {
		const own = areaIn(readBy, area, profile);
		if (asked.kind === 'slots') return own !== null && scope.get(own)?.includes(index);
		// What has no place is among what is asked for: that it is lost is said.
		return own === null ? asked.kind === 'all' : scope.has(own);
	});
	const { slots: own, converted } = asVariant(readBy, chosen, profile);
	// What is chosen may name what is not.
	const all = asVariant(readBy, slots, profile).slots;
	const meant = new Map(own.map(({ area, index }) => [slotKey(area, index), all]));
	return { slots: own, meant, over: NOTHING, converted };
}

async function ofBank(
	studio: Studio,
	device: Device,
	profile: Profile,
	{ bankId }: Extract<RestoreSource, { from: 'bank' }>
): Promise<Meant> {
	const { document } = await getBank(studio, bankId);
	const of = profileOrNull(studio, document.profileId);
	if (!of || !sameFamily(of, profile))
		throw new Problem(
			'restore.other-model',
			`The bank “${document.title}” is for another model than “${device.name}”.`,
			'Send it to a device of its own model.'
		);
	const records = await getRecords(
		studio,
		document.entries.flatMap((entry) => (entry ? [entry.record] : []))
	);
	const { slots, converted } = asVariant(of, bankSlots(of, document, records), profile);
	return { slots, meant: NOTHING, over: NOTHING, converted };
}

type Sounds = Extract<RestoreSource, { from: 'sounds' }>['sounds'];

/** Chosen sounds in the slots that they are meant for; those that are kept as another variant's alone are converted. */
async function inOwnKind(
	studio: Studio,
	profile: Profile,
	sounds: Sounds
): Promise<{ slots: Slot[]; converted: Conversion | null }> {
	const hashes = sounds.map(({ record }) => record);
	const [records, kinds] = await Promise.all([getRecords(studio, hashes), kindsOfRecords(studio, hashes)]);
	let converted: Conversion | null = null;
	const slots = sounds.map(({ area, index, record, name }) => {
		const described = areaOf(profile, area);
		const own = profile.records[described.record];
		const bytes = records.get(record);
		if (!bytes)
			throw new Problem(
				'restore.no-sound',
				'That sound is no longer kept.',
				'Look for it by its name again.'
			);
		const kept = kinds.get(record) ?? [];
		const fits = kept.some(
			({ profileId, area: of }) =>
				profileId === profile.id &&
				profile.areas.some(({ id, record: its }) => id === of && its === described.record)
		);
		const other = fits
			? null
			: kept
					.map(({ profileId, area: of }) => ({ of, from: profileOrNull(studio, profileId) }))
					.find(
						({ from, of }) =>
							from?.areas.some(({ id }) => id === of) &&
							sameFamily(from, profile) &&
							areaIn(from, of, profile) === area
					);
		const isForeign = !fits && !other;
		if (index >= described.slots || isForeign || (!other && bytes.length !== own.size))
			throw new Problem(
				'restore.no-slot',
				`That sound does not fit in a slot of “${described.name}” of a ${profile.model}.`,
				'Choose a slot of the area that it belongs to.'
			);
		const named = (content: Uint8Array) =>
			name === undefined ? content : writeName(profile, own, content, name);
		if (!other) return makeSlot(profile, area, index, named(bytes));
		const from = other.from!;
		const made = asVariant(from, [makeSlot(from, other.of, index, bytes)], profile);
		converted = {
			from: made.converted!.from,
			to: made.converted!.to,
			whole: (converted?.whole ?? 0) + made.converted!.whole,
			lost: [...(converted?.lost ?? []), ...made.converted!.lost]
		};
		return makeSlot(profile, area, index, named(made.slots[0].bytes));
	});
	return { slots, converted };
}

/** By which versions chosen sounds are meant, and what their places were thought to hold. */
async function originsOf(
	studio: Studio,
	profile: Profile,
	sounds: Sounds
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
			const isKin = readBy && sameFamily(readBy, profile);
			opened.set(of, isKin ? asVariant(readBy, slots, profile).slots : []);
		}
		meant.set(key, opened.get(of)!);
	}
	return { meant, over };
}

/** Keeps what a restore wants, so that it can be resumed and looked up after its source has changed. */
export async function keepWanted(
	studio: Studio,
	profile: Profile,
	{ slots, over, rewrite }: Written,
	transaction: Transaction
): Promise<WantedSlot[]> {
	const kept = slots.map((slot) => ({ slot, record: hashOf(slot.bytes) }));
	await keepRecords(studio, profile.id, kept, transaction);
	return kept.map(({ slot: { area, index }, record }) => {
		const thought = over.get(slotKey(area, index));
		return {
			area,
			index,
			record,
			...(thought === undefined ? {} : { over: thought }),
			...(rewrite ? { rewrite } : {})
		};
	});
}

export const wantedScope = (slots: readonly { area: string; index: number }[]): Scope => ({
	kind: 'slots',
	slots: slots.map(({ area, index }) => ({ area, index }))
});
