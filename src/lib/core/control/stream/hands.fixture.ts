import { between, type Random } from '../../bench';
import type { HeardControl, HeardMessage } from './index';

/** What a hand did at a control, and what is to be found out from what that sent. */
export interface Played {
	says: Pick<HeardControl, 'kind' | 'channel' | 'number' | 'encoding'>;
	heard: HeardMessage[];
}

const PLAYABLE = [
	'absolute',
	'absolute-14',
	'nrpn',
	'rpn',
	'twos-complement',
	'sign-bit',
	'offset-64',
	'note',
	'momentary',
	'toggle',
	'pitch-bend',
	'channel-pressure',
	'key-pressure',
	'program-change',
	'sysex'
] as const;
export type Playable = (typeof PLAYABLE)[number];
export const playable: readonly Playable[] = PLAYABLE;

/** A hand's way from one end to the other and back, at a speed of its own, with a tremble. */
function sweep(random: Random, top: number): number[] {
	const out: number[] = [];
	const stride = Math.max(1, Math.round((top / 127) * between(random, 1, 6)));
	let [at, towards] = [between(random, 0, top), random() < 0.5 ? 1 : -1];
	for (let turns = 0; turns < 3 && out.length < 400;) {
		at += towards * (1 + Math.floor(random() * stride));
		if (at >= top || at <= 0) {
			at = Math.min(top, Math.max(0, at));
			towards = -towards;
			turns++;
		}
		if (out.at(-1) !== at) out.push(at);
		// A worn track: now and then it goes back by one.
		if (random() < 0.04 && at > 0 && at < top) out.push(at - towards);
	}
	return out;
}

/** Notches there and back, a quick turn telling several at once. */
function notches(random: Random): number[] {
	const quick = random() < 0.4 ? between(random, 2, 9) : 1;
	const run = (towards: number) =>
		Array.from({ length: between(random, 8, 40) }, () => towards * between(random, 1, quick));
	const first = random() < 0.5 ? 1 : -1;
	return [...run(first), ...run(-first), ...(random() < 0.5 ? run(first) : [])];
}

const channelMessage = (status: number, channel: number, ...data: number[]) =>
	Uint8Array.of(status | (channel - 1), ...data);

/** Controllers that a surface uses for itself: neither bank select nor what chooses or carries parameters. */
const PLAIN = Array.from({ length: 120 }, (_, number) => number).filter(
	(number) => ![0, 6, 32, 38, 96, 97, 98, 99, 100, 101].includes(number)
);

