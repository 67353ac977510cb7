import { joinBytes } from '../../midi';
import { CHECKSUMS, PACKINGS } from '../../sysex';
import { SimulatedDevice, cutRecords, type UnitManners } from '../unit';

const MODEL = 0x21;
const packing = PACKINGS['7in8-first-low'];
const checksum = CHECKSUMS['negated-sum-7'];
/** Plays the one program that follows, and stores nothing. */
const EDIT = 0x03;
/** Which program plays? This one. */
const WHICH = 0x30;
const PLAYS = 0x31;
const AREAS = {
	0x01: { id: 'programs', size: 128, count: 64 },
	0x02: { id: 'system', size: 28, count: 1 }
} as const;

/** A polyphonic synthesiser: one request, one big bank; writes the whole bank at once and is busy for 350 ms. */
export class Orrery extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 256, thinkMs: 6, forgets: [] };

	get switches() {
		return [this.flag('protect', 'Memory protect', 0), this.dial('deviceId', 'Device ID', 0, 0, 15)];
	}

	#tellWhich(): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, PLAYS, this.plays, 0xf7));
	}

	protected override chosen(): void {
		this.#tellWhich();
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const command = message[4];
		if (command === WHICH && message.length === 6) return this.#tellWhich();
		const asked = AREAS[(command - 0x10) as keyof typeof AREAS];
		if (asked && message.length === 6) {
			const body = packing.pack(joinBytes(this.state.memory[asked.id]));
			const covered = Uint8Array.of(this.deviceId, command - 0x10, ...body);
			this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, ...covered, ...checksum.of(covered), 0xf7));
			return;
		}
		if (command === EDIT && message.length === 7 + packing.packedLength(AREAS[0x01].size)) {
			const sum = checksum.of(message.subarray(3, message.length - 2))[0];
			if (sum !== message[message.length - 2]) return this.say('CHECKSUM ERROR');
			return this.tryOut(packing.unpack(message.subarray(5, message.length - 2)));
		}
		const written = AREAS[command as keyof typeof AREAS];
		if (!written || message.length !== 7 + packing.packedLength(written.size * written.count)) return;
		if (this.isOn('protect')) return this.say('PROTECTED');
		const covered = message.subarray(3, message.length - 2);
		if (checksum.of(covered)[0] !== message[message.length - 2]) return this.say('CHECKSUM ERROR');
		this.store(
			written.id,
			0,
			cutRecords(packing.unpack(message.subarray(5, message.length - 2)), written.size)
		);
		this.say('BANK RECEIVED');
		this.work(350);
	}
}
