import type { PreflightCheck, Profile } from '../../profile';
import { slotsInScope, type Scope } from '../scope';
import { planCapture } from '../asks';
import { lanesMs, type Job } from './lanes';
import { predictCapture, wireTime, type Past } from './predict';
import { walkOrder } from './walk-order';

/** A device that may be backed up. */
export interface BackupCandidate {
	id: string;
	name: string;
	place: string;
	/** The ports that it is asked and heard over; null where it has no way there and back. */
	ports: readonly string[] | null;
	/** A restore to it broke off: its half-written memory is no backup. */
	torn?: boolean;
	profile: Profile | null;
	past: readonly Past[];
}

export interface BackupJob extends Job {
	name: string;
	place: string;
	/** What its panel must show first. */
	checks: PreflightCheck[];
	/** What the wire alone would need, in ms. */
	wireMs: number;
	bytes: number;
}

export interface BackupPlan {
	/** In the order in which they are asked for: those that need hands first, place by place. */
	jobs: BackupJob[];
	/** Those that need somebody at the device before the start, in walking order. */
	preflight: BackupJob[];
	left: { id: string; name: string; why: string }[];
	/** Until the last one is in, in ms. */
	predictedMs: number;
}

const SCOPE: Scope = { kind: 'all' };

/** Plans the backup of a whole studio; `places` is the room's order, `here` where the musician is. */
export function planBackup(
	candidates: readonly BackupCandidate[],
	places: readonly string[],
	here = ''
): BackupPlan {
	const left: BackupPlan['left'] = [];
	const jobs: BackupJob[] = [];
	for (const { id, name, place, ports, profile, past, torn } of candidates) {
		const skip = (why: string) => left.push({ id, name, why });
		if (!profile) {
			skip('It has no profile: the app does not know how to ask it.');
			continue;
		}
		if (profile.capture.length === 0) {
			skip(`A ${profile.model} cannot send its memory.`);
			continue;
		}
		if (!ports) {
			skip('No port leads to it and back to the computer.');
			continue;
		}
		if (torn) {
			skip('A restore to it broke off. Bring that to an end first: its memory is half written.');
			continue;
		}
		const { asks } = planCapture(profile, slotsInScope(profile, SCOPE));
		const hands = asks.some(({ way }) => way.start.by === 'panel');
		jobs.push({
			id,
			name,
			place,
			lanes: ports,
			hands,
			checks: profile.preflight.capture,
			wireMs: wireTime(profile, SCOPE),
			expectedMs: predictCapture(profile, SCOPE, past, hands),
			bytes: asks.reduce((sum, { replyBytes }) => sum + replyBytes, 0)
		});
	}
	const walked = walkOrder(jobs, places, here);
	const ordered = [...walked.filter(({ hands }) => hands), ...walked.filter(({ hands }) => !hands)];
	return {
		jobs: ordered,
		preflight: walked.filter(({ checks }) => checks.length > 0),
		left,
		predictedMs: lanesMs(ordered)
	};
}