/** Plays one control of a kind. */
export function play(kind: Playable, channel: number, number: number, random: Random): Played {
	const heard: HeardMessage[] = [];
	let atMs = between(random, 0, 2000);
	const say = (gapMs: number, ...messages: Uint8Array[]) => {
		atMs += gapMs;
		for (const bytes of messages) {
			heard.push({ atMs, bytes });
			atMs += 1;
		}
	};
	const pace = () => between(random, 4, 40);
	const cc = (controller: number, value: number) => channelMessage(0xb0, channel, controller, value);
	const said = (what: HeardControl['kind'], rest: Partial<Played['says']> = {}): Played => ({
		says: { kind: what, channel, number, encoding: null, ...rest },
		heard
	});
	switch (kind) {
		case 'absolute':
			for (const value of sweep(random, 127)) say(pace(), cc(number, value));
			return said('absolute');
		case 'absolute-14': {
			const coarse = number % 32;
			const fineFirst = random() < 0.4;
			for (const value of sweep(random, 16383)) {
				const halves = [cc(coarse, value >> 7), cc(coarse + 32, value & 127)];
				say(pace(), ...(fineFirst ? halves.reverse() : halves));
			}
			return said('absolute-14', { number: coarse });
		}
		case 'nrpn':
		case 'rpn': {
			const parameter = kind === 'rpn' ? between(random, 0, 5) : between(random, 0, 16382);
			const [high, low] = kind === 'rpn' ? [101, 100] : [99, 98];
			const choose = [cc(high, parameter >> 7), cc(low, parameter & 127)];
			if (random() < 0.3) choose.reverse();
			const form = between(random, 0, 2);
			const once = random() < 0.3;
			const values = form === 0 ? notches(random) : sweep(random, form === 1 ? 127 : 16383);
			values.forEach((value, i) => {
				const told =
					form === 0
						? [cc(value > 0 ? 96 : 97, 0)]
						: form === 1
							? [cc(6, value)]
							: [cc(6, value >> 7), cc(38, value & 127)];
				say(pace(), ...(once && i > 0 ? [] : choose), ...told);
			});
			if (random() < 0.5) say(1, cc(high, 127), cc(low, 127));
			return said(kind, { number: parameter });
		}
		case 'twos-complement':
		case 'sign-bit':
		case 'offset-64':
			for (const step of notches(random))
				say(
					pace(),
					cc(
						number,
						kind === 'twos-complement'
							? step & 127
							: kind === 'offset-64'
								? 64 + step
								: step > 0
									? step
									: 64 - step
					)
				);
			return said('relative', { encoding: kind });
		case 'note':
			for (let i = between(random, 1, 6); i > 0; i--) {
				say(between(random, 100, 900), channelMessage(0x90, channel, number, between(random, 1, 127)));
				say(
					between(random, 30, 400),
					random() < 0.5
						? channelMessage(0x80, channel, number, between(random, 0, 127))
						: channelMessage(0x90, channel, number, 0)
				);
			}
			return said('note');
		case 'momentary':
			for (let i = between(random, 2, 6); i > 0; i--) {
				say(between(random, 400, 900), cc(number, 127));
				say(between(random, 40, 200), cc(number, 0));
			}
			return said('momentary');
		case 'toggle':
			// An odd number of presses: it is left on.
			for (let i = 0, presses = 3 + 2 * between(random, 0, 2); i < presses; i++)
				say(between(random, 300, 900), cc(number, i % 2 === 0 ? 127 : 0));
			return said('toggle');
		case 'pitch-bend':
			for (const value of sweep(random, 16383))
				say(pace(), channelMessage(0xe0, channel, value & 127, value >> 7));
			return said('pitch-bend', { number: null });
		case 'channel-pressure':
			for (const value of sweep(random, 127)) say(pace(), channelMessage(0xd0, channel, value));
			return said('channel-pressure', { number: null });
		case 'key-pressure':
			for (const value of sweep(random, 127)) say(pace(), channelMessage(0xa0, channel, number, value));
			return said('key-pressure');
		case 'program-change':
			for (let i = between(random, 1, 6); i > 0; i--)
				say(between(random, 200, 900), channelMessage(0xc0, channel, between(random, 0, 127)));
			return said('program-change', { number: null });
		case 'sysex': {
			const summed = random() < 0.5;
			for (const value of sweep(random, 127)) {
				const body = [0x7d, 0x21, number, value];
				const sum = summed ? [-body.reduce((all, byte) => all + byte, 0) & 127] : [];
				say(pace(), Uint8Array.of(0xf0, ...body, ...sum, 0xf7));
			}
			return said('sysex', { channel: null, number: null });
		}
	}
}

/** Several controls moved at once, each with an address of its own, as far as kinds allow; the messages as they cross. */
export function playTogether(random: Random, most: number): Played[] {
	const taken = new Set<string>();
	const played: Played[] = [];
	for (let i = between(random, 1, most); i > 0; i--) {
		const kind = playable[between(random, 0, playable.length - 1)];
		const channel = between(random, 1, 16);
		const number = PLAIN[between(random, 0, PLAIN.length - 1)];
		// One parameter, wheel, pressure, program or SysEx a channel; a pair takes both of its controllers.
		const whole = ['nrpn', 'rpn', 'pitch-bend', 'channel-pressure', 'program-change'].includes(kind);
		const addresses =
			kind === 'sysex'
				? ['sysex']
				: whole
					? [`${kind === 'rpn' ? 'nrpn' : kind} ${channel}`]
					: kind === 'note' || kind === 'key-pressure'
						? [`${kind} ${channel} ${number}`]
						: [number % 32, (number % 32) + 32, number].map((each) => `cc ${channel} ${each}`);
		if (kind === 'absolute-14' && [0, 6].includes(number % 32)) continue;
		if (addresses.some((address) => taken.has(address))) continue;
		for (const address of addresses) taken.add(address);
		played.push(play(kind, channel, number, random));
	}
	return played;
}

/** What of several controls arrives, in the order of time. */
export const crossing = (played: readonly Played[]): HeardMessage[] =>
	played.flatMap(({ heard }) => heard).sort((a, b) => a.atMs - b.atMs);

/** What was found out of a control that was played, if it was. */
export const toldOf = (found: readonly HeardControl[], { says }: Played): HeardControl | undefined =>
	found.find((control) =>
		(['channel', 'number', 'kind', 'encoding'] as const).every((key) => control[key] === says[key])
	);

/** Whether whatever was said of its address instead is said to be open. */
export const leftOpen = (found: readonly HeardControl[], { says }: Played): boolean =>
	found
		.filter(({ channel, number }) => channel === says.channel && number === says.number)
		.every(({ doubt }) => doubt !== null);
