import { joinBytes } from '../../midi';
import { PACKINGS } from '../../sysex';
import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x2e;
const packing = PACKINGS['7in8-first-high'];
const REQUEST = 0x20;
const COMMON = 0x21;
const MAP = 0x23;
/** The upper bits of the byte that says which voice it is. */
const VOICE = 0x30;
const KITS = 32;
const SIZES = { common: 32, voice: 40, map: 48 };
const VOICES = 8;
/** Rest between the messages of one kit. */
const REST_MS = 6;

/** CRC-16 of plain bytes by the polynomial x¹⁶ + x¹² + x⁵ + 1, from all ones, one bit after another. */
function remainder(bytes: Uint8Array): number {
	let register = 0xffff;
	for (const byte of bytes)
		for (let bit = 7; bit >= 0; bit--) {
			const top = (register >> 15) ^ ((byte >> bit) & 1);
			register = (register << 1) & 0xffff;
			if (top) register ^= 0x1021;
		}
	return register;
}

/** A percussion synthesiser: a kit travels as ten messages, what is common, each voice, and which key plays what. */
export class Fathom extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 300, thinkMs: 5, forgets: [] };

	get switches() {
		return [this.flag('protect', 'Kit lock', 0), this.dial('deviceId', 'Device ID', 0, 0, 15)];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const kit = message[5];
		if (!(kit < KITS)) return;
		if (message[4] === REQUEST && message.length === 7) return this.#give(kit);
		const part = this.#partOf(message[4]);
		if (part) this.#take(kit, part, message.subarray(6, message.length - 1));
	}

	/** Which stretch of a kit a command is about. */
	#partOf(command: number): { at: number; size: number } | null {
		const { common, voice, map } = SIZES;
		if (command === COMMON) return { at: 0, size: common };
		if (command === MAP) return { at: common + VOICES * voice, size: map };
		const number = command - VOICE;
		return number >= 0 && number < VOICES ? { at: common + number * voice, size: voice } : null;
	}

	#give(kit: number): void {
		let wait = this.manners.thinkMs;
		for (const command of [COMMON, ...Array.from({ length: VOICES }, (_, voice) => VOICE + voice), MAP]) {
			const { at, size } = this.#partOf(command)!;
			const plain = this.state.memory.kits[kit].subarray(at, at + size);
			const body = packing.pack(plain);
			const sum = remainder(plain);
			const message = joinBytes([
				Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, command, kit, body.length & 0x7f, body.length >> 7),
				body,
				Uint8Array.of(sum >> 12, (sum >> 8) & 15, (sum >> 4) & 15, sum & 15, 0xf7)
			]);
			this.reply(message, wait);
			wait += message.length * 0.32 + REST_MS;
		}
	}

	#take(kit: number, { at, size }: { at: number; size: number }, rest: Uint8Array): void {
		const length = rest[0] | (rest[1] << 7);
		if (length !== packing.packedLength(size) || rest.length !== 2 + length + 4) return this.say('LENGTH?');
		if (this.isOn('protect')) return this.say('LOCKED');
		const plain = packing.unpack(rest.subarray(2, 2 + length));
		const [a, b, c, d] = rest.subarray(2 + length);
		if (remainder(plain) !== ((a << 12) | (b << 8) | (c << 4) | d)) return this.say('CRC?');
		const record = this.state.memory.kits[kit].slice();
		record.set(plain, at);
		this.store('kits', kit, [record]);
		this.work(6);
	}
}
