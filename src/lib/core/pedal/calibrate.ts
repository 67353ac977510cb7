/** A value of a controller, and when it was heard. `value`: 0–127. */
export interface Heard {
	atMs: number;
	value: number;
}

/** What a pedal was found to send. Values are the controller’s own. */
export interface Calibration {
	/** What it rests at with the heel down, and with the toe down: the mean of what it wanders over. */
	heel: number;
	toe: number;
	/** How many different values it wanders over at rest, at most; 1 for none. */
	noise: number;
	/** It falls from heel to toe. */
	falls: boolean;
	/** Values at each end that are no movement: everything at or beyond them is the end. */
	deadHeel: number;
	deadToe: number;
	/** Steps between the dead zones that can be told from one another. */
	steps: number;
	/** Places that its values leapt over each time that it passed: the track is worn there. */
	worn: { from: number; to: number; times: number }[];
}

export type Calibrating =
	| { is: 'heard'; calibration: Calibration }
	/** What is still wanted. */
	| { is: 'wanting'; what: 'movement' | 'heel' | 'toe'; says: string };

/** The highest value of a controller. */
const TOP = 127;
/** The stream is looked at in steps of so much. */
const GRID_MS = 5;
/** Places of the grid between two looks for a rest. */
const STRIDE = 10;
/** A rest lasts so long, at least. */
const REST_MS = 600;
/** At rest, the means of both halves differ by less than this share of what it wanders over. */
const DRIFT = 0.25;
/** What is at neither end of this share of the travel is a rest on the way. */
const END_SHARE = 0.2;
/** A leap of so many times the usual step is a hole in the track; and of so many values, at least. */
const HOLE = 6;
const LEAST_HOLE = 8;

/** A rest of minutes, or of a night, says no more than one of so much. */
const LONG_MS = 5000;

/** The stream by a steady clock: what was said last holds. */
function onGrid(heard: readonly Heard[], untilMs: number): number[] {
	const grid: number[] = [];
	let next = 0;
	for (let at = heard[0].atMs; at <= untilMs; at += GRID_MS) {
		while (next + 1 < heard.length && heard[next + 1].atMs <= at) next++;
		grid.push(heard[next].value);
		const comes = heard[next + 1]?.atMs ?? untilMs;
		if (at - heard[next].atMs >= LONG_MS) at += GRID_MS * Math.max(0, Math.floor((comes - at) / GRID_MS) - 1);
	}
	return grid;
}

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);
/** Of as many as there are: a recording may have hundreds of thousands. */
const leastOf = (values: readonly number[]) => values.reduce((a, b) => Math.min(a, b), Infinity);
const mostOf = (values: readonly number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity);

interface Rest {
	from: number;
	to: number;
	mean: number;
}

/** Stretches in which nothing goes anywhere: windows without drift, joined where they overlap. */
function restsOf(grid: readonly number[]): Rest[] {
	const width = REST_MS / GRID_MS;
	const half = width / 2;
	/** Sums up to each place. */
	const upTo = new Float64Array(grid.length + 1);
	grid.forEach((value, i) => (upTo[i + 1] = upTo[i] + value));
	const rests: Rest[] = [];
	for (let at = 0; at + width <= grid.length; at += STRIDE) {
		let [low, high] = [grid[at], grid[at]];
		for (let i = at + 1; i < at + width; i++) {
			if (grid[i] < low) low = grid[i];
			else if (grid[i] > high) high = grid[i];
		}
		const spread = high - low;
		const [begin, middle, end] = [upTo[at], upTo[at + half], upTo[at + width]];
		const drift = Math.abs(end - middle - (middle - begin)) / half;
		if (spread > 0 && drift > Math.max(DRIFT * spread, spread === 1 ? 0.5 : 0)) continue;
		const last = rests.at(-1);
		const mean = (end - begin) / width;
		if (last && at <= last.to && Math.abs(mean - last.mean) <= Math.max(1, spread / 4)) last.to = at + width;
		else rests.push({ from: at, to: at + width, mean });
	}
	return rests;
}

/** A rest is seen at its outmost value so often, at least: rarer ones may be a slip. */
const SEEN = 4;
/** A mean is taken over so many times a rest, if there are as many. */
const MANY = 1.5;

/**
 * The end that some rests are at: everything that they wander over. On its outer side nothing else comes: the outmost value
 * is met again and again while the foot stands at the end, and no more once it leaves, so between the first and the last
 * of these it stood.
 * @param outwards -1 for an end at the bottom, 1 for one at the top
 */
