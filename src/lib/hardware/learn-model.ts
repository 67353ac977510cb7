import { describe, profileOf, sameSelf, type Described } from '../core/ci';
import type { Found, Heard } from '../core/contact';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { ALL_DEVICES } from '../core/sysex';
import { call } from './api';
import { carryOut } from './carry-out';
import { desk } from './desk.svelte';
import { overPorts } from './over-ports';
import { realClock } from './real-clock';

/** Has what was found describe itself. @throws Problem `ci.none` where it does not say enough of itself; as the ports say */
async function hearDescription({ out, in: back, identity }: Heard) {
	const described: Described =
		desk.world === 'bench'
			? await desk.describeOnBench(out.id)
			: await overPorts({ out: out.id, back: back.id, says: 'asking what an instrument is' }, (link) =>
					carryOut(
						describe(Math.random, ({ says }) => sameSelf(says, identity)),
						link,
						realClock
					)
				);
	if ('none' in described)
		throw new Problem(
			'ci.none',
			described.says,
			'It is in the catalogue all the same: its dumps are kept as they come, or a profile is written for it.'
		);
	return described.description;
}

/**
 * The profile of what was found, from its own word. Two of one model are described once.
 * @param taken ids of profiles that there are
 * @param before what was found and learnt just before
 * @returns its id
 * @throws Problem where it does not say enough of itself; as the ports and the server say
 */
export async function learnModel(
	heard: Heard,
	taken: readonly string[],
	before: readonly Found[]
): Promise<string> {
	const twin = before.find(
		({ heard: other, entry }) =>
			entry.profileId !== null && other.describes && sameSelf(other.identity, heard.identity)
	);
	if (twin) return twin.entry.profileId!;
	const profile = profileOf(await hearDescription(heard), taken, heard.identity.deviceId !== ALL_DEVICES);
	return (await call<Profile>('POST', '/profiles', profile)).id;
}
