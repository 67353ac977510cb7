import { SimulatedDevice, type Spoken, type Touch } from '../unit';

/** What a controller's memory makes one gesture say; channel and values as on the wire. */
export interface Saying {
	kind: 'cc' | 'cc-14' | 'rpn' | 'nrpn' | 'note' | 'program' | 'bend' | 'pressure';
	way: 'position' | 'twos-complement' | 'sign-bit' | 'offset-64' | 'held' | 'switch' | 'value';
	channel: number;
	number: number;
	low: number;
	high: number;
}

/** How long a button is held that is pressed long, and lightly. */
const LONG_MS = 700;
const PUSH_MS = 40;
/** Between the two pushes of a double one. */
const AGAIN_MS = 160;
const STEP_MS = 12;
/** Notches forwards and back. */
const TURNS = [1, 1, 2, 1, -1, -1, -2, -1];
/** How a step is told. */
const STEPS: Partial<Record<Saying['way'], (by: number) => number>> = {
	'twos-complement': (by) => by & 127,
	'sign-bit': (by) => (by < 0 ? 64 - by : by),
	'offset-64': (by) => 64 + by
};

/** All kinds, in the order in which panels number them; the first is nothing. */
export const KINDS: readonly (Saying['kind'] | null)[] = [
	null,
	'cc',
	'cc-14',
	'rpn',
	'nrpn',
	'note',
	'program',
	'bend',
	'pressure'
];

/** A number of 14 bits in two bytes of a record, the high one first. */
export const wideAt = (record: Uint8Array, at: number): number => ((record[at] & 0x3f) << 8) | record[at + 1];

/** A simulated controller: what its controls say is read from its memory. Buttons that switch on and off in turn are remembered. */
export abstract class SimulatedController extends SimulatedDevice {
	protected override readonly voice = false;
	readonly #on = new Set<string>();

	/** What a gesture of a control says on a page, from 0; null where it says nothing. */
	protected abstract sayingOf(control: string, how: Touch, page: number): Saying | null;

	/** Tells the buttons of one page from those of another. */
	protected pageKey(page: number): string {
		return String(page);
	}

	override powerCycle(): void {
		this.#on.clear();
		super.powerCycle();
	}

	override touch(control: string, how: Touch, page: number): Spoken[] {
		const saying = this.sayingOf(control, how, page);
		if (!saying) return [];
		if (how.endsWith('move')) return turn(saying);
		// A long press, and a second one, are known as such when they were; what a light push says is said at once.
		const begins = how.endsWith('long') ? LONG_MS : how.endsWith('double') ? AGAIN_MS : 0;
		const { way, low, high } = saying;
		if (way === 'value') return tell(saying, high, begins);
		if (way === 'switch') {
			const key = `${this.pageKey(page)} ${control} ${how}`;
			if (!this.#on.delete(key)) this.#on.add(key);
			return tell(saying, this.#on.has(key) ? high : low, begins);
		}
		const held = how.endsWith('long') ? LONG_MS : PUSH_MS;
		return [...tell(saying, high, begins), ...tell(saying, low, begins + held, true)];
	}
}

function turn(saying: Saying): Spoken[] {
	const step = STEPS[saying.way];
	if (step) return TURNS.flatMap((by, i) => tell(saying, step(by), i * STEP_MS));
	const span = saying.high - saying.low;
	return [0, 0.1, 0.25, 0.5, 0.75, 1, 0.6, 0.3, 0].flatMap((share, i) =>
		tell(saying, Math.round(saying.low + share * span), i * STEP_MS)
	);
}

/** A value as the messages of a kind, in its time. */
const tell = (saying: Saying, value: number, afterMs: number, off = false): Spoken[] =>
	messagesOf(saying, value, off).map((bytes, i) => ({ afterMs: afterMs + i, bytes }));

function messagesOf({ kind, channel, number }: Saying, value: number, off: boolean): number[][] {
	const [high, low] = [value >> 7, value & 127];
	const cc = (controller: number, data: number): number[] => [0xb0 | channel, controller & 127, data & 127];
	switch (kind) {
		case 'cc':
			return [cc(number, value)];
		case 'cc-14':
			return [cc(number & 31, high), cc((number & 31) + 32, low)];
		case 'rpn':
			return [cc(101, number >> 7), cc(100, number), cc(6, high), cc(38, low)];
		case 'nrpn':
			return [cc(99, number >> 7), cc(98, number), cc(6, high), cc(38, low)];
		case 'note':
			return [[(off ? 0x80 : 0x90) | channel, number & 127, low]];
		case 'program':
			return off ? [] : [[0xc0 | channel, low]];
		case 'bend':
			return [[0xe0 | channel, low, high & 127]];
		case 'pressure':
			return [[0xd0 | channel, low]];
	}
}
