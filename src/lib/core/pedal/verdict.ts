import {
	atRest,
	cornersOf,
	feedShorted,
	readContacts,
	readings,
	wiringOf,
	type Assumed,
	type Pairing,
	type Position
} from './circuit';
import { modeOf } from './floor';

/** Below and above these shares of its supply a switch input knows what it reads. */
const LOW = 0.3;
const HIGH = 0.7;
/** A pot whose reading moves by less than this share of the supply is no pedal to the box. */
const LEAST_SPAN = 0.25;
/** Where four fifths of what it reads happen in less of the travel than this, it jumps. */
const LEAST_TRAVEL = 0.3;
/** A reading that is nearer than this to nought, or to the supply, is at the end. */
const AT_END = 0.02;
const STEPS = 16;

/** The box’s inputs in words: the first jack’s tip, the second one’s ring. */
export interface Input {
	jack: number;
	contact: 'tip' | 'ring';
}
/** A part of a pedal. */
export interface Foot {
	pedal: number;
	part: number;
}

export type VerdictKind =
	'works' | 'inverted' | 'exchanged' | 'one of two' | 'backwards' | 'cannot' | 'does not fit';

/** What a pairing comes to. */
export interface Verdict {
	kind: VerdictKind;
	/** In a sentence. */
	says: string;
	/** What else there is to know of it, such as ends that are not reached. */
	besides: string[];
	/** False where it depends on resistors that nobody knows. */
	sure: boolean;
	/** Lowest and highest share of the supply that a pot reads, where one does; what is covered whatever is not known. */
	span: [number, number] | null;
}

type Level = 'closed' | 'open' | 'between';
const levelOf = (level: number): Level => (level < LOW ? 'closed' : level > HIGH ? 'open' : 'between');

const feetOf = ({ pedals }: Pairing): Foot[] =>
	pedals.flatMap(({ parts }, pedal) => parts.map((_, part) => ({ pedal, part })));

/** Everything at rest but for some feet. */
export const withFeet = (pairing: Pairing, down: readonly Foot[], to = 1): Position => {
	const position = atRest(pairing.pedals);
	for (const { pedal, part } of down) position[pedal][part] = to;
	return position;
};

/** All sets of the feet given: each of them up or down. */
const subsets = <T>(all: readonly T[]): T[][] =>
	all.reduce<T[][]>((sets, one) => [...sets, ...sets.map((set) => [...set, one])], [[]]);

const found = (
	kind: VerdictKind,
	says: string,
	besides: string[] = [],
	span: Verdict['span'] = null
): Verdict => ({ kind, says, besides, sure: true, span });

/** What the box takes for “up”, at an input: as its mode says. */
function upIs(pairing: Pairing, jack: number, atRestReads: Level): Level {
	const mode = modeOf(pairing.jacks[jack]);
	if (mode.rest === 'at-power-on') return atRestReads;
	return mode.rest === 'set' ? pairing.jacks[jack].set.rest : 'open';
}

/** How an input takes a foot, whatever the other feet do. */
type Follows = 'follows' | 'inverted' | 'no' | 'unclear';

interface SwitchInput extends Input {
	/** For each foot. */
	takes: Follows[];
	/** Reads as pressed, whatever the feet do; or as not pressed. */
	stuck: 'pressed' | 'up' | null;
	between: boolean;
}

function switchInputs(pairing: Pairing, feet: readonly Foot[], assumed: Assumed): SwitchInput[] {
	const inputs = pairing.jacks.flatMap((jack, i) =>
		readContacts(jack).map((contact): Input => ({ jack: i, contact }))
	);
	const positions = subsets(feet);
	const read = positions.map((down) => readings(pairing, withFeet(pairing, down), assumed)!);
	return inputs.map((input, i) => {
		const levels = read.map((each) => levelOf(each[i].level));
		const up = upIs(pairing, input.jack, levels[0]);
		const pressed = levels.map((level) => level !== up);
		const takes = feet.map((foot): Follows => {
			const [downs, ups] = [true, false].map((is) =>
				pressed.filter((_, p) => positions[p].includes(foot) === is)
			);
			if (downs.every(Boolean) && !ups.some(Boolean)) return 'follows';
			if (!downs.some(Boolean) && ups.every(Boolean)) return 'inverted';
			// It makes no difference in any of the others’ positions.
			const differs = positions.some(
				(down, p) =>
					!down.includes(foot) &&
					pressed[p] !==
						pressed[
							positions.findIndex(
								(other) =>
									other.length === down.length + 1 &&
									other.includes(foot) &&
									down.every((o) => other.includes(o))
							)
						]
			);
			return differs ? 'unclear' : 'no';
		});
		const stuck = pressed.every(Boolean) ? 'pressed' : pressed.some(Boolean) ? null : 'up';
		return { ...input, takes, stuck, between: levels.includes('between') };
	});
}

