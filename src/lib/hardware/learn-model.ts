import { describe, profileOf, renewed, slotsMoved, type Described, type Description } from '../core/ci';
import type { Found, Heard, StoredLine } from '../core/contact';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { ALL_DEVICES, modelKey, type Model } from '../core/sysex';
import { isModel, type Link } from '../core/transfer';
import { call } from './api';
import { carryOut } from './carry-out';
import { desk } from './desk.svelte';
import { overLine } from './over-line';
import { overPorts } from './over-ports';
import { realClock } from './real-clock';

const DOING = 'asking what an instrument is';

const asks = (isIt: (model: Model) => boolean) => (link: Link) =>
	carryOut(
		describe(Math.random, ({ says }) => isIt(says)),
		link,
		realClock
	);

/** @throws Problem `ci.none` where it does not say enough of itself */
function enough(described: Described, remedy: string): Description {
	if ('none' in described) throw new Problem('ci.none', described.says, remedy);
	return described.description;
}

/**
 * The profile of what was found, from its own word. Two of one model are described once.
 * @param taken ids of profiles that there are
 * @param before what was found and learnt just before
 * @returns its id
 * @throws Problem `ci.none` where it does not say enough of itself; as the ports and the server say
 */
export async function learnModel(
	{ out, in: back, identity }: Heard,
	taken: readonly string[],
	before: readonly Found[]
): Promise<string> {
	const twin = before.find(
		({ heard, entry }) =>
			entry.profileId !== null && heard.describes && modelKey(heard.identity) === modelKey(identity)
	);
	if (twin) return twin.entry.profileId!;
	const described =
		desk.world === 'bench'
			? await desk.describeOnBench(out.id)
			: await overPorts(
					{ out: out.id, back: back.id, says: DOING },
					asks((model) => modelKey(model) === modelKey(identity))
				);
	const description = enough(
		described,
		'It is in the catalogue all the same: its dumps are kept as they come, or a profile is written for it.'
	);
	const profile = profileOf(description, taken, identity.deviceId !== ALL_DEVICES);
	return (await call<Profile>('POST', '/profiles', profile)).id;
}

/**
 * Asks a known instrument once more what it is: after a new system it may keep more, or other things.
 * Where slots are other states than before, the device counts as changed: what was known of them is of the others.
 * @returns its new profile, or null where it says the same as before
 * @throws as {@link learnModel}
 */
export async function learnAgain({ device, way, unit }: StoredLine, known: Profile): Promise<Profile | null> {
	if (desk.world === 'bench' && !unit)
		throw new Problem('port.no-way', `“${device.name}” is plugged in to no unit.`, 'Plug it in.');
	const described =
		desk.world === 'bench'
			? await desk.describeOnBench(unit!.id)
			: await overLine(
					device.name,
					{ out: way?.out, in: way?.in },
					DOING,
					asks((model) => isModel(known, model))
				);
	const description = enough(described, 'What it said before stays as it is.');
	const fresh = renewed(known, description);
	if (!fresh) return null;
	const saved = await call<Profile>('POST', '/profiles', fresh);
	if (slotsMoved(known, fresh)) await call('POST', `/devices/${device.id}/touch`);
	return saved;
}
