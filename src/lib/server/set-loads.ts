import { z } from 'zod';
import { checkRestore, emptyBank, placeSound, type BankDocument } from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { makeSlot, type Profile } from '../core/profile';
import {
	instrumentsOf,
	noLoads,
	showLoads,
	type FollowedSound,
	type LoadAsked,
	type Loading,
	type ShowLoads,
	type ShowSet,
	type SlotSeen
} from '../core/scene';
import { createBank, listBanks } from './banks';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { currentProfile } from './profiles';
import { followedSounds, slotsSeen, withNames } from './set-sounds';
import { describeRecords, getRecords } from './store/records';

/** What has to be written into the instruments of a set, and when, by what is known in the studio. */
export async function loadsOfSet(
	studio: Studio,
	set: ShowSet,
	sounds: readonly FollowedSound[]
): Promise<ShowLoads> {
	const lost = instrumentsOf(sounds.filter(({ followed }) => followed.is === 'lost'));
	if (lost.length === 0) return noLoads;
	const devices = await listDevices(studio);
	const seen = new Map<string, { profile: Profile; slots: readonly SlotSeen[] }>();
	for (const id of lost) {
		const of = set.setup.instruments.find((each) => each.id === id)?.device;
		const device = devices.find((each) => each.id === of);
		const found = device && (await slotsSeen(studio, device, studio.world));
		if (!found) continue;
		const { restore } = found.profile;
		const writable = found.slots.filter(({ area }) => restore.some((way) => way.area === area));
		seen.set(id, { profile: found.profile, slots: await withNames(studio, writable) });
	}
	const records = await getRecords(
		studio,
		sounds.flatMap(({ sound: { kept }, instrument }) => (kept && seen.has(instrument) ? [kept.record] : []))
	);
	return showLoads(
		set,
		sounds.filter(({ instrument }) => seen.has(instrument)),
		{
			slots: (id) => seen.get(id)?.slots ?? [],
			kept: (record) => records.has(record),
			ms: (id, area, loads) => {
				const profile = seen.get(id)?.profile;
				if (!profile) return null;
				const wanted = loads.flatMap(({ index, record }) => {
					const bytes = records.get(record);
					return bytes ? [makeSlot(profile, area, index, bytes)] : [];
				});
				return checkRestore(profile, [], wanted).ms;
			}
		}
	);
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
	const { loadings } = await loadsOfSet(studio, set, await followedSounds(studio, set));
	const loading = loadings.find(
		({ instrument, area, before }) =>
			instrument === asked.instrument && area === asked.area && (before?.id ?? null) === asked.before
	);
	const of = set.setup.instruments.find(({ id }) => id === asked.instrument)?.device;
	const device = (await listDevices(studio)).find(({ id }) => id === of);
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
