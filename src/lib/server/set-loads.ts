import { z } from 'zod';
import { checkRestore, emptyBank, placeSound, type BankDocument } from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { makeSlot } from '../core/profile';
import {
	noLoads,
	showLoads,
	type FollowedSound,
	type LoadAsked,
	type Loading,
	type ShowLoads,
	type ShowSet
} from '../core/scene';
import { createBank, listBanks } from './banks';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { currentProfile } from './profiles';
import { deviceOf, followedSounds, seenOfSet, withNames, type SetSeen } from './set-sounds';
import { describeRecords, getRecords } from './store/records';

/** What has to be written into the instruments of a set, and when, by what is known of them. */
export async function loadsOfSet(
	studio: Studio,
	set: ShowSet,
	sounds: readonly FollowedSound[],
	seen: SetSeen
): Promise<ShowLoads> {
	const lost = new Set(
		sounds.flatMap(({ followed, instrument }) => (followed.is === 'lost' ? [instrument] : []))
	);
	if (lost.size === 0) return noLoads;
	const wanted = sounds.filter(({ instrument }) => lost.has(instrument));
	const records = await getRecords(
		studio,
		wanted.flatMap(({ sound: { kept } }) => kept?.record ?? [])
	);
	const loads = showLoads(set, wanted, {
		slots: (id) => {
			const { profile, slots } = seen.get(id)!;
			return slots.filter(({ area }) => profile.restore.some((way) => way.area === area));
		},
		kept: (record) => records.has(record),
		ms: (id, area, loads) => {
			const { profile } = seen.get(id)!;
			const slots = loads.flatMap(({ index, record }) => {
				const bytes = records.get(record);
				return bytes ? [makeSlot(profile, area, index, bytes)] : [];
			});
			return checkRestore(profile, [], slots).ms;
		}
	});
	return { ...loads, loadings: await withSlotNames(studio, loads.loadings) };
}

/** Loads whose slots say what they hold. */
async function withSlotNames(studio: Studio, loadings: readonly Loading[]): Promise<Loading[]> {
	const slots = await withNames(
		studio,
		loadings.flatMap(({ loads }) => loads.map(({ slot }) => slot))
	);
	return loadings.map((loading) => ({
		...loading,
		loads: loading.loads.map((load) => ({ ...load, slot: slots.shift()! }))
	}));
}

/** A load of a set as it is asked for. */
export const loadOrderSchema = z.strictObject({
	instrument: z.string().min(1).max(60),
	area: z.string().min(1).max(60),
	/** The id of the song that it comes before; null: the show. */
	before: z.string().min(1).max(60).nullable()
}) satisfies z.ZodType<LoadAsked>;

/** The bank of the bank builder that a load is sent from, and its device. */
export interface LoadBank {
	bank: string;
	device: string;
}

/** Lays a load of the set out as a bank, or finds the one that is alike already. @throws Problem `load.not-found` */
export async function layOutLoad(studio: Studio, set: ShowSet, asked: LoadAsked): Promise<LoadBank> {
	const seen = await seenOfSet(studio, set);
	const { loadings } = await loadsOfSet(studio, set, await followedSounds(studio, set, seen), seen);
	const loading = loadings.find(
		({ instrument, area, before }) =>
			instrument === asked.instrument && area === asked.area && (before?.id ?? null) === asked.before
	);
	const device = deviceOf(await listDevices(studio), set, asked.instrument);
	if (!loading || !device)
		throw new Problem(
			'load.not-found',
			'The set wants no such load by what is known now.',
			'Open the set again: its sounds may be there already.'
		);
	return { bank: await bankOfLoad(studio, device, set, loading), device: device.id };
}

async function bankOfLoad(
	studio: Studio,
	device: Device,
	set: ShowSet,
	{ area, before, loads }: Loading
): Promise<string> {
	const described = await describeRecords(
		studio,
		loads.map(({ sound }) => sound.kept!.record)
	);
	const title = before ? `Before ${before.name}` : `For the show${set.name ? `: ${set.name}` : ''}`;
	const document = loads.reduce<BankDocument>(
		(bank, { sound: { kept, name }, slot }) =>
			placeSound(bank, slot.index, {
				record: kept!.record,
				name: described.get(kept!.record)?.name ?? '',
				from: `The set: ${name}`,
				song: (before?.name ?? '').slice(0, 40).trim()
			}),
		emptyBank(currentProfile(studio, device.profileId ?? ''), area, title)
	);
	const same = (await listBanks(studio, device.id)).find((bank) => sameDocument(bank.document, document));
	return (same ?? (await createBank(studio, device.id, document))).id;
}

const sameDocument = (a: BankDocument, b: BankDocument) => JSON.stringify(a) === JSON.stringify(b);
