import { buttonOf, pressedSlowly } from './buttons';
import { finePairs } from './fine-pairs';
import { absolute, ENCODINGS, relative, STEP_OF, struck, twoValues, type Encoding } from './likelihood';
import { parametersOf, type ParameterSeries } from './parameters';
import type { HeardMessage } from './recording';
import { seriesOf, type Series, type Value } from './series';
import { sysexValues } from './sysex-values';

export const CONTROL_KINDS = [
	'absolute',
	'absolute-14',
	'nrpn',
	'rpn',
	'relative',
	'note',
	'momentary',
	'toggle',
	'pitch-bend',
	'channel-pressure',
	'key-pressure',
	'program-change',
	'sysex'
] as const;
export type HeardKind = (typeof CONTROL_KINDS)[number];

/** What was heard of one control. */
export interface HeardControl {
	/** Its place in the order in which controls were first heard, from 1. */
	control: number;
	kind: HeardKind;
	/** 1–16; null for SysEx. */
	channel: number | null;
	/** Controller, note or parameter (0–16383); of a 14-bit pair the coarse controller. */
	number: number | null;
	/** How steps are told, where they are. */
	encoding: Encoding | null;
	/** Smallest and largest value heard, as sent; of what is relative, the smallest and the largest step. */
	low: number;
	high: number;
	messages: number;
	/** What is not decided yet, and what would decide it; null where nothing speaks against what is said. */
	doubt: string | null;
	/** Smallest difference between two values heard; null where there are no two. */
	resolution: number | null;
	/** By how much it flickers while nobody moves it. */
	noise: number;
}

/** Twenty to one. */
const SURE = Math.log(20);
const BACK = 'Turn it back once.';
/** Fewer messages of an encoder may be two of something else. */
const FEWEST = 4;

/** It has come to rest for so long, and then goes to and fro by this much at most: that is no hand. */
const REST_MS = 150;
const FLICKER = 2;

function noiseOf(values: readonly Value[]): number {
	let most = 0;
	for (let i = 2; i < values.length; i++) {
		const [a, b, c] = [values[i - 2], values[i - 1], values[i]];
		const size = Math.abs(b.value - a.value);
		if (size > 0 && size <= FLICKER && c.value === a.value && b.atMs - a.atMs >= REST_MS)
			most = Math.max(most, size);
	}
	return most;
}

function resolutionOf(values: readonly Value[]): number | null {
	const sorted = [...new Set(values.map(({ value }) => value))].sort((a, b) => a - b);
	const gaps = sorted.slice(1).map((value, i) => value - sorted[i]);
	return gaps.length > 0 ? gaps.reduce((least, gap) => Math.min(least, gap)) : null;
}

type Told = Pick<HeardControl, 'kind' | 'encoding' | 'doubt'> & { values: readonly Value[] };

const spread = (values: readonly Value[]): Pick<HeardControl, 'low' | 'high'> => ({
	low: values.reduce((least, { value }) => Math.min(least, value), values[0]?.value ?? 0),
	high: values.reduce((most, { value }) => Math.max(most, value), values[0]?.value ?? 0)
});

