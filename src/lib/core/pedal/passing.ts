import { cornersOf, readings, wiringOf, type Pairing } from './circuit';
import { withFeet, type Foot } from './verdict';

/** What the box reads with some feet down. */
export interface PassingRow {
	/** Which feet are down, in words. */
	at: string;
	/** For each input: open, closed, or a share in per cent that is neither. */
	reads: string[];
}

/** What passes between a jack and what is plugged in to it. */
export type Passing =
	| { is: 'switches'; inputs: string[]; rows: PassingRow[] }
	/** Shares of the supply along the way from heel to toe: the middle of what is possible where resistors are not known. */
	| { is: 'pot'; curve: { travel: number; level: number }[] }
	| { is: 'nothing' };

const POINTS = 24;
const word = (level: number): string =>
	level < 0.3 ? 'closed' : level > 0.7 ? 'open' : `${Math.round(level * 100)} %`;

/** What the box reads in every position, to be shown. */
export function passingOf(pairing: Pairing): Passing {
	if (!wiringOf(pairing)) return { is: 'nothing' };
	const corners = cornersOf(pairing);
	const assumed = corners[Math.floor(corners.length / 2)];
	const feet: (Foot & { name: string; pot: boolean })[] = pairing.pedals.flatMap(({ parts, name }, pedal) =>
		parts.map((part, i) => ({
			pedal,
			part: i,
			name: part.name || (pairing.pedals.length > 1 ? name : 'foot'),
			pot: part.is === 'pot'
		}))
	);
	if (feet.length === 1 && feet[0].pot)
		return {
			is: 'pot',
			curve: Array.from({ length: POINTS + 1 }, (_, i) => ({
				travel: i / POINTS,
				level: readings(pairing, withFeet(pairing, feet, i / POINTS), assumed)![0].level
			}))
		};
	const sets: Foot[][] = [[], ...feet.map((foot) => [foot]), ...(feet.length > 1 ? [feet] : [])];
	const read = sets.map((down) => readings(pairing, withFeet(pairing, down), assumed)!);
	return {
		is: 'switches',
		inputs: read[0].map(({ jack, contact }) =>
			pairing.jacks.length > 1 ? pairing.jacks[jack].name : contact
		),
		rows: sets.map((down, i) => ({
			at:
				down.length === 0
					? 'up'
					: down.length === feet.length && feet.length > 1
						? 'both down'
						: `${feet.find(({ pedal, part }) => pedal === down[0].pedal && part === down[0].part)!.name} down`,
			reads: read[i].map(({ level }) => word(level))
		}))
	};
}