const inputName = (pairing: Pairing, { jack, contact }: Input) =>
	pairing.jacks.length > 1 ? `“${pairing.jacks[jack].name}”` : `the ${contact}`;

function judgeSwitches(pairing: Pairing, assumed: Assumed): Verdict {
	const feet = feetOf(pairing);
	const parts = feet.map(({ pedal, part }) => pairing.pedals[pedal].parts[part]);
	if (parts.some(({ is }) => is === 'pot'))
		return found(
			'cannot',
			'A jack for switches reads a pot as up or down from some point of its way on, and nothing between.'
		);
	const inputs = switchInputs(pairing, feet, assumed);
	const besides: string[] = [];
	const latching = parts.some((part) => part.is === 'switch' && part.acts === 'latching');
	const told = pairing.jacks.some((jack) => modeOf(jack).latching && jack.set.latching);
	if (latching && !told)
		besides.push(
			'The switch latches: one press is “down”, the next one “up”. What should happen at each press happens at every second one.'
		);
	if (!latching && told) besides.push('The box is told that the switch latches, which this one does not.');
	if (pairing.jacks.some((jack) => modeOf(jack).rest === 'at-power-on'))
		besides.push('The box takes what it finds when it is switched on for “up”: keep the foot off it then.');
	if (inputs.some(({ between }) => between))
		return found(
			'cannot',
			'In some position the box reads something between open and closed, and may take it for either.',
			besides
		);
	for (const input of inputs)
		if (input.stuck === 'pressed')
			besides.push(`The box reads ${inputName(pairing, input)} as held down all the time.`);
	const taken = (how: Follows) => feet.map((_, f) => inputs.filter(({ takes }) => takes[f] === how));
	const [follows, inverted] = [taken('follows'), taken('inverted')];
	const acting = feet.filter((_, f) => follows[f].length + inverted[f].length > 0);
	const held = inputs.some(({ stuck }) => stuck === 'pressed');
	if (acting.length === 0)
		return inputs.some(({ takes }) => takes.includes('unclear'))
			? found(
					'one of two',
					'Both feet act on the same input: the box cannot tell one from the other.',
					besides
				)
			: found('cannot', 'Nothing that the feet do reaches the box.', besides);
	if (acting.length < feet.length) {
		const [one] = acting;
		const part = parts[feet.indexOf(one)];
		return found(
			'one of two',
			`Only ${part.name || 'one of the two'} reaches the box${inverted[feet.indexOf(one)].length > 0 ? ', and that one acts inverted' : ''}.`,
			besides
		);
	}
	if (inputs.some(({ takes }) => takes.filter((how) => how === 'follows' || how === 'inverted').length > 1))
		return found(
			'one of two',
			'Both feet act on the same input: the box cannot tell one from the other.',
			besides
		);
	const backwards = feet.filter((_, f) => inverted[f].length > 0).length;
	if (backwards > 0)
		return found(
			'inverted',
			backwards < feet.length
				? 'One of the two acts when it is let go.'
				: 'It acts when it is let go: on and off are exchanged.',
			besides
		);
	if (held) return found('one of two', 'One input works; the box reads the other as held down.', besides);
	const inOrder = feet.every(
		(_, f) =>
			f === 0 ||
			inputs.findIndex(({ takes }) => takes[f] === 'follows') >
				inputs.findIndex(({ takes }) => takes[f - 1] === 'follows')
	);
	return inOrder
		? found(
				'works',
				feet.length > 1 ? 'Each foot acts on an input of its own.' : 'It acts when it is pressed.',
				besides
			)
		: found('exchanged', 'Both act, and each does the other one’s work.', besides);
}

