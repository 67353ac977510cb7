import { atRest, readings, type Pairing } from './circuit';
import { modeOf, type Floor, type FootLine, type Jack, type Pedal, type PedalPart } from './floor';
import { modeWords } from './cures';
import { pairingOf } from './pairing';
import { judge, withFeet } from './verdict';

export const SYMPTOMS = {
	nothing: 'Nothing happens',
	'let go': 'Acts when it is let go',
	swapped: 'On and off are swapped',
	both: 'Both act',
	jumps: 'It jumps',
	'no end': 'Does not reach the end',
	'no zero': 'Never quite zero'
} as const;
export type Symptom = keyof typeof SYMPTOMS;

/** What may be the cause, how likely it is among those that would do it, and what decides it. */
export interface Cause {
	says: string;
	/** 0–1; all of a symptom’s causes together are 1. */
	likely: number;
	test: string;
}

interface Suspect {
	says: string;
	test: string;
	/** How often that is so, against the others, before anything is known. */
	often: number;
	pairing: Pairing;
	/** What it does that no circuit shows. */
	also?: Symptom[];
}

const near = (a: number, b: number) => Math.abs(a - b) < 0.02;

/** What somebody would complain of with such a pairing, by what the box reads. */
export function symptomsOf(pairing: Pairing): Set<Symptom> {
	const found = new Set<Symptom>();
	const feet = pairing.pedals.flatMap(({ parts }, pedal) =>
		parts.map((part, i) => ({ part, pedal, part_: i }))
	);
	const rest = readings(pairing, atRest(pairing.pedals));
	if (!rest) return found;
	const moved = feet.map(({ pedal, part_ }) =>
		readings(pairing, withFeet(pairing, [{ pedal, part: part_ }]))!
	);
	const acts = moved.map((read) => read.flatMap(({ level }, i) => (near(level, rest[i].level) ? [] : [i])));
	if (acts.every((inputs) => inputs.length === 0)) found.add('nothing');
	const verdict = judge(pairing);
	if (verdict.kind === 'inverted') {
		const latching = feet.some(({ part }) => part.is === 'switch' && part.acts === 'latching');
		found.add(latching ? 'swapped' : 'let go');
		found.add('swapped');
	}
	const shared = acts.some((inputs) => inputs.length > 1) || new Set(acts.flat()).size < acts.flat().length;
	if (shared) found.add('both');
	if (modeOf(pairing.jacks[0]).takes === 'expression' && feet.length === 1) {
		if (feet[0].part.is === 'switch' && !found.has('nothing')) found.add('jumps');
		if (verdict.span && verdict.kind === 'cannot' && verdict.span[1] - verdict.span[0] > 0.25)
			found.add('jumps');
		if (verdict.span && verdict.span[1] < 0.98) found.add('no end');
		if (verdict.span && verdict.span[0] > 0.02) found.add('no zero');
	}
	return found;
}

const otherPart = (part: PedalPart): PedalPart | null =>
	part.is === 'switch' ? { ...part, rest: part.rest === 'open' ? 'closed' : 'open' } : null;

const withJack = (pairing: Pairing, change: (jack: Jack) => Jack['set']): Pairing => ({
	...pairing,
	jacks: pairing.jacks.map((jack) => ({ ...jack, set: change(jack) }))
});
const withPedal = (pairing: Pairing, change: (pedal: Pedal) => Pedal): Pairing => ({
	...pairing,
	pedals: pairing.pedals.map(change)
});
/** A pot that does not come to an end of its track. */
const short = (pairing: Pairing, end: 'heel' | 'toe'): Pairing =>
	withPedal(pairing, (pedal) => ({
		...pedal,
		parts: pedal.parts.map((part) => {
			if (part.is === 'switch') return part;
			const [low, high] = end === 'toe' ? [0, 0.8] : [0.2, 1];
			return part.heel <= part.toe
				? { ...part, heel: Math.max(part.heel, low), toe: Math.min(part.toe, high) }
				: { ...part, heel: Math.min(part.heel, high), toe: Math.max(part.toe, low) };
		})
	}));