/** What a controller 0–127 is, and how sure that is. */
function controllerOf({ values }: Series): Told {
	const button: Told = { kind: 'momentary', encoding: null, doubt: null, values };
	if (values.length === 1)
		return {
			...button,
			kind: 'absolute',
			doubt: 'One message says little: move it to both ends, or press it again.'
		};
	const ways = [
		{ likely: absolute(values), kind: 'absolute' as const, encoding: null },
		{ likely: twoValues(values), kind: 'button' as const, encoding: null },
		{ likely: struck(values), kind: 'struck' as const, encoding: null },
		...ENCODINGS.map((encoding) => ({
			likely: relative(values, encoding),
			kind: 'relative' as const,
			encoding
		}))
	].sort((a, b) => b.likely - a.likely);
	const [best, second] = ways;
	const unsure = best.likely - second.likely < SURE;
	switch (best.kind) {
		case 'absolute':
			return { ...button, kind: 'absolute', doubt: unsure ? 'Move it to both ends.' : null };
		case 'struck':
			return { ...button, doubt: unsure ? 'Press it twice more.' : null };
		case 'button': {
			const told = buttonOf(values);
			return { ...button, ...told, doubt: told.doubt ?? (unsure ? 'Press it twice more.' : null) };
		}
		case 'relative': {
			if (values.every(({ value }) => value === values[0].value) && pressedSlowly(values))
				return {
					...button,
					doubt:
						'It says the same each time: a button that tells no release, or an encoder. Turn it back once, or press it again.'
				};
			const step = STEP_OF[best.encoding];
			return {
				kind: 'relative',
				encoding: best.encoding,
				doubt: unsure || values.length < FEWEST ? BACK : null,
				values: values.map((value) => ({ ...value, value: step(value.value) }))
			};
		}
	}
}

const FEW = 'It was heard once: move it to both ends.';

function parameterOf({ kind, values, steps }: ParameterSeries): Told {
	const oneWay = values.every(({ value }) => value === values[0].value);
	return {
		kind,
		encoding: null,
		doubt: steps ? (oneWay ? BACK : null) : values.length < 2 ? FEW : null,
		values
	};
}

/**
 * What controls were heard, in the order in which each first spoke: by what was sent alone, with no knowledge of the
 * surface. Messages that no control sends (clock, active sensing, system common) are passed over.
 * @param heard whole messages, each with its status byte, in the order of time
 */
export function classify(heard: readonly HeardMessage[]): HeardControl[] {
	const parameters = parametersOf(heard);
	const series = seriesOf(heard, parameters.taken);
	const pairs = finePairs(series);
	const halves = new Set(pairs.flatMap(({ coarse, fine }) => [coarse, fine]));
	const found: { first: number; control: Omit<HeardControl, 'control'> }[] = [];
	const add = (
		first: number,
		address: Pick<HeardControl, 'channel' | 'number' | 'messages'>,
		{ values, ...told }: Told
	) =>
		found.push({
			first,
			control: {
				...told,
				...address,
				...spread(values),
				resolution: resolutionOf(values),
				noise: told.kind === 'absolute' || told.kind === 'absolute-14' ? noiseOf(values) : 0
			}
		});
	for (const each of parameters.series)
		add(
			each.values[0].at,
			{ channel: each.channel, number: each.number, messages: each.messages },
			parameterOf(each)
		);
	for (const { coarse, fine, values, messages, margin } of pairs)
		add(
			Math.min(coarse.values[0].at, fine.values[0].at),
			{ channel: coarse.channel, number: coarse.number, messages },
			{
				kind: 'absolute-14',
				encoding: null,
				doubt: margin < SURE ? 'Turn it slowly once more: it may be two controls.' : null,
				values
			}
		);
	for (const each of series) {
		if (halves.has(each) || each.values.length === 0) continue;
		add(
			each.values[0].at,
			{ channel: each.channel, number: each.number, messages: each.messages },
			each.kind === 'cc'
				? controllerOf(each)
				: {
						kind: each.kind,
						encoding: null,
						doubt:
							each.values.length < 2 && each.kind !== 'note' && each.kind !== 'program-change' ? FEW : null,
						values: each.values
					}
		);
	}
	for (const { changing, messages, first, values } of sysexValues(heard))
		add(
			first,
			{ channel: null, number: null, messages },
			{
				kind: 'sysex',
				encoding: null,
				doubt:
					changing.length === 0
						? messages > 1
							? null
							: 'One message says little: press or turn it again.'
						: changing.length > 1
							? `Bytes ${changing.toSorted((a, b) => a - b).join(', ')} change; which of them is the value is supposed.`
							: null,
				values
			}
		);
	return found.sort((a, b) => a.first - b.first).map(({ control }, i) => ({ control: i + 1, ...control }));
}
