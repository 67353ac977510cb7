import { differenceInMilliseconds, parseISO } from 'date-fns';
import type { Condition } from './procedure';

/** What is known when a gate is looked at. Times are ISO; null where there is none. */
export interface GateFacts {
	/** When the last full backup was verified. */
	verifiedBackupAt: string | null;
	answeredAt: string | null;
	/** The version that the device told when it answered last. */
	versionTold: string | null;
	/** Who says to have looked, by name. */
	people: readonly string[];
}

/** Seconds from one time to another, below nought where it goes back. Both ISO. */
export const secondsBetween = (from: string, to: string): number =>
	differenceInMilliseconds(parseISO(to), parseISO(from)) / 1000;

/** Something of the future is no proof: a clock was set. */
const within = (at: string | null, now: string, minutes: number): boolean => {
	if (at === null) return false;
	const past = secondsBetween(at, now) / 60;
	return past >= 0 && past <= minutes;
};
const fold = (text: string) => text.trim().toLowerCase();

/**
 * Why a condition does not hold; null where it does.
 * @param wanted the version that a chosen variant has, where the condition asks for that
 */
export function whyNot(
	condition: Condition,
	facts: GateFacts,
	now: string,
	wanted: string | null
): string | null {
	switch (condition.is) {
		case 'backup':
			return within(facts.verifiedBackupAt, now, condition.withinHours * 60)
				? null
				: facts.verifiedBackupAt === null
					? 'No full backup of it was ever verified.'
					: `The last verified full backup is older than ${condition.withinHours} hours.`;
		case 'answers':
			return within(facts.answeredAt, now, condition.withinMinutes)
				? null
				: `It has not answered within the last ${condition.withinMinutes} minutes.`;
		case 'version': {
			const version = condition.version ?? wanted;
			if (!version) return 'Which version it should be was not chosen, or has none noted.';
			if (facts.versionTold === null) return 'It has not told its version.';
			return fold(facts.versionTold) === fold(version)
				? null
				: `It tells version ${facts.versionTold}, not ${version}.`;
		}
		case 'people': {
			const looked = new Set(facts.people.map(fold).filter(Boolean)).size;
			return looked >= condition.count ? null : `${looked} of ${condition.count} people have looked.`;
		}
	}
}
