import { parseISO } from 'date-fns';
import { z } from 'zod';
import { readingLine, type DeviceStanding } from '../drawer';

/** What is known of a device's safety. */
export interface Standing {
	/** Whether the app can read its memory at all. */
	readable: boolean;
	/** Whether it holds sounds that the app knows how to keep. */
	hasMemory: boolean;
	/** How it stands in the studio's own world: as its weakest slot. */
	known: DeviceStanding;
	/** Versions from the studio's own world. */
	versions: number;
	/** Versions from elsewhere, in words (“only on the bench”, “only files”); empty where there are none. */
	elsewhere: string;
	/** Whether any of those may hold its sounds: files, or versions from before worlds were noted. */
	keptElsewhere: boolean;
	unfinished: { id: string; got: number } | null;
	/** A backup that must be looked at before it counts. */
	question: { versionId: string; says: string } | null;
	battery: { ageYears: number; lifeYears: number } | null;
	/** A new system is being sent, or the sending broke off: the run by which. */
	updating?: { runId: string; says: string } | null;
	/** An update that is planned soon, in words. */
	updatePlanned?: string | null;
	/** What is overdue in its service book, the first in words. */
	overdue?: { count: number; says: string } | null;
	/** A fault that one lives with and that can cost sounds, in words. */
	losesSounds?: string | null;
	/** Days after which the musician wants a backup; null leaves it to the risk. */
	remindDays?: number | null;
}

export type RiskAction =
	'capture' | 'resume' | 'mend' | 'answer' | 'import' | 'battery' | 'run' | 'service' | 'none';

export interface RiskPart {
	id: keyof typeof RISK_WEIGHTS;
	points: number;
	says: string;
	action: RiskAction;
}

/** The weights of the formula, in points. The view and docs/guides/today.md state them. */
export const RISK_WEIGHTS = {
	/** Nothing was ever read from it. */
	never: 60,
	/** Some slots were never read with a proof. */
	unproved: 35,
	/** Sounds were changed since they were read. */
	changed: 40,
	/** A restore broke off: part of its memory is half written. */
	torn: 50,
	/** The last backup looks wiped, or like another device's. */
	question: 45,
	/** Sounds were sent that can be read back, and were not. */
	sent: 20,
	/** A capture broke off and waits. */
	unfinished: 25,
	/** Full weight when its weakest slot was proved `AGE_FULL_DAYS` ago or earlier; even in between. */
	age: 30,
	/** From 70 % of the battery's usual life on; full weight at 100 %, one and a half times that at most. */
	battery: 40,
	/** The musician's own reminder is due. */
	due: 20,
	/** A new system is being sent, or the sending broke off: it may not start. */
	updating: 70,
	/** An update is planned, and there is no fresh proof of everything that it holds. */
	update: 30,
	/** A known fault can cost sounds. */
	fault: 10,
	/** Something in its service book is overdue. */
	service: 10
} as const;

export const AGE_FULL_DAYS = 90;

const weight = (usual: number) => z.number().min(0).max(200).default(usual);

/** The formula as a studio has set it; what is left out is as usual. */
export const riskSettingsSchema = z.object({
	weights: z
		.object({
			never: weight(RISK_WEIGHTS.never),
			unproved: weight(RISK_WEIGHTS.unproved),
			changed: weight(RISK_WEIGHTS.changed),
			torn: weight(RISK_WEIGHTS.torn),
			question: weight(RISK_WEIGHTS.question),
			sent: weight(RISK_WEIGHTS.sent),
			unfinished: weight(RISK_WEIGHTS.unfinished),
			age: weight(RISK_WEIGHTS.age),
			battery: weight(RISK_WEIGHTS.battery),
			due: weight(RISK_WEIGHTS.due),
			updating: weight(RISK_WEIGHTS.updating),
			update: weight(RISK_WEIGHTS.update),
			fault: weight(RISK_WEIGHTS.fault),
			service: weight(RISK_WEIGHTS.service)
		})
		.prefault({}),
	ageFullDays: z.number().int().min(1).max(3650).default(AGE_FULL_DAYS)
});

export type RiskSettings = z.infer<typeof riskSettingsSchema>;
const USUAL = riskSettingsSchema.parse({});

const BATTERY_FROM = 0.7;
/** Before an update a proof of everything is fresh for so many days. */
export const FRESH_DAYS = 7;

