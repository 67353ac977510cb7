import { checkPower } from './rules';
import type { Power } from './power';

export const POWER_SYMPTOMS = {
	resets: 'It restarts again and again',
	part: 'It answers only in part',
	hums: 'It hums or whines',
	warm: 'Something gets warm',
	dead: 'It does not switch on'
} as const;
export type PowerSymptom = keyof typeof POWER_SYMPTOMS;

/** Which findings would do that, the likeliest first. */
const BEHIND: Record<PowerSymptom, readonly string[]> = {
	resets: ['hosted-load', 'start', 'current', 'group-limit', 'hub', 'battery', 'doubling'],
	part: ['hosted-load', 'host-mode', 'adapter-end', 'hub', 'current', 'group-limit', 'battery'],
	hums: ['shared-ground', 'ac-dc', 'group-limit', 'output-twice'],
	warm: ['polarity', 'volts', 'ac-dc', 'current', 'group-limit', 'output-twice', 'doubling'],
	dead: ['unfed', 'polarity', 'ac-dc', 'volts', 'socket-kind', 'adapter-end', 'host-mode', 'hub', 'battery']
};

/** What in this supply plan would do what somebody sees. `load`: of which device; left out, of any. */
export interface PowerCause {
	rule: string;
	says: string;
	/** What decides it, or what to do at once. */
	test: string;
}

const TESTS: Record<string, string> = {
	polarity: 'Pull it out now. Compare the signs on both labels before it is plugged in again.',
	volts: 'Pull it out now. Compare the labels.',
	'ac-dc': 'Pull it out now. Compare the labels.',
	'shared-ground': 'Feed it from an output of another group for a minute: does it stop?',
	'hosted-load': 'Unplug the hosted device: does the box stay on?',
	battery: 'Try a charged one.',
	'read-the-label': 'Read it, and note it.'
};

/** Nothing is named that is not found in the plan as it is noted; labels that nobody read come last. */
export function powerCauses(power: Power, symptom: PowerSymptom, load?: string): PowerCause[] {
	const findings = checkPower(power).filter(({ loads }) => load === undefined || loads.includes(load));
	return [...BEHIND[symptom], 'read-the-label'].flatMap((rule) =>
		findings
			.filter((finding) => finding.rule === rule)
			.map(({ says, cure }) => ({ rule, says, test: TESTS[rule] ?? cure.says }))
	);
}
