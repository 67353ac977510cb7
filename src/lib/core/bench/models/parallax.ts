import { CHECKSUMS, PACKINGS } from '../../sysex';
import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x34;
/** Which program plays? This one. */
const WHICH = 0x30;
const PLAYS = 0x31;
const packing = PACKINGS['nibbles-high-first'];
const checksum = CHECKSUMS['xor-7'];
const ACK = 0x70;
const NAK = 0x71;
const BUSY = 0x72;
const LOCKED = 0x73;
/** Request and dump commands by area. */
const AREAS = [
	{ id: 'programs', request: 0x20, dump: 0x21, size: 64, count: 32 },
	{ id: 'system', request: 0x24, dump: 0x25, size: 16, count: 1 }
];

/** A rack synthesiser that talks program by program, each acknowledged, and has a device ID of its own. */
export class Parallax extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 400, thinkMs: 3, forgets: [] };
	#lastSent: Uint8Array | null = null;

	protected override get loaderModel(): number {
		return MODEL;
	}

	get switches() {
		return [this.flag('protect', 'Memory protect', 0), this.dial('deviceId', 'Device ID', 1, 1, 32)];
	}

	override get deviceId(): number {
		// The panel counts from 1, the wire from 0.
		const panel = this.state.settings.deviceId ?? 1;
		const wrong = this.faults.find((fault) => fault.kind === 'wrong device ID');
		return panel - 1 + (wrong?.kind === 'wrong device ID' ? wrong.add : 0);
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const [command, slot] = [message[4], message[5]];
		if (command === WHICH && message.length === 6)
			return this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, PLAYS, this.plays, 0xf7));
		const asked = AREAS.find((area) => area.request === command);
		if (asked && message.length === 7 && slot < asked.count) {
			const covered = Uint8Array.of(slot, ...packing.pack(this.state.memory[asked.id][slot]));
			this.#lastSent = Uint8Array.of(
				0xf0,
				0x7d,
				MODEL,
				this.deviceId,
				asked.dump,
				...covered,
				...checksum.of(covered),
				0xf7
			);
			this.reply(this.#lastSent);
			return;
		}
		if (command === NAK && this.#lastSent) return this.reply(this.#lastSent);
		const written = AREAS.find((area) => area.dump === command);
		if (!written) return;
		if (message.length !== 8 + 2 * written.size || slot >= written.count) return this.#answer(NAK, slot);
		if (this.isOn('protect')) return this.#answer(LOCKED, slot);
		const covered = message.subarray(5, message.length - 2);
		if (checksum.of(covered)[0] !== message[message.length - 2]) return this.#answer(NAK, slot);
		this.store(written.id, slot, [packing.unpack(covered.subarray(1))]);
		this.work(18);
		// Every eighth write fills a memory page: it says so and needs longer.
		if (slot % 8 === 7) this.#answer(BUSY, slot, 2);
		this.#answer(ACK, slot, slot % 8 === 7 ? 60 : 20);
	}

	#answer(code: number, slot: number, afterMs?: number): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, code, slot, 0xf7), afterMs);
	}
}
