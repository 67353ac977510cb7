import { joinBytes } from '../../midi';
import { CHECKSUMS, PACKINGS } from '../../sysex';
import { SimulatedDevice, cutRecords, type Spoken, type Touch, type UnitManners } from '../unit';

const MODEL = 0x5b;
const packing = PACKINGS['7in8-first-low'];
const checksum = CHECKSUMS['xor-7'];
const TEMPLATES = 20;
const SIZE = 412;
const CELL = { first: 32, size: 10 };
const BUTTONS = 18;
/** How long a button is held that is pressed long, and lightly. */
const LONG_MS = 700;
const PUSH_MS = 40;
const STEP_MS = 12;
/** Notches forwards and back. */
const TURNS = [1, 1, 2, 1, -1, -1, -2, -1];

/** What a cell of a template makes a control say; channel as on the wire. */
interface Cell {
	kind: number;
	way: number;
	channel: number;
	number: number;
	low: number;
	high: number;
}

/**
 * A panel of buttons and two wheels: it gives and takes all its templates at once, and plays none of them until it was
 * switched off and on.
 */
export class Tarn extends SimulatedDevice {
	protected override readonly voice = false;
	readonly manners: UnitManners = { bufferBytes: 512, thinkMs: 5, forgets: ['stale'] };
	/** Buttons that switch on and off in turn, and are on. */
	readonly #on = new Set<number>();

	get switches() {
		return [this.flag('protect', 'Memory protect', 0), this.dial('deviceId', 'Device ID', 0, 0, 15)];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		if (message[4] === 0x10 && message.length === 6) {
			const body = packing.pack(joinBytes(this.state.memory.templates));
			return this.reply(
				Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, 0x11, ...body, ...checksum.of(body), 0xf7)
			);
		}
		if (message[4] !== 0x11 || message.length !== 7 + packing.packedLength(SIZE * TEMPLATES)) return;
		if (this.isOn('protect')) return this.say('LOCKED');
		const body = message.subarray(5, message.length - 2);
		if (checksum.of(body)[0] !== message[message.length - 2]) return this.say('SUM?');
		this.store('templates', 0, cutRecords(packing.unpack(body), SIZE));
		this.state.settings.stale = 1;
		this.say('RESTART');
		this.work(380);
	}

	override powerCycle(): void {
		this.#on.clear();
		super.powerCycle();
	}

	/** Says nothing between a dump and the next restart. */
	override touch(control: string, how: Touch, template: number): Spoken[] {
		if (this.state.settings.stale) return [];
		const cell = this.#cell(control, how, template);
		if (!cell) return [];
		if (how === 'move') return this.#turn(cell);
		const held = how === 'long' ? LONG_MS : PUSH_MS;
		// A long press is known as one when it was long enough; what a light push says is said at once.
		const begins = how === 'long' ? LONG_MS : 0;
		const { way, low, high } = cell;
		if (way === 5) return tell(cell, high, begins);
		if (way === 4) {
			const key = template * 1000 + this.#indexOf(control, how);
			if (!this.#on.delete(key)) this.#on.add(key);
			return tell(cell, this.#on.has(key) ? high : low, begins);
		}
		return [...tell(cell, high, begins), ...tell(cell, low, begins + held, true)];
	}

	#indexOf(control: string, how: Touch): number {
		if (control === 'wheel-left' || control === 'wheel-right')
			return 2 * BUTTONS + (control === 'wheel-left' ? 0 : 1);
		return (Number(control.slice('button-'.length)) - 1) * 2 + (how === 'long' ? 1 : 0);
	}

	#cell(control: string, how: Touch, template: number): Cell | null {
		const record = this.state.memory.templates[template];
		const at = CELL.first + CELL.size * this.#indexOf(control, how);
		if (!record || !(at + CELL.size <= SIZE)) return null;
		const wide = (i: number) => ((record[at + i] & 0x3f) << 8) | record[at + i + 1];
		const cell = {
			kind: record[at] & 15,
			way: record[at + 1] & 7,
			channel: record[at + 2] & 15,
			number: wide(3),
			low: wide(5),
			high: wide(7)
		};
		return cell.kind === 0 ? null : cell;
	}

	#turn(cell: Cell): Spoken[] {
		if (cell.way === 1 || cell.way === 2)
			return TURNS.flatMap((by, i) => tell(cell, cell.way === 2 ? 64 + by : by & 127, i * STEP_MS));
		const span = cell.high - cell.low;
		return [0, 0.1, 0.25, 0.5, 0.75, 1, 0.6, 0.3, 0].flatMap((share, i) =>
			tell(cell, Math.round(cell.low + share * span), i * STEP_MS)
		);
	}
}

/** A value as the messages of a cell's kind, in its time. */
const tell = (cell: Cell, value: number, afterMs: number, off = false): Spoken[] =>
	messagesOf(cell, value, off).map((bytes, i) => ({ afterMs: afterMs + i, bytes }));

function messagesOf({ kind, channel, number }: Cell, value: number, off: boolean): number[][] {
	const [high, low] = [value >> 7, value & 127];
	const cc = (controller: number, data: number): number[] => [0xb0 | channel, controller & 127, data & 127];
	switch (kind) {
		case 1:
			return [cc(number, value)];
		case 2:
			return [cc(number & 31, high), cc((number & 31) + 32, low)];
		case 3:
			return [cc(101, number >> 7), cc(100, number), cc(6, high), cc(38, low)];
		case 4:
			return [cc(99, number >> 7), cc(98, number), cc(6, high), cc(38, low)];
		case 5:
			return [[(off ? 0x80 : 0x90) | channel, number & 127, low]];
		case 6:
			return off ? [] : [[0xc0 | channel, low]];
		case 7:
			return [[0xe0 | channel, low, high & 127]];
		default:
			return [[0xd0 | channel, low]];
	}
}