/** Everything that may be otherwise than it is noted: one thing at a time. */
function suspectsOf(floor: Floor, line: FootLine, pairing: Pairing): Suspect[] {
	const [jack] = pairing.jacks;
	const mode = modeOf(jack);
	const hasPot = pairing.pedals.some(({ parts }) => parts.some(({ is }) => is === 'pot'));
	const calibration = floor.calibrations.find((each) => each.line === line.id);
	const suspects: Suspect[] = [
		{
			says: `It is as noted, and cannot be otherwise: ${judge(pairing).says}`,
			test: 'See what mends it, above.',
			often: 8,
			pairing
		},
		{
			says: 'The plug is not in, or not all the way',
			test: 'Push it in until it clicks, at both ends, and try again.',
			often: 4,
			pairing: { ...pairing, cut: ['tip', 'ring', 'sleeve'] }
		},
		...(['tip', 'ring', 'sleeve'] as const).map((contact) => ({
			says: `The ${contact} of a cable or plug is broken`,
			test: 'Try another cable of the same kind; if that works, this one is broken.',
			often: 1,
			pairing: { ...pairing, cut: [contact] }
		}))
	];
	if (pairing.cable !== null)
		for (const kind of ['ts', 'trs', 'crossed'] as const)
			if (kind !== pairing.cable && pairing.jacks.length === 1 && pairing.pedals.length === 1)
				suspects.push({
					says:
						kind === 'ts'
							? 'The cable has two contacts, not three'
							: kind === 'trs'
								? 'The cable has three contacts straight through'
								: 'The cable crosses tip and ring',
					test: 'Count the black rings of its plugs: one for two contacts, two for three. A crossed one only another cable shows.',
					often: kind === 'crossed' ? 1 : 3,
					pairing: { ...pairing, cable: kind }
				});
	if (mode.takes !== 'expression' && mode.rest === 'set')
		suspects.push({
			says: `“${jack.name}” is set for the other kind of switch`,
			test: `Look at ${mode.settingMenu || 'its setting in the box’s menu'} and change it.`,
			often: 5,
			pairing: withJack(pairing, ({ set }) => ({ ...set, rest: set.rest === 'open' ? 'closed' : 'open' }))
		});
	if (mode.takes !== 'expression' && mode.rest === 'at-power-on')
		suspects.push({
			says: 'A foot was on it when the box was switched on',
			test: 'Switch the box off and on with all feet off.',
			often: 5,
			pairing: withJack(
				{
					...pairing,
					// It took “down” for “up”: as a set jack that was told so.
					jacks: pairing.jacks.map((each) => ({
						...each,
						modes: each.modes.map((other) =>
							other.id === mode.id ? { ...other, rest: 'set' as const } : other
						)
					}))
				},
				({ set }) => ({
					...set,
					rest: (readings(pairing, atRest(pairing.pedals))?.[0].level ?? 1) < 0.5 ? 'open' : 'closed'
				})
			)
		});
	for (const other of jack.modes)
		if (other.id !== mode.id)
			suspects.push({
				says: `“${jack.name}” is set to ${modeWords(other.takes, other.wiper)}`,
				test: `Look at ${other.menu || 'what it is set to in the box’s menu'}.`,
				often: 3,
				pairing: withJack(pairing, ({ set }) => ({ ...set, mode: other.id }))
			});
	if (pairing.pedals.some(({ flips }) => flips))
		suspects.push({
			says: 'The small switch on the pedal stands on the other side',
			test: 'Move it, and try again.',
			often: 4,
			pairing: withPedal(pairing, (pedal) => (pedal.flips ? { ...pedal, flipped: !pedal.flipped } : pedal))
		});
	if (pairing.pedals.some(({ parts }) => parts.some(({ is }) => is === 'switch')))
		suspects.push({
			says: 'The switch inside is of the other kind than is noted',
			test: 'Unplug the cable at the box: if the box then reads what it reads with the foot up, the switch is normally open.',
			often: 2,
			pairing: withPedal(pairing, (pedal) => ({
				...pedal,
				parts: pedal.parts.map((part) => otherPart(part) ?? part)
			}))
		});
	if (hasPot) {
		if (mode.calibrates)
			suspects.push({
				says: 'The box was not told where its ends are',
				test: `Calibrate it${mode.settingMenu ? `: ${mode.settingMenu}` : ''}, heel and toe, and try again.`,
				often: calibration ? 1 : 5,
				pairing,
				also: ['no end', 'no zero']
			});
		suspects.push(
			{
				says: 'Its travel is short: something lies under the toe, or the pot has slipped',
				test: 'Take the pedal up and move it by hand to both ends.',
				often: 2,
				pairing: short(pairing, 'toe'),
				also: ['no end']
			},
			{
				says: 'It does not come back to the heel: its pot has slipped, or dirt lies under it',
				test: 'Calibrate it here: what it rests at with the heel down is told.',
				often: 2,
				pairing: short(pairing, 'heel'),
				also: ['no zero']
			},
			{
				says: 'Its track is worn',
				test: 'Calibrate it here, to and fro twice: a place that it leaps over each time is worn.',
				often: 3,
				pairing,
				also: ['jumps']
			},
			{
				says: 'It wanders at rest more than its dead zone covers',
				test: 'Calibrate it here: how far it wanders is told.',
				often: calibration && calibration.noise > 2 ? 5 : 1,
				pairing,
				also: ['no zero']
			}
		);
	}
	return suspects;
}

/**
 * What may be behind a symptom of a line. Every suspect is put into the circuit: only what would really show the symptom is
 * named; how likely each is says how often such a thing is the cause, against the others that remain.
 */
export function causesOf(floor: Floor, line: FootLine, symptom: Symptom): Cause[] {
	const pairing = pairingOf(floor, line);
	if (!pairing) return [];
	const remain = suspectsOf(floor, line, pairing).filter(
		({ pairing: suspected, also }) => also?.includes(symptom) || symptomsOf(suspected).has(symptom)
	);
	// What shows it as it stands explains everything that was only supposed besides.
	const asNoted =
		remain[0]?.pairing === pairing && !remain[0].also ? symptomsOf(pairing).has(symptom) : false;
	const weigh = ({ often, pairing: suspected, also }: Suspect, i: number) =>
		asNoted && i > 0 && !also && suspected !== pairing ? often / 8 : often;
	const whole = remain.reduce((sum, suspect, i) => sum + weigh(suspect, i), 0);
	return remain
		.map((suspect, i) => ({
			says: suspect.says,
			test: suspect.test,
			likely: weigh(suspect, i) / whole
		}))
		.sort((a, b) => b.likely - a.likely);
}