function judgeExpression(pairing: Pairing, assumed: Assumed): Verdict {
	const feet = feetOf(pairing);
	const [foot] = feet;
	const part = pairing.pedals[foot.pedal].parts[foot.part];
	const shorted = feedShorted(pairing, withFeet(pairing, []), assumed)
		? ['It shorts the jack’s own supply to its ground: pull it out.']
		: [];
	const level = (travel: number) => readings(pairing, withFeet(pairing, [foot], travel), assumed)![0].level;
	if (part.is === 'switch' || feet.length > 1) {
		const [up, down] = [level(0), level(1)].map((each) => `${Math.round(each * 100)} %`);
		return found(
			'cannot',
			feet.length > 1
				? 'An expression jack reads one pot, and there is more than that.'
				: up === down
					? `It reads ${up}, whatever the foot does.`
					: `It jumps: ${up} up, ${down} down, and nothing between.`,
			shorted
		);
	}
	const levels = Array.from({ length: STEPS + 1 }, (_, i) => level(i / STEPS));
	const span: [number, number] = [Math.min(...levels), Math.max(...levels)];
	const moved = levels.at(-1)! - levels[0];
	if (span[1] - span[0] < LEAST_SPAN)
		return found(
			'cannot',
			`The box sees it move by ${Math.round((span[1] - span[0]) * 100)} % only.`,
			shorted,
			span
		);
	const upwards = levels.every((each, i) => i === 0 || each >= levels[i - 1] - 1e-9);
	const downwards = levels.every((each, i) => i === 0 || each <= levels[i - 1] + 1e-9);
	const passes = (share: number) =>
		levels.findIndex((each) => Math.abs(each - levels[0]) >= share * Math.abs(moved)) / STEPS;
	if ((!upwards && !downwards) || passes(0.9) - passes(0.1) < LEAST_TRAVEL)
		return found(
			'cannot',
			'The wiper is not where the box reads: almost nothing, and all at once at one end of the way.',
			shorted,
			span
		);
	return upwards !== pairing.jacks[0].set.reversed
		? found('works', 'It rises from heel to toe.', shorted, span)
		: found('backwards', 'It falls from heel to toe.', shorted, span);
}

/** What is to be said of the ends that a pot reaches. `known`: no resistor is guessed. */
function endsWords(pairing: Pairing, [low, high]: [number, number], known: boolean): string[] {
	const mends = modeOf(pairing.jacks[0]).calibrates ? ' Calibrating mends that.' : '';
	const percent = (share: number) => `${Math.round(share * 100)} %`;
	if (!known)
		return low > AT_END || high < 1 - AT_END
			? [`How near it comes to both ends depends on resistors that nobody has noted.${mends}`]
			: [];
	return [
		...(low > AT_END ? [`It is never quite nought: ${percent(low)} at least.${mends}`] : []),
		...(high < 1 - AT_END ? [`It does not reach the end: ${percent(high)} at most.${mends}`] : [])
	];
}

function judgeWith(pairing: Pairing, assumed: Assumed): Verdict {
	const takes = pairing.jacks.map((jack) => modeOf(jack).takes);
	if (!takes.includes('expression')) return judgeSwitches(pairing, assumed);
	if (pairing.jacks.length > 1)
		return found('cannot', 'A splitting cable joins two jacks for switches, or none.');
	return judgeExpression(pairing, assumed);
}

/** From good to bad. */
export const VERDICTS: readonly VerdictKind[] = [
	'works',
	'exchanged',
	'inverted',
	'backwards',
	'one of two',
	'cannot',
	'does not fit'
];

/**
 * What the box makes of what is plugged in to it, by the circuit in every position. Where resistors are not known, by all
 * corners of what is usual: the worst of them, and whether they agree.
 */
export function judge(pairing: Pairing): Verdict {
	if (!wiringOf(pairing))
		return found(
			'does not fit',
			pairing.cable === null
				? 'The pedal wants a cable.'
				: pairing.pedals.some(({ plug }) => plug.startsWith('own'))
					? 'The pedal has a cable of its own.'
					: 'This cable joins other numbers of jacks and pedals.'
		);
	const all = cornersOf(pairing).map((assumed) => judgeWith(pairing, assumed));
	const worst = all.reduce((a, b) => (VERDICTS.indexOf(b.kind) > VERDICTS.indexOf(a.kind) ? b : a));
	const spans = all.flatMap(({ span }) => (span ? [span] : []));
	const span: Verdict['span'] =
		spans.length > 0
			? [Math.max(...spans.map(([low]) => low)), Math.min(...spans.map(([, high]) => high))]
			: null;
	const moves = span !== null && (worst.kind === 'works' || worst.kind === 'backwards');
	return {
		...worst,
		besides: [...worst.besides, ...(moves ? endsWords(pairing, span, all.length === 1) : [])],
		sure: all.every(({ kind }) => kind === worst.kind),
		span
	};
}
