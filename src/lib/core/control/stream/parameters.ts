import type { HeardMessage } from './recording';
import type { Series, Value } from './series';

/** Controllers that choose a parameter and carry its value (MIDI 1.0, table III a). */
const DATA = 6;
const DATA_FINE = 38;
const UP = 96;
const DOWN = 97;
const CHOOSES: Partial<Record<number, { kind: 'rpn' | 'nrpn'; half: 'high' | 'low' }>> = {
	98: { kind: 'nrpn', half: 'low' },
	99: { kind: 'nrpn', half: 'high' },
	100: { kind: 'rpn', half: 'low' },
	101: { kind: 'rpn', half: 'high' }
};
/** Both halves at 127: no parameter is chosen. */
const NONE = 0x3fff;

/** A parameter that was told values, absolute or in steps. */
export interface ParameterSeries extends Series {
	kind: 'rpn' | 'nrpn';
	number: number;
	/** Its values are steps up and down (96, 97), not values. */
	steps: boolean;
}

interface Told {
	at: number;
	atMs: number;
	controller: number;
	value: number;
}

/** What a channel has been told so far. */
interface Listening {
	chosen: { kind: 'rpn' | 'nrpn'; high: number | null; low: number | null } | null;
	/** Places of messages that chose something, and belong to whatever is told next. */
	choosing: number[];
	/** What was told last. */
	last: Found | null;
}

interface Found {
	kind: 'rpn' | 'nrpn';
	number: number;
	channel: number;
	messages: number;
	told: Told[];
}

/**
 * Registered and non-registered parameters in what was heard, and the messages that are theirs. A channel on which
 * nothing is both chosen and told has none: its controllers 6, 38 and 96–101 are controllers like others.
 */
export function parametersOf(heard: readonly HeardMessage[]): {
	series: ParameterSeries[];
	taken: Set<number>;
} {
	const taken = new Set<number>();
	const found = new Map<string, Found>();
	const channels = new Map<number, Listening>();
	/** What was chosen belongs to a parameter, with what told it. */
	const give = (to: Found, listening: Listening, ...telling: number[]) => {
		const given = [...listening.choosing, ...telling];
		to.messages += given.length;
		for (const at of given) taken.add(at);
		listening.choosing = [];
	};
	for (const [at, { bytes, atMs }] of heard.entries()) {
		const [status, controller, value] = bytes;
		if ((status & 0xf0) !== 0xb0) continue;
		const channel = (status & 0x0f) + 1;
		const listening = channels.get(channel) ?? { chosen: null, choosing: [], last: null };
		channels.set(channel, listening);
		const half = CHOOSES[controller];
		if (half) {
			if (listening.chosen?.kind !== half.kind) listening.chosen = { kind: half.kind, high: null, low: null };
			listening.chosen[half.half] = value;
			listening.choosing.push(at);
			continue;
		}
		const { chosen } = listening;
		if (![DATA, DATA_FINE, UP, DOWN].includes(controller)) continue;
		if (!chosen || chosen.high === null || chosen.low === null) continue;
		const number = (chosen.high << 7) | chosen.low;
		if (number === NONE) continue;
		const key = `${chosen.kind} ${channel} ${number}`;
		const entry = found.get(key) ?? { kind: chosen.kind, number, channel, messages: 0, told: [] };
		found.set(key, entry);
		entry.told.push({ at, atMs, controller, value });
		give(entry, listening, at);
		listening.last = entry;
	}
	// What chooses nothing after the last value (mostly: no parameter) belongs to the one before.
	for (const listening of channels.values()) if (listening.last) give(listening.last, listening);
	const series = [...found.values()].map(({ told, ...rest }) => ({ ...rest, ...valuesOf(told) }));
	return { series, taken };
}

/** The values of a parameter: steps where only 96 and 97 tell it, else its data entries, both halves joined where it has both. */
function valuesOf(told: readonly Told[]): { values: Value[]; steps: boolean } {
	const entries = told.filter(({ controller }) => controller === DATA || controller === DATA_FINE);
	if (entries.length === 0)
		return {
			// The value of 96 and 97 is to be ignored, whatever it is (MIDI 1.0, “Data increment / decrement”).
			values: told.map(({ at, atMs, controller }) => ({ at, atMs, value: controller === UP ? 1 : -1 })),
			steps: true
		};
	const fine = entries.some(({ controller }) => controller === DATA_FINE);
	if (!fine) return { values: entries.map(({ at, atMs, value }) => ({ at, atMs, value })), steps: false };
	const [first] = entries;
	const values: Value[] = [];
	let [high, low] = [0, 0];
	entries.forEach(({ at, atMs, controller, value }, i) => {
		if (controller === DATA) high = value;
		else low = value;
		const next = entries[i + 1];
		// A value is whole when its second half has come, or when the first half of the next one is there already.
		if (controller !== first.controller || !next || next.controller === first.controller)
			values.push({ at, atMs, value: (high << 7) | low });
	});
	return { values, steps: false };
}
