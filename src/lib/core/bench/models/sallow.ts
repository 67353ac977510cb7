import { SimulatedDevice, type UnitManners } from '../unit';

/** Asks for everything, where its value is 127. */
const TELL = 111;
/** Between one value and the next. */
const REST_MS = 2;

/** Controllers by the byte of its state that they are. */
const KNOBS = [14, 15, 16, 17, 70, 71, 72, 73, 74, 75, 76, 77];
/** Parameters of fourteen bits, by the lower half of their number; the higher one is 1. */
const FINE = [20, 21, 22, 23];
const BANK = KNOBS.length + 2 * FINE.length;
const PROGRAM = BANK + 1;

/**
 * An analogue string machine without a memory that can be dumped: what its panel shows goes out as controllers, data entries
 * and a program change, when its button is pressed or when it is asked, and comes in the same way.
 */
export class Sallow extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 600, thinkMs: 5, forgets: [] };
	protected override dumpButton = 'Send panel';
	/** The parameter whose value is entered. */
	#parameter = [0x7f, 0x7f];
	/** The bank of the next program change: that of the last one where none was said. */
	#bank: number | null = null;

	get switches() {
		return [
			this.flag('answers', 'Answers when asked', 1),
			this.flag('receives', 'Controllers in', 1),
			this.dial('channel', 'Channel', 1, 1, 16)
		];
	}

	get #channel(): number {
		return this.state.settings.channel ?? 1;
	}

	get #panel(): Uint8Array {
		return this.state.memory.panel[0];
	}

	#set(at: number, value: number): void {
		if (!this.isOn('receives')) return;
		this.store('panel', 0, [this.#panel.with(at, value)]);
	}

	protected override programChange(number: number, channel: number): boolean {
		if (channel !== this.#channel || number > 7) return false;
		if (this.#bank !== null) this.#set(BANK, this.#bank);
		this.#bank = null;
		this.#set(PROGRAM, number);
		return true;
	}

	protected override controller(number: number, value: number, channel: number): boolean {
		if (channel !== this.#channel) return true;
		if (number === TELL && value === 127 && this.isOn('answers')) this.dump();
		else if (number === 99) this.#parameter[0] = value;
		else if (number === 98) this.#parameter[1] = value;
		else if (number === 6 || number === 38) this.#enter(number === 6 ? 0 : 1, value);
		else if (KNOBS.includes(number)) this.#set(KNOBS.indexOf(number), value);
		else return false;
		return true;
	}

	protected override bankSelect(controller: 0 | 32, value: number): void {
		if (controller === 0 && value < 4) this.#bank = value;
	}

	#enter(half: 0 | 1, value: number): void {
		const at = this.#parameter[0] === 1 ? FINE.indexOf(this.#parameter[1]) : -1;
		if (at >= 0) this.#set(KNOBS.length + 2 * at + half, value);
	}

	/** It knows no exclusive message. */
	protected handle(): void {}

	override dump(): void {
		const status = 0xb0 | (this.#channel - 1);
		const panel = this.#panel;
		const messages = [
			...KNOBS.map((number, i) => [status, number, panel[i]]),
			...FINE.flatMap((low, i) => [
				[status, 99, 1],
				[status, 98, low],
				[status, 6, panel[KNOBS.length + 2 * i]],
				[status, 38, panel[KNOBS.length + 2 * i + 1]]
			]),
			[status, 0, panel[BANK]],
			[0xc0 | (this.#channel - 1), panel[PROGRAM]]
		];
		messages.forEach((message, i) =>
			this.reply(Uint8Array.from(message), this.manners.thinkMs + i * REST_MS)
		);
	}
}
