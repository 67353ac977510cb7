import type { Device } from '../core/gear';
import { toHex } from '../core/midi';
import { Problem } from '../core/problem';
import {
	areaOf,
	decoding,
	lookingForTold,
	looseDumps,
	placeDumps,
	profileTitle,
	recognising,
	sameFamily,
	splitting,
	TOLD,
	type Dump,
	type DumpPart,
	type Profile
} from '../core/profile';
import { manufacturerLabel, readingDumpFile, type DumpFile } from '../core/sysex';
import { roleOf } from '../core/rig';
import type { FileInspection, FilePart, FittingDevice, KeptAlready, Version } from '../core/drawer';
import type { Studio } from './db/connection';
import { keepVersion, keepVersionIn, type NewVersion } from './drawer';
import { looseInFile, PLACED, placesOf, type PlaceOrder } from './loose-dumps';
import { getDevice, listDevices } from './gear';
import { hashOf } from './hash';
import { eachInSteps, inSteps } from './in-steps';
import { currentProfile, knownProfiles, profileOrNull } from './profiles';
import { versionsBeginning, versionsHolding } from './store/versions';

/** @throws Problem `file.no-sysex` where there is nothing to keep */
async function readFile(studio: Studio, bytes: Uint8Array, name: string): Promise<DumpFile> {
	const read = await inSteps(readingDumpFile(bytes));
	const file = await inSteps(lookingForTold(read, knownProfiles(studio)));
	if (file.messages.length === 0)
		throw new Problem(
			'file.no-sysex',
			`There is no system exclusive message in “${name}”.`,
			'Choose a .syx file, or a .mid file that holds a dump.',
			{ bytes: bytes.length }
		);
	return file;
}

/** Versions that hold exactly these messages; all of them are only hashed where one may. */
async function alreadyKept(studio: Studio, messages: readonly Uint8Array[]): Promise<KeptAlready[]> {
	const begin = await versionsBeginning(studio, hashOf(messages[0]), messages.length);
	return begin.length === 0 ? [] : versionsHolding(studio, await eachInSteps(messages, hashOf));
}

/** Looks at a file without storing anything. */
export async function inspectFile(studio: Studio, bytes: Uint8Array, name: string): Promise<FileInspection> {
	const file = await readFile(studio, bytes, name);
	const whole = file.messages.map((message) => message.bytes);
	const known = knownProfiles(studio);
	const recognised = await inSteps(recognising(known, whole));
	const [best] = recognised;
	const devices = await listDevices(studio);
	const read = best ? await readIn(studio, best.profile, whole, devices) : { slots: [], loose: [] };
	const parts: FilePart[] = [];
	for (const part of await inSteps(splitting(known, whole, recognised)))
		parts.push(await describePart(studio, part, file.messages, devices));
	const truncated = file.messages.filter(({ complete }) => !complete);
	return {
		kind: file.kind,
		messages: whole.length,
		bytes: whole.reduce((sum, { length }) => sum + length, 0),
		truncated: truncated.length,
		firstTruncated: truncated.slice(0, TOLD).map(({ offset, bytes: { length } }) => ({ offset, length })),
		remarks: file.remarks,
		recognised: best
			? {
					profileId: best.profile.id,
					title: profileTitle(best.profile),
					read: best.read,
					foreign: best.foreign,
					deviceIds: best.deviceIds,
					damaged: best.damaged,
					firstDamaged: best.firstDamaged.map(({ index, why }) => ({ index, says: why.says }))
				}
			: null,
		...read,
		parts,
		devices: fitting(studio, devices, best?.profile ?? null, best?.deviceIds ?? []),
		already: parts.length === 1 ? parts[0].already : await alreadyKept(studio, whole)
	};
}

