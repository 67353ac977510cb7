import { NO_FACTS, type GateFacts } from '../core/care';
import { standingOf, type LiveWorld } from '../core/drawer';
import type { Device } from '../core/gear';
import type { Profile } from '../core/profile';
import { slotKey } from '../core/profile';
import { clocksOf, hostWays } from '../core/rig';
import { slotsInScope } from '../core/transfer';
import type { Studio } from './db/connection';
import { readableSlots } from './knowing';
import { adapterTests } from './midi-ports';
import { profileOrNull } from './profiles';
import { readStudioRig } from './rig';
import { contactsOf } from './store/contacts';
import { readKnowledge } from './store/knowledge';
import { recentTransfers } from './store/transfers';

/** Transfers of a device that are looked through for its last whole restore. */
const LOOK_BACK = 200;

/** Slots that can be written and read back: a whole restore is one of all of them. */
function restorable(profile: Profile): Set<string> {
	const both = (area: string) =>
		profile.capture.some((way) => way.area === area) && profile.restore.some((way) => way.area === area);
	return new Set(
		[...slotsInScope(profile, { kind: 'all' })].flatMap(([area, indexes]) =>
			both(area) ? indexes.map((index) => slotKey(area, index)) : []
		)
	);
}

/** The last restore of everything that can be read back that ended verified. */
async function wholeRestore(
	studio: Studio,
	device: Device,
	profile: Profile | null,
	world: LiveWorld
): Promise<{ at: string; from: string | null } | null> {
	if (!profile) return null;
	const all = restorable(profile);
	const found = (await recentTransfers(studio, { deviceId: device.id, limit: LOOK_BACK })).find(
		(transfer) =>
			transfer.direction === 'restore' &&
			transfer.status === 'verified' &&
			transfer.world === world &&
			transfer.endedAt !== null &&
			all.size > 0 &&
			[...all].every((key) => transfer.wanted?.some(({ area, index }) => slotKey(area, index) === key))
	);
	return found ? { at: found.endedAt!, from: found.sourceVersionId } : null;
}

/** What is known now of a device, and of the studio, that a gate or a step of the app's asks about. */
export async function careFacts(
	studio: Studio,
	device: Device | null,
	world: LiveWorld,
	people: readonly string[] = []
): Promise<GateFacts> {
	const { rig } = await readStudioRig(studio);
	const followers = rig.devices.length === 0 ? null : clocksOf(rig).followers.map(({ name }) => name);
	if (!device) return { ...NO_FACTS, people, followers };
	const profile = profileOrNull(studio, device.profileId);
	const [knowledge, contacts, tests, restored] = await Promise.all([
		readKnowledge(studio, device.id, world),
		contactsOf(studio, device.id),
		adapterTests(studio),
		wholeRestore(studio, device, profile, world)
	]);
	const standing = standingOf(knowledge, readableSlots(profile));
	const contact = contacts.find((each) => each.world === world) ?? null;
	const key =
		world === 'bench'
			? `bench:${device.benchUnit}`
			: (hostWays(rig).find((way) => way.device === device.id)?.out?.port ?? '');
	return {
		people,
		followers,
		// What was changed since is not what was kept.
		verifiedBackupAt: standing.states.changed === 0 ? standing.weakestAt : null,
		answeredAt: contact?.at ?? null,
		versionTold: contact?.firmware ?? null,
		restoredAt: restored?.at ?? null,
		restoredFrom: restored?.from ?? null,
		adapterTestedAt: tests.find((test) => test.key === key)?.testedAt ?? null
	};
}