export interface Risk {
	/** 0 is safe. */
	points: number;
	parts: RiskPart[];
	/** What to do first. */
	action: RiskAction;
}

const DAY_MS = 86_400_000;
const slots = (count: number) => `${count} ${count === 1 ? 'slot' : 'slots'}`;

/** The risk that a device's sounds are lost: the sum of its parts, heaviest first. */
export function riskOf(
	standing: Standing,
	/** ms since 1970. */
	now: number,
	{ weights, ageFullDays }: RiskSettings = USUAL
): Risk {
	const parts: RiskPart[] = [];
	const add = (id: RiskPart['id'], share: number, says: string, action: RiskAction) => {
		const points = Math.round(weights[id] * share);
		if (points > 0) parts.push({ id, points, says, action });
	};
	const { known, readable, question } = standing;
	const torn = known.torn.reduce((sum, { slots: count }) => sum + count, 0);
	// A half-written memory or system, or one that looks wiped, is no state to be backed up as if it were the musician's.
	const take: RiskAction = standing.updating
		? 'run'
		: torn > 0
			? 'mend'
			: question
				? 'answer'
				: readable
					? 'capture'
					: 'import';
	if (standing.hasMemory) {
		const { states } = known;
		const weakest = known.weakestAt === null ? null : (now - parseISO(known.weakestAt).getTime()) / DAY_MS;
		if (readable && states.never === known.slots)
			add(
				standing.keptElsewhere ? 'unproved' : 'never',
				1,
				standing.elsewhere ? `Never backed up: ${standing.elsewhere}` : 'Never backed up',
				take
			);
		else if (!readable && standing.versions === 0 && standing.elsewhere === '')
			add('never', 1, 'Nothing kept of it, and it cannot be asked', take);
		else if (readable && weakest !== null)
			add('age', Math.min(1, weakest / ageFullDays), readingLine(known, now), take);
		else if (readable && states.never + states.unproved > 0)
			add('unproved', 1, known.proved.length > 0 ? readingLine(known, now) : 'Never read with a proof', take);
		if (torn > 0) add('torn', 1, `A restore broke off: nobody knows what ${slots(torn)} hold`, 'mend');
		if (question) add('question', 1, question.says, 'answer');
		if (readable && states.changed > 0)
			add(
				'changed',
				1,
				states.changed === known.slots
					? 'Changed since it was read'
					: `Changed since: ${slots(states.changed)} of ${known.slots} not read again`,
				take
			);
		if (readable && states.sent > 0) add('sent', 1, `${slots(states.sent)} sent and not read back`, take);
		const { remindDays } = standing;
		if (remindDays && readable && weakest !== null && weakest >= remindDays)
			add('due', 1, `A backup is due: every ${remindDays === 1 ? 'day' : `${remindDays} days`}`, take);
		if (standing.unfinished)
			add('unfinished', 1, `A capture broke off after ${standing.unfinished.got} messages`, 'resume');
	}
	if (standing.battery) {
		const { ageYears, lifeYears } = standing.battery;
		const worn = ageYears / lifeYears;
		add(
			'battery',
			Math.min(1.5, Math.max(0, (worn - BATTERY_FROM) / (1 - BATTERY_FROM))),
			`Memory battery ${ageYears.toFixed(1)} of about ${lifeYears} years old`,
			'battery'
		);
	}
	const { updating, updatePlanned, losesSounds, overdue } = standing;
	if (updating) add('updating', 1, updating.says, 'run');
	else if (updatePlanned && standing.hasMemory && readable) {
		const fresh =
			known.weakestAt !== null &&
			known.states.changed === 0 &&
			now - parseISO(known.weakestAt).getTime() <= FRESH_DAYS * DAY_MS;
		if (!fresh)
			add(
				'update',
				1,
				`${updatePlanned}, and what it holds now was not fully backed up within ${FRESH_DAYS} days`,
				take
			);
	}
	if (losesSounds && standing.hasMemory) add('fault', 1, `Known fault: ${losesSounds}`, 'service');
	if (overdue)
		add(
			'service',
			1,
			overdue.count === 1 ? `Overdue: ${overdue.says}` : `${overdue.count} things overdue: ${overdue.says}`,
			'service'
		);
	parts.sort((a, b) => b.points - a.points);
	return {
		points: parts.reduce((sum, part) => sum + part.points, 0),
		parts,
		action: updating && weights.updating > 0 ? 'run' : torn > 0 ? 'mend' : (parts[0]?.action ?? 'none')
	};
}
