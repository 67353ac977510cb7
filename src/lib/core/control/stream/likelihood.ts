import type { Value } from './series';

/**
 * How likely a series of values is under each thing that a control can be, as natural logarithms: a plain model of how
 * hands move each kind. What is compared are differences; a difference of 3 is twenty to one.
 */
export type Encoding = 'twos-complement' | 'sign-bit' | 'offset-64';
export const ENCODINGS: readonly Encoding[] = ['twos-complement', 'sign-bit', 'offset-64'];

/** The step that a value of 0–127 means; nought where it means none. */
export const STEP_OF: Record<Encoding, (value: number) => number> = {
	'twos-complement': (value) => (value < 64 ? value : value - 128),
	'sign-bit': (value) => (value < 64 ? value : 64 - value),
	'offset-64': (value) => value - 64
};

/** A hand mostly goes on in the direction in which it went. */
const GOES_ON = 0.82;
/** An encoder never says "no step", but for a fault. */
const NO_STEP = 1e-4;

/** A size of at least 1 that is near what sizes were so far. */
const near = (size: number, mean: number): number => {
	const q = 1 / Math.max(1.05, mean);
	return q * (1 - q) ** (size - 1);
};

/** A hand that moves a control: how far it went so far at a time, and which way. */
class Hand {
	#mean: number;
	#direction = 0;

	/** @param mean how far it is expected to go at first */
	constructor(mean: number) {
		this.#mean = mean;
	}

	/**
	 * How likely it goes a step other than none, which it then has gone.
	 * @param likely of a size, given how far it went so far
	 */
	goes(step: number, likely: (size: number, mean: number) => number): number {
		const [size, direction] = [Math.abs(step), Math.sign(step)];
		const onward = this.#direction === 0 ? 0.5 : direction === this.#direction ? GOES_ON : 1 - GOES_ON;
		const all = onward * likely(size, this.#mean);
		this.#mean += (size - this.#mean) * 0.3;
		this.#direction = direction;
		return all;
	}
}

/** A control with a position: it goes from where it is to somewhere near, and seldom says the same twice. */
export function absolute(values: readonly Value[], range = 128): number {
	const fixed = [
		{ repeats: 0.02, prior: 0.92 },
		{ repeats: 0.4, prior: 0.08 }
	].map(({ repeats, prior }) => Math.log(prior) + moves(values, repeats, range));
	return Math.max(...fixed);
}

function moves(values: readonly Value[], repeats: number, range: number): number {
	let sum = -Math.log(range);
	const hand = new Hand(3);
	for (let i = 1; i < values.length; i++) {
		const step = values[i].value - values[i - 1].value;
		sum += Math.log(
			step === 0
				? repeats
				: (1 - repeats) *
						hand.goes(
							step,
							// Mostly a step like those before; at times any, which is likelier the smaller it is; rarely a jump.
							(size, mean) => 0.6 * near(size, mean) + 0.35 / ((size + 1) * Math.log(range)) + 0.05 / range
						)
		);
	}
	return sum;
}

/** An encoder that tells steps. */
export function relative(values: readonly Value[], encoding: Encoding): number {
	const hand = new Hand(1.3);
	return values.reduce((sum, { value }) => {
		const step = STEP_OF[encoding](value);
		const likely =
			step === 0 ? NO_STEP : hand.goes(step, (size, mean) => 0.95 * near(size, mean) + 0.05 / 63);
		return sum + Math.log(likely);
	}, 0);
}

/** A button with two values that follow each other. */
export function twoValues(values: readonly Value[]): number {
	const seen = new Set(values.map(({ value }) => value));
	if (seen.size > 2) return -Infinity;
	const [low, high] = [Math.min(...seen), Math.max(...seen)];
	// Two values side by side are one that flickers.
	if (low > 0 && seen.size === 2 && high - low < 8) return -Infinity;
	let sum = Math.log(
		seen.has(0) && seen.has(127)
			? 0.8
			: seen.size === 1
				? low === 0 || high === 127
					? 0.4
					: 0.05 / 128
				: low === 0
					? 0.15 / 126
					: 0.05 / 16384
	);
	for (let i = 1; i < values.length; i++)
		sum += Math.log(values[i].value !== values[i - 1].value ? 0.95 : 0.03);
	return sum;
}

/** A pad that says how hard it was hit, and nought when it is let go of. */
export function struck(values: readonly Value[]): number {
	let sum = Math.log(0.05);
	for (let i = 0; i < values.length; i++) {
		const { value } = values[i];
		const down = i === 0 || values[i - 1].value === 0;
		sum += Math.log(down ? (value > 0 ? 0.97 / 127 : 0.01) : value === 0 ? 0.97 : 0.03 / 127);
	}
	return sum;
}
