import { z } from 'zod';

/** What is known of a device's safety. Times in days before now; null where there is none. */
export interface Standing {
	/** Whether the app can read its memory at all. */
	readable: boolean;
	/** Whether it holds sounds that the app knows how to keep. */
	hasMemory: boolean;
	versions: number;
	lastVerifiedDays: number | null;
	/** Whether its sounds changed after the newest verified version. */
	changedSince: boolean;
	unfinished: { id: string; got: number } | null;
	battery: { ageYears: number; lifeYears: number } | null;
	/** Days after which the musician wants a backup; null leaves it to the risk. */
	remindDays?: number | null;
}

export type RiskAction = 'capture' | 'resume' | 'import' | 'battery' | 'none';

export interface RiskPart {
	id: keyof typeof RISK_WEIGHTS;
	points: number;
	says: string;
	action: RiskAction;
}

/** The weights of the formula, in points. The view and docs/guides/today.md state them. */
export const RISK_WEIGHTS = {
	/** No version at all. */
	never: 60,
	/** Versions, but none verified. */
	unproved: 35,
	/** Sounds changed since the newest verified version. */
	changed: 40,
	/** A capture broke off and waits. */
	unfinished: 25,
	/** Full weight when the newest verified version is `AGE_FULL_DAYS` old or older; even in between. */
	age: 30,
	/** From 70 % of the battery's usual life on; full weight at 100 %, one and a half times that at most. */
	battery: 40,
	/** The musician's own reminder is due. */
	due: 20
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
			unfinished: weight(RISK_WEIGHTS.unfinished),
			age: weight(RISK_WEIGHTS.age),
			battery: weight(RISK_WEIGHTS.battery),
			due: weight(RISK_WEIGHTS.due)
		})
		.prefault({}),
	ageFullDays: z.number().int().min(1).max(3650).default(AGE_FULL_DAYS)
});

export type RiskSettings = z.infer<typeof riskSettingsSchema>;
const USUAL = riskSettingsSchema.parse({});

const BATTERY_FROM = 0.7;

export interface Risk {
	/** 0 is safe. */
	points: number;
	parts: RiskPart[];
	/** What to do first. */
	action: RiskAction;
}

const days = (count: number) =>
	count < 1 ? 'today' : count < 2 ? 'yesterday' : `${Math.floor(count)} days ago`;

/** The risk that a device's sounds are lost: the sum of its parts, heaviest first. */
export function riskOf(standing: Standing, { weights, ageFullDays }: RiskSettings = USUAL): Risk {
	const parts: RiskPart[] = [];
	const add = (id: RiskPart['id'], share: number, says: string, action: RiskAction) => {
		const points = Math.round(weights[id] * share);
		if (points > 0) parts.push({ id, points, says, action });
	};
	const take: RiskAction = standing.readable ? 'capture' : 'import';
	if (standing.hasMemory) {
		if (standing.versions === 0)
			add(
				'never',
				1,
				standing.readable ? 'Never backed up' : 'Nothing kept of it, and it cannot be asked',
				take
			);
		else if (standing.lastVerifiedDays === null) {
			if (standing.readable) add('unproved', 1, 'No verified version', take);
		} else {
			add(
				'age',
				Math.min(1, standing.lastVerifiedDays / ageFullDays),
				`Last verified ${days(standing.lastVerifiedDays)}`,
				take
			);
		}
		if (standing.versions > 0 && standing.changedSince)
			add('changed', 1, 'Changed since its last version', take);
		const { remindDays, lastVerifiedDays } = standing;
		if (remindDays && standing.readable && lastVerifiedDays !== null && lastVerifiedDays >= remindDays)
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
	parts.sort((a, b) => b.points - a.points);
	return {
		points: parts.reduce((sum, part) => sum + part.points, 0),
		parts,
		action: parts[0]?.action ?? 'none'
	};
}
