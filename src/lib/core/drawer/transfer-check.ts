import { areaOf, believedTwice, type PreflightCheck, type Profile, type Slot } from '../profile';
import {
	affectedSlots,
	captureCost,
	countSlots,
	planCapture,
	planRestore,
	slotsInScope,
	writeMs,
	type Scope
} from '../transfer';
import { dryRun, type DryRun } from './dry-run';

/** What there is to know before a transfer: how much, how long, what the panel must show, what cannot be proved. */
export interface TransferCheck {
	direction: 'capture' | 'restore';
	/** Slots that are asked for, or wanted. */
	wanted: number;
	/** What a restore would write by what was last read; null for a capture, and where no profile says. */
	dry: DryRun | null;
	/** Bytes that come in, of a capture; that go out at most, of a restore. */
	bytes: number;
	/** At the wire's speed with the device's own pauses, reading before and after a restore among it. */
	ms: number;
	checks: PreflightCheck[];
	/** The dump is started on the device. */
	byHand: boolean;
	/** The device says who it is when asked. */
	answers: boolean;
	/** Areas whose slots can be read back after they were written, and those that cannot. */
	unprovable: string[];
	/** Everything is read twice, since something has no checksum. */
	twice: boolean;
	/** What of its state it never tells, in words. */
	untold: string[];
	/** Areas that can be chosen by themselves. */
	areas: { id: string; name: string }[];
	/** The longest message that has to pass, in bytes. */
	longestBytes: number;
}

/** What happens in a backup of a part of a device. */
export function checkCapture(profile: Profile, scope: Scope): TransferCheck {
	const wanted = slotsInScope(profile, scope);
	const { asks } = planCapture(profile, wanted);
	const cost = captureCost(asks);
	const readable = profile.areas.filter(({ id }) => profile.capture.some((way) => way.area === id));
	return {
		direction: 'capture',
		wanted: countSlots(wanted),
		dry: null,
		bytes: cost.bytes,
		ms: cost.ms,
		checks: profile.preflight.capture,
		byHand: asks.some(({ way }) => way.start.by === 'panel'),
		answers: profile.identity.answers,
		unprovable: [],
		twice: believedTwice(profile),
		untold: untoldOf(profile, wanted),
		areas: readable.map(({ id, name }) => ({ id, name })),
		longestBytes: Math.max(0, ...asks.map(({ longest }) => longest))
	};
}

/**
 * What happens when a device is brought to hold these slots.
 * @param known what it was last seen to hold, with the time of each
 * @param paceFactor how much longer the pauses between messages are made
 */
export function checkRestore(
	profile: Profile,
	known: readonly { slot: Slot; at: string }[],
	wanted: readonly Slot[],
	paceFactor = 1,
	rewrite = false
): TransferCheck {
	const chosen = new Map<string, number[]>();
	for (const { id } of profile.areas) {
		const slots = wanted.filter(({ area }) => area === id).map(({ index }) => index);
		if (slots.length > 0)
			chosen.set(
				id,
				[...slots].sort((a, b) => a - b)
			);
	}
	const readable = (area: string) => profile.capture.some((way) => way.area === area);
	const whole = (area: string) => chosen.get(area)?.length === areaOf(profile, area).slots;
	const { writes } = planRestore(
		profile,
		chosen,
		(area) => readable(area) || whole(area) || profile.restore.some((way) => way.area === area)
	);
	const reading = captureCost(planCapture(profile, affectedSlots(writes)).asks);
	return {
		direction: 'restore',
		wanted: wanted.length,
		dry: dryRun(profile, known, wanted, rewrite),
		bytes: writes.reduce((sum, { bytes }) => sum + bytes, 0),
		ms:
			writes.reduce((sum, write) => sum + writeMs(write, paceFactor), 0) +
			(profile.capture.length > 0 ? 2 * reading.ms : 0),
		checks: profile.preflight.restore,
		byHand: false,
		answers: profile.identity.answers,
		twice: believedTwice(profile),
		untold: untoldOf(profile, chosen),
		unprovable: [...chosen.keys()]
			.filter((area) => !readable(area))
			.map((area) => areaOf(profile, area).name),
		areas: [...chosen.keys()].map((id) => ({ id, name: areaOf(profile, id).name })),
		longestBytes: Math.max(0, ...writes.map(({ longest }) => longest))
	};
}

/** What areas that are told keep to themselves. */
const untoldOf = (profile: Profile, areas: ReadonlyMap<string, unknown>): string[] =>
	profile.areas.flatMap(({ id, told }) => (told?.untold !== undefined && areas.has(id) ? [told.untold] : []));
