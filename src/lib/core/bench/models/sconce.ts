import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x72;
const GIVE = 0x01;
const CARD = 0x05;
const PROGRAM = 0x11;
const CARD_SAYS = 0x45;
const TAKEN = 0x40;
const BAD = 0x41;
const LOCKED = 0x43;
const WRITE_MS = 12;

/** Every byte in two, the low half first. */
const halves = (bytes: Uint8Array): number[] => [...bytes].flatMap((byte) => [byte % 16, byte >> 4]);

const joined = (data: readonly number[]): Uint8Array =>
	Uint8Array.from({ length: data.length / 2 }, (_, i) => data[2 * i] + data[2 * i + 1] * 16);

/** All bytes together with an exclusive or. */
const fold = (data: readonly number[]): number => data.reduce((sum, byte) => sum ^ byte, 0);

/**
 * A keyboard whose second system keeps more and longer programs than its first, and has a slot for a card with programs of
 * its own. Which of them it is shows in what it is built to: its first system numbers programs in one byte, the second has a
 * bank before them, the card being bank 1.
 */
export class Sconce extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 300, thinkMs: 4, forgets: [] };

	get switches() {
		return [
			this.flag('protect', 'Write lock', 0),
			this.dial('deviceId', 'Device ID', 0, 0, 15),
			this.dial('channel', 'Channel', 1, 1, 16)
		];
	}

	protected override chosen(): void {
		const channel = (this.state.settings.channel ?? 1) - 1;
		this.reply(Uint8Array.of(0xb0 + channel, 0, 0, 0xc0 + channel, this.cursor));
	}

	get #isSecond(): boolean {
		return this.state.firmware[0] >= 2;
	}

	#tell(wait: number, ...data: number[]): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, ...data, 0xf7), wait);
	}

	/** Where programs of a bank are kept; nothing where there is no such bank. */
	#bank(bank: number): { area: string; records: Uint8Array[] } | null {
		const area = ['programs', 'card'][bank];
		const records = this.state.memory[area];
		return records ? { area, records } : null;
	}

	/** The program that data begin with, and what comes behind. */
	#place(data: number[]): { place: number[]; bank: number; program: number; rest: number[] } {
		const [first, second, ...rest] = data;
		return this.#isSecond
			? { place: [first, second], bank: first, program: second, rest }
			: { place: [first], bank: 0, program: first, rest: data.slice(1) };
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const data = [...message.subarray(5, -1)];
		const wait = this.manners.thinkMs;
		if (message[4] === CARD && this.#isSecond && data.length === 0)
			return this.#tell(wait, CARD_SAYS, this.#bank(1) ? 1 : 0);
		const { place, bank, program, rest } = this.#place(data);
		const found = this.#bank(bank);
		if (!found || !found.records[program]) return;
		if (message[4] === GIVE && rest.length === 0) {
			const body = halves(found.records[program]);
			return this.#tell(wait, PROGRAM, ...place, ...body, fold(body));
		}
		if (message[4] !== PROGRAM) return;
		if (this.isOn('protect')) return this.#tell(wait, LOCKED, ...place);
		const body = rest.slice(0, -1);
		if (body.length !== 2 * found.records[program].length || rest.at(-1) !== fold(body))
			return this.#tell(wait, BAD, ...place);
		this.work(WRITE_MS);
		this.store(found.area, program, [joined(body)]);
		this.#tell(wait, TAKEN, ...place);
	}
}
