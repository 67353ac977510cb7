import { differenceInMilliseconds, parseISO } from 'date-fns';
import type { AppAct, Condition } from './procedure';

/** What is known when a gate is looked at. Times are ISO; null where there is none. */
export interface GateFacts {
	/** When the last full backup was verified. */
	verifiedBackupAt: string | null;
	answeredAt: string | null;
	/** The version that the device told when it answered last. */
	versionTold: string | null;
	/** Who says to have looked, by name. */
	people: readonly string[];
	/** When the last restore ended whose every slot was read back alike. */
	restoredAt: string | null;
	/** The version that it brought back; null where it was none, or none is kept. */
	restoredFrom: string | null;
	/** When its adapter was tested last. */
	adapterTestedAt: string | null;
	/** Who follows the clock in the wiring, by name; null where there is no wiring that says. */
	followers: readonly string[] | null;
}

/** Of a studio of which nothing is known. */
export const NO_FACTS: GateFacts = {
	verifiedBackupAt: null,
	answeredAt: null,
	versionTold: null,
	people: [],
	restoredAt: null,
	restoredFrom: null,
	adapterTestedAt: null,
	followers: null
};

/** What a condition can be about besides the facts: what was chosen in the run itself. */
export interface Chosen {
	/** The version that is wanted, and the variant that was chosen and that of the file. */
	version: string | null;
	variant: string | null;
	fileVariant: string | null;
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
 * @param chosen what the run has chosen that the condition asks about
 */
export function whyNot(condition: Condition, facts: GateFacts, now: string, chosen: Chosen): string | null {
	switch (condition.is) {
		case 'backup':
			return within(facts.verifiedBackupAt, now, condition.withinHours * 60)
				? null
				: facts.verifiedBackupAt === null
					? 'No verified full backup shows all that it holds now.'
					: `The last verified full backup is older than ${condition.withinHours} hours.`;
		case 'answers':
			return within(facts.answeredAt, now, condition.withinMinutes)
				? null
				: `It has not answered within the last ${condition.withinMinutes} minutes.`;
		case 'version': {
			const version = condition.version ?? chosen.version;
			if (!version) return 'Which version it should be was not chosen, or has none noted.';
			if (facts.versionTold === null) return 'It has not told its version.';
			return fold(facts.versionTold) === fold(version)
				? null
				: `It tells version ${facts.versionTold}, not ${version}.`;
		}
		case 'variant':
			if (chosen.variant === null) return 'Which gear it is was not chosen.';
			if (!chosen.fileVariant) return 'The file does not say for which gear it is.';
			return chosen.variant === chosen.fileVariant
				? null
				: `The file is for “${chosen.fileVariant}”, and this is “${chosen.variant}”.`;
		case 'people': {
			const looked = new Set(facts.people.map(fold).filter(Boolean)).size;
			return looked >= condition.count ? null : `${looked} of ${condition.count} people have looked.`;
		}
	}
}

const since = (at: string | null, begunAt: string) => at !== null && secondsBetween(begunAt, at) >= 0;

/**
 * Why the app's part of a step is not shown to be done; null where it is. What only the browser saw (what a loader said) is
 * its word, and is noted as that.
 * @param confirmed which followers of the clock were seen to follow
 * @param backup the version that the run's own backup made: a restore is one of that; null where it made none
 */
export function whyNotShown(
	act: AppAct,
	facts: GateFacts,
	begunAt: string,
	confirmed: readonly string[],
	backup: string | null
): string | null {
	switch (act) {
		case 'backup':
			return since(facts.verifiedBackupAt, begunAt)
				? null
				: 'No full backup of it was verified since this step was begun.';
		case 'identity':
			return since(facts.answeredAt, begunAt) ? null : 'It has not answered since this step was begun.';
		case 'restore':
			if (!since(facts.restoredAt, begunAt))
				return 'No restore of everything in it was read back alike since this step was begun.';
			return backup === null || facts.restoredFrom === backup
				? null
				: 'What was restored is not the backup of this run.';
		case 'adapter-test':
			return since(facts.adapterTestedAt, begunAt)
				? null
				: 'Its adapter was not tested since this step was begun.';
		case 'clock-check': {
			if (facts.followers === null || facts.followers.length === 0)
				return 'The wiring names nobody that follows a clock.';
			const missing = facts.followers.filter((name) => !confirmed.includes(name));
			return missing.length === 0 ? null : `Not seen to follow: ${missing.join(', ')}.`;
		}
		case 'mode':
		case 'send':
			return null;
	}
}
