import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x71;
const KITS = 24;
const NAME = 10;
const VOICES = 40;
const STEPS = 24;
const GIVE_NAMES = 0x01;
const GIVE_KIT = 0x02;
const NAMES = 0x11;
const VOICE_PART = 0x12;
const STEP_PART = 0x13;
const END = 0x1f;
const BEGIN = 0x20;
const TAKEN = 0x40;
const BAD = 0x41;
const LOCKED = 0x43;
/** How long it writes a kit, or its names. */
const WRITE_MS = 9;

/** Seven bytes as eight: the tops of all seven first, that of the first byte lowest. */
function folded(bytes: Uint8Array): number[] {
	const out: number[] = [];
	for (let at = 0; at < bytes.length; at += 7) {
		const seven = [...bytes.slice(at, at + 7)];
		let tops = 0;
		seven.forEach((byte, i) => (tops += byte > 127 ? 2 ** i : 0));
		out.push(tops, ...seven.map((byte) => byte % 128));
	}
	return out;
}

function unfolded(wire: readonly number[]): number[] {
	const out: number[] = [];
	for (let at = 0; at < wire.length; at += 8)
		for (let i = 1; i < 8 && at + i < wire.length; i++)
			out.push(wire[at + i] + (Math.floor(wire[at] / 2 ** (i - 1)) % 2) * 128);
	return out;
}

/** What makes everything that was sent come to nought, in fourteen bits. */
const rest = (wire: readonly number[]): number =>
	(16384 - (wire.reduce((sum, byte) => sum + byte, 0) % 16384)) % 16384;

interface Taking {
	kit: number;
	voices: number[] | null;
	steps: number[] | null;
}

/**
 * A rhythm box. The names of its kits are a table of their own; a kit travels in two messages without a checksum, and a last
 * one that has it over both.
 */
export class Thrift extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 400, thinkMs: 5, forgets: [] };
	#taking: Taking | null = null;

	get switches() {
		return [this.flag('protect', 'Memory lock', 0), this.dial('deviceId', 'Device ID', 0, 0, 15)];
	}

	#tell(wait: number, command: number, ...data: number[]): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, command, ...data, 0xf7), wait);
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const command = message[4];
		const data = [...message.subarray(5, -1)];
		if (command === GIVE_NAMES && data.length === 0) return this.#giveNames();
		if (command === GIVE_KIT && data.length === 1 && data[0] < KITS) return this.#give(data[0]);
		if (![NAMES, BEGIN, VOICE_PART, STEP_PART, END].includes(command)) return;
		if (this.isOn('protect')) return this.#tell(this.manners.thinkMs, LOCKED);
		const taken = command === NAMES ? this.#takeNames(data) : this.#take(command, data);
		this.#tell(this.manners.thinkMs, taken ? TAKEN : BAD);
	}

	#giveNames(): void {
		const names = this.state.memory.kits.flatMap((kit) => [...kit.subarray(0, NAME)]);
		this.#tell(this.manners.thinkMs, NAMES, ...names, rest(names) % 128);
	}

	#give(kit: number): void {
		const record = this.state.memory.kits[kit];
		const voices = folded(record.subarray(NAME, NAME + VOICES));
		const steps = [...record.subarray(NAME + VOICES)];
		const total = rest([...voices, ...steps]);
		const wait = this.manners.thinkMs;
		this.#tell(wait, VOICE_PART, kit, ...voices);
		this.#tell(wait + 20, STEP_PART, kit, ...steps);
		this.#tell(wait + 32, END, kit, total % 128, total >> 7);
	}

	#takeNames(data: number[]): boolean {
		const names = data.slice(0, -1);
		if (names.length !== KITS * NAME || data.at(-1) !== rest(names) % 128) return false;
		this.work(WRITE_MS);
		this.store(
			'kits',
			0,
			this.state.memory.kits.map((kit, i) =>
				Uint8Array.from([...names.slice(i * NAME, (i + 1) * NAME), ...kit.subarray(NAME)])
			)
		);
		return true;
	}

	#take(command: number, [kit, ...data]: number[]): boolean {
		if (command === BEGIN) {
			this.#taking = kit < KITS && data.length === 0 ? { kit, voices: null, steps: null } : null;
			return this.#taking !== null;
		}
		const taking = this.#taking;
		if (!taking || taking.kit !== kit) return false;
		if (command === VOICE_PART) {
			if (data.length !== folded(new Uint8Array(VOICES)).length) return false;
			taking.voices = data;
			return true;
		}
		if (command === STEP_PART) {
			if (data.length !== STEPS) return false;
			taking.steps = data;
			return true;
		}
		const { voices, steps } = taking;
		if (!voices || !steps || data.length !== 2) return false;
		if (data[0] + data[1] * 128 !== rest([...voices, ...steps])) return false;
		this.#taking = null;
		this.work(WRITE_MS);
		const name = this.state.memory.kits[kit].subarray(0, NAME);
		this.store('kits', kit, [Uint8Array.from([...name, ...unfolded(voices), ...steps])]);
		return true;
	}

	override powerCycle(held = false): void {
		this.#taking = null;
		super.powerCycle(held);
	}
}