/** What a profile reads in messages. */
async function readIn(
	studio: Studio,
	profile: Profile,
	messages: readonly Uint8Array[],
	devices: readonly Device[]
): Promise<Pick<FileInspection, 'slots' | 'loose'>> {
	const dump = await inSteps(decoding(profile, messages));
	return {
		slots: dump.slots.map(({ area, label, name }) => ({ area, label, name })),
		loose: await looseInFile(studio, profile, dump, devices)
	};
}

/** The devices that messages could belong to; of twins, the one whose device ID they carry comes first. */
const fitting = (
	studio: Studio,
	devices: readonly Device[],
	profile: Profile | null,
	deviceIds: number[]
): FittingDevice[] =>
	devices.map((device) => fit(studio, device, profile, deviceIds)).sort((a, b) => rank(a) - rank(b));

async function describePart(
	studio: Studio,
	{ profile, deviceId, messages }: DumpPart,
	file: DumpFile['messages'],
	devices: readonly Device[]
): Promise<FilePart> {
	const own = messages.map((index) => file[index]);
	const bytes = own.map((message) => message.bytes);
	const cut = own.find(({ complete }) => !complete);
	const dump = profile && (await inSteps(decoding(profile, bytes)));
	const loose = dump ? looseDumps(profile, dump) : [];
	const [damaged] = (profile && (await inSteps(recognising([profile], bytes)))[0]?.firstDamaged) ?? [];
	return {
		title: profile ? profileTitle(profile) : 'Unknown to every profile',
		profileId: profile?.id ?? null,
		deviceId,
		messages,
		slots: profile
			? {
					held: dump!.slots.length,
					of: profile.areas.reduce((sum, { slots }) => sum + slots, 0)
				}
			: null,
		fault: cut
			? `Truncated: the message at byte ${cut.offset} has no end.`
			: damaged
				? `Message ${messages[damaged.index] + 1} is damaged: ${damaged.why.says}.`
				: loose.length > 0
					? `Message ${messages[loose[0].message] + 1} does not say which ${areaOf(profile!, loose[0].area).slotWord} it is of: open the file by itself.`
					: '',
		devices: fitting(studio, devices, profile, deviceId === null ? [] : [deviceId]),
		already: await alreadyKept(studio, bytes)
	};
}

function fit(studio: Studio, device: Device, profile: Profile | null, deviceIds: number[]): FittingDevice {
	const base = { id: device.id, name: device.name };
	if (!profile)
		return {
			...base,
			fits: device.profileId === null && roleOf(device) === 'instrument',
			why: device.profileId ? 'has a profile that does not know this file' : 'kept raw'
		};
	const is = profileOrNull(studio, device.profileId);
	if (!is || !sameFamily(is, profile))
		return { ...base, fits: false, why: device.profileId ? 'is another model' : 'has no profile' };
	if (is.id !== profile.id) return { ...base, fits: true, why: OTHER_VARIANT };
	const own = device.deviceId ?? profile.addressing.deviceId?.default ?? -1;
	const named = deviceIds.length > 0 && !deviceIds.includes(own);
	return {
		...base,
		fits: true,
		why: named ? OTHER_ID : 'same model'
	};
}

const OTHER_ID = 'same model, another device ID';
const OTHER_VARIANT = 'same model, another variant';
const rank = ({ fits, why }: FittingDevice) => (fits ? [OTHER_ID, OTHER_VARIANT].indexOf(why) : 2);

/** What of a file is kept in which drawer; all of it, where no messages are named. */
export interface FileOrder extends PlaceOrder {
	bytes: Uint8Array;
	name: string;
	deviceId: string;
	/** Numbers of messages in the file, from 0. */
	messages?: readonly number[];
	takenAt?: string;
	note?: string;
}

/**
 * Stores a file, or a part of it, as a version of a device. Every message must be whole and, where the device has a
 * profile, readable by it; a device without a profile keeps the messages raw.
 * @throws Problem `file.truncated`, `file.wrong-model`, `file.damaged`
 */
