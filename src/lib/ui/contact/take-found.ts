import type { Found, Sign, Surroundings, TakeItem } from '../../core/contact';
import { ALL_DEVICES } from '../../core/sysex';
import { firmwareOf } from '../../core/transfer';
import { call } from '../../hardware/api';
import { desk } from '../../hardware/desk.svelte';
import { midiDesk } from '../../hardware/midi-desk.svelte';
import { problemOf } from '../../core/problem';
import { attempt } from '../attempt';
import { notices } from '../notices.svelte';
import { refresh } from '../refresh';
import { count } from '../words';

/** What the server did, and what undoes it. */
export interface Taken {
	devices: { id: string; name: string; fresh: boolean }[];
	besides: string[];
	undo: unknown;
}

/** Who answers a discovery alone has no device ID. */
const ownId = ({ identity }: Found['heard']): number | null =>
	identity.deviceId === ALL_DEVICES ? null : identity.deviceId;

/** Whether no profile knows it, and it can say itself what it is. */
export const canDescribe = ({ heard, entry }: Found): boolean => heard.describes && entry.profileId === null;

/**
 * What was found, each that no profile knows and that describes itself with the profile that is written from its own word.
 * `failed` says of which there is none, and why.
 */
export async function withDescriptions(
	found: readonly Found[],
	around: Surroundings
): Promise<{ known: Found[]; failed: string[] }> {
	const taken = around.profiles.map(({ id }) => id);
	const failed: string[] = [];
	const known: Found[] = [];
	for (const one of found) {
		let { profileId } = one.entry;
		if (canDescribe(one))
			try {
				const { learnModel } = await import('../../hardware/learn-model');
				profileId = await learnModel(one.heard, taken, known);
				taken.push(profileId);
			} catch (error) {
				const { message, remedy } = problemOf(error);
				failed.push(`${message} ${remedy}`);
			}
		known.push({ ...one, entry: { ...one.entry, profileId } });
	}
	return { known, failed };
}

/** What was found as an order to take it: as the device that it is likeliest to be, or as the one that is said. */
export const itemOf = (
	{ heard, entry }: Found,
	name = '',
	device: string | null = entry.device?.id ?? null
): TakeItem => {
	const bench = desk.world === 'bench';
	return {
		out: bench ? null : heard.out.id,
		in: bench ? null : heard.in.id,
		unit: bench ? heard.out.id : null,
		device,
		name,
		profileId: entry.profileId,
		deviceId: ownId(heard),
		answered: true,
		firmware: firmwareOf(heard.identity)
	};
};

/** Something that came in unasked, as what the musician says it is. */
export const itemOfSign = (
	{ port, deviceId }: Sign,
	{ out, device, profileId, name }: Pick<TakeItem, 'out' | 'device' | 'profileId' | 'name'>
): TakeItem => ({
	out,
	in: port.id,
	unit: null,
	device,
	name,
	profileId,
	deviceId,
	answered: false,
	firmware: null
});

const lands = ({ devices, besides }: Taken): string => {
	const names = devices.map(({ name }) => name);
	const list =
		names.length > 4 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ');
	const made = besides.length > 0 ? `${names.length > 0 ? ' with' : ''} ${besides.join(' and ')}` : '';
	return `In the catalogue, with cables and ports: ${list}${made}.`.replace(': .', '.').replace(':  ', ': ');
};

/** Says what was taken, with its undo. */
export function sayTaken(taken: Taken): void {
	const { devices, undo: order } = taken;
	notices.say(lands(taken), 'good', {
		title: 'Undo',
		way: { by: 'contact', devices: devices.length, order }
	});
}

/** Takes what was found over as one change, and says so with its undo. @returns whether it worked */
export async function take(items: TakeItem[], interfaces: string[] = []): Promise<boolean> {
	const done = await attempt(async () => {
		const taken = await call<Taken>('POST', '/contact/take', {
			present: midiDesk.present,
			items,
			interfaces
		});
		sayTaken(taken);
	});
	await midiDesk.recallIfOpen();
	await refresh();
	return done;
}

/** Takes back what was taken over. @returns whether it worked */
export async function undoTaking(devices: number, order: unknown): Promise<boolean> {
	const worked = await attempt(async () => {
		const { archived } = await call<{ archived: string[] }>('POST', '/contact/undo', order);
		notices.say(
			archived.length > 0
				? `Undone. Of ${archived.join(', ')} something is kept already: archived, not removed.`
				: `Undone: ${count(devices, 'device')} as before.`,
			'good'
		);
	});
	await midiDesk.recallIfOpen();
	await refresh();
	return worked;
}

/**
 * Notes where known devices were heard. One whose ID differs, or that may be another unit of its model elsewhere, is not
 * known to be that device before somebody says so.
 */
export async function noteAnswers(
	found: readonly Found[],
	around: Surroundings,
	world: 'bench' | 'hardware'
): Promise<void> {
	const moved = ({ entry, news }: Found) =>
		(news.includes('cables') || news.includes('unit')) &&
		around.devices.filter(({ profileId }) => profileId === entry.profileId).length > 1;
	const sure = found.filter(
		(one) => one.entry.device && one.heard.units === 1 && !one.news.includes('device ID') && !moved(one)
	);
	const key = (port: Found['heard']['out'], direction: 'in' | 'out') =>
		midiDesk.sockets?.find((socket) => socket.direction === direction && socket.port?.id === port.id)?.key ??
		null;
	await Promise.all(
		sure.map(({ heard, entry }) =>
			call('POST', `/devices/${entry.device!.id}/contact`, {
				world,
				how: 'identity',
				out: world === 'bench' ? null : key(heard.out, 'out'),
				in: world === 'bench' ? null : key(heard.in, 'in'),
				outName: heard.out.name,
				inName: heard.in.name,
				deviceId: ownId(heard),
				firmware: firmwareOf(heard.identity)
			})
		)
	);
	if (sure.length > 0) await refresh();
}