function endOf(grid: readonly number[], rests: readonly Rest[], outwards: -1 | 1) {
	const stretches = rests.map(({ from, to }) => grid.slice(from, to).map((value) => value * outwards));
	const outmost = mostOf(stretches.map(mostOf));
	/** Between the first and the last time that a stretch was at least so far out, its edges aside. */
	const stoodFrom = (least: number) =>
		stretches.flatMap((values) => {
			let [seen, from, to] = [0, 0, 0];
			for (let i = 0; i < values.length; i++) {
				if (values[i] < least) continue;
				if (seen++ === 0) from = i;
				to = i + 1;
			}
			const edge = Math.floor((to - from) / 8);
			return seen < SEEN ? [] : { values, from: from + edge, to: to - edge };
		});
	const many = (parts: ReturnType<typeof stoodFrom>) => sum(parts.map(({ from, to }) => to - from));
	const stoodAt = (least: number) =>
		stoodFrom(least).flatMap(({ values, from, to }) => values.slice(from, to));
	let least = outmost;
	while (many(stoodFrom(least)) < REST_MS / GRID_MS / 2) least--;
	const stood = stoodAt(least);
	// Some of the way may be among it; what the foot wandered over while it stood was met more than once.
	let inmost = leastOf(stood);
	while (stood.filter((value) => value <= inmost).length < SEEN) inmost++;
	const [low, high] = [outmost, inmost].map((value) => value * outwards).sort((a, b) => a - b);
	// The mean wants many: a value that is met seldom may have been met in a short part of the rest alone. Then the next ones
	// inwards bound it, up to a quarter of what it wanders over: a foot that has left by less hardly shifts it.
	let long = stood;
	for (let by = 1; long.length < (REST_MS / GRID_MS) * MANY && by * 4 <= outmost - inmost + 1; by++)
		long = stoodAt(least - by);
	const taken = (sum(long) / long.length) * outwards;
	// What it wanders over to both sides alike has its middle there, too, unless a side is cut off: of two estimates the middle.
	const mean = low > 0 && high < TOP ? (taken + (low + high) / 2) / 2 : taken;
	return { low, high, mean: Math.min(high, Math.max(low, mean)) };
}

/** Leaps over the same values, in passes of their own: a hand that is quick leaps anywhere, a hole stays where it is. */
function wornPlaces(heard: readonly Heard[], noise: number, span: number): Calibration['worn'] {
	const leaps = heard.slice(1).map(({ value, atMs }, i) => ({
		low: Math.min(value, heard[i].value),
		high: Math.max(value, heard[i].value),
		gapMs: atMs - heard[i].atMs,
		atMs
	}));
	const sizes = leaps.map(({ low, high }) => high - low).sort((a, b) => a - b);
	const usual = Math.max(1, sizes[Math.floor(sizes.length / 2)] ?? 1);
	const least = Math.max(LEAST_HOLE * Math.max(1, span / 127), HOLE * usual, noise * 2);
	const places: { from: number; to: number; times: number; last: number }[] = [];
	for (const { low, high, atMs } of leaps.filter((leap) => leap.high - leap.low >= least)) {
		const place = places.find(({ from, to }) => Math.min(high, to) - Math.max(low, from) > (to - from) / 2);
		if (!place) places.push({ from: low, to: high, times: 1, last: atMs });
		else {
			place.from = Math.max(place.from, low);
			place.to = Math.min(place.to, high);
			if (atMs - place.last > 100) place.times++;
			place.last = atMs;
		}
	}
	return places
		.filter(({ times }) => times > 1)
		.map(({ from, to, times }) => ({ from, to, times }))
		.sort((a, b) => a.from - b.from);
}

/**
 * The ends, the noise and the holes of a pedal, from what it said while somebody held the heel down for a second, went
 * slowly to the toe, and held that for a second; back and again, as often as one likes.
 * @param heard in the order of time
 * @param untilMs when listening ended: a pedal at rest says nothing
 * @param first which end the stream begins with
 */
export function calibrate(
	heard: readonly Heard[],
	untilMs: number,
	first: 'heel' | 'toe' = 'heel'
): Calibrating {
	const wanting = (what: 'movement' | 'heel' | 'toe', says: string): Calibrating => ({
		is: 'wanting',
		what,
		says
	});
	const values = heard.map(({ value }) => value);
	const travel = values.length === 0 ? 0 : mostOf(values) - leastOf(values);
	if (travel < 4) return wanting('movement', 'Move the pedal from heel to toe.');
	const grid = onGrid(heard, untilMs);
	const rests = restsOf(grid);
	const begins = rests[0];
	if (!begins) return wanting(first, `Hold the ${first} down for a second.`);
	const [bottom, top] = [leastOf(values), mostOf(values)];
	// A pedal that rests says nothing, and its first word may be that it moves: where it began is where the heel is.
	const nearTop = begins.mean - bottom > top - begins.mean;
	const lows = rests.filter(({ mean }) => mean - bottom <= travel * END_SHARE);
	const highs = rests.filter(({ mean }) => top - mean <= travel * END_SHARE);
	const missing = first === 'heel' ? 'toe' : 'heel';
	if (lows.length === 0 || highs.length === 0)
		return wanting(missing, `Now slowly to the ${missing}, and hold it for a second.`);
	const [low, high] = [endOf(grid, lows, -1), endOf(grid, highs, 1)];
	const noise = Math.max(low.high - low.low, high.high - high.low) + 1;
	const [start, other] = nearTop ? [high, low] : [low, high];
	const [heel, toe] = first === 'heel' ? [start, other] : [other, start];
	const falls = heel.mean > toe.mean;
	const [deadHeel, deadToe] = falls ? [heel.low, toe.high] : [heel.high, toe.low];
	return {
		is: 'heard',
		calibration: {
			heel: heel.mean,
			toe: toe.mean,
			noise,
			falls,
			deadHeel,
			deadToe,
			steps: Math.max(0, Math.floor(Math.abs(deadToe - deadHeel) / noise)),
			worn: wornPlaces(heard, noise, travel)
		}
	};
}

/** Where a value stands between the dead zones, 0 heel – 1 toe. */
export function travelOf(
	{ deadHeel, deadToe }: Pick<Calibration, 'deadHeel' | 'deadToe'>,
	value: number
): number {
	if (deadHeel === deadToe) return 0;
	return Math.min(1, Math.max(0, (value - deadHeel) / (deadToe - deadHeel)));
}