export async function storeFile(studio: Studio, order: FileOrder): Promise<Version> {
	const version = await versionOf(studio, order);
	return keepVersion(studio, version);
}

/** Stores the parts of a file, each in its own drawer: all of them or none. */
export async function storeParts(studio: Studio, orders: readonly FileOrder[]): Promise<Version[]> {
	const versions: NewVersion[] = [];
	for (const order of orders) versions.push(await versionOf(studio, order));
	return studio.write(async (transaction) => {
		const kept: Version[] = [];
		for (const version of versions) kept.push(await keepVersionIn(studio, version, transaction));
		return kept;
	});
}

/** Messages of a device as its own profile reads them, or as that of the variant does that it was when they were taken. */
async function asItWas(
	studio: Studio,
	own: Profile,
	messages: readonly Uint8Array[]
): Promise<{ profile: Profile; dump: Dump }> {
	const dump = await inSteps(decoding(own, messages));
	if (own.variant && dump.messages.some(({ read }) => !read)) {
		const kin = knownProfiles(studio).filter((profile) => sameFamily(profile, own));
		const other = (await inSteps(recognising(kin, messages))).find(
			({ damaged, foreign }) => damaged + foreign === 0
		);
		if (other) return { profile: other.profile, dump: await inSteps(decoding(other.profile, messages)) };
	}
	return { profile: own, dump };
}

/** Checks a part of a file against the device that shall keep it. */
async function versionOf(studio: Studio, order: FileOrder): Promise<NewVersion> {
	const file = await readFile(studio, order.bytes, order.name);
	const device = await getDevice(studio, order.deviceId);
	const asked = order.messages && new Set(order.messages);
	const numbers = [...file.messages.keys()].filter((index) => asked?.has(index) ?? true);
	const chosen = numbers.map((index) => file.messages[index]);
	const cut = chosen.find(({ complete }) => !complete);
	if (cut)
		throw new Problem(
			'file.truncated',
			`“${order.name}” is truncated: the message at byte ${cut.offset} has no end.`,
			'Part of the dump is missing. Look for another copy, or take the dump again. Nothing was stored.',
			{ offset: cut.offset, length: cut.bytes.length }
		);
	let messages = chosen.map(({ bytes }) => bytes);
	const own = device.profileId ? currentProfile(studio, device.profileId) : null;
	const reading = own && (await asItWas(studio, own, messages));
	let note = order.note ?? '';
	if (reading) {
		const { profile, dump } = reading;
		const bad = dump.messages.findIndex((message) => !message.read);
		if (bad >= 0) {
			const [other] = await inSteps(recognising(knownProfiles(studio), messages));
			if (other?.profile.id !== profile.id) {
				const kind = other
					? `of a ${profileTitle(other.profile)}`
					: `of a maker with the ID ${manufacturerLabel(messages[bad]).id || toHex(messages[bad].subarray(1, 2))}`;
				throw new Problem(
					'file.wrong-model',
					`“${order.name}” is a dump ${kind}; “${device.name}” is a ${profileTitle(profile)}.`,
					'Choose a device of that model. Nothing was stored.'
				);
			}
			const why = other.firstDamaged[0]?.why.says ?? 'one message is of another kind';
			throw new Problem(
				'file.damaged',
				`Message ${bad + 1} of “${order.name}” is damaged: ${why}.`,
				'Look for another copy, or take the dump again. Nothing was stored.',
				{ index: bad, offset: chosen[bad].offset }
			);
		}
		const places = placesOf(profile, dump, order, numbers);
		messages = placeDumps(profile, messages, places);
		if (places.length > 0) note = [note, PLACED].filter(Boolean).join(' ');
	}
	return {
		device,
		profile: reading?.profile ?? null,
		messages,
		kind: 'imported',
		world: 'file',
		proof: 'none',
		takenAt: order.takenAt,
		label: { title: order.name.slice(0, 80), note }
	};
}
