import { joinBytes } from '../../midi';
import { CHECKSUMS, PACKINGS } from '../../sysex';
import { SimulatedDevice, cutRecords, type UnitManners } from '../unit';

const MODEL = 0x66;
const packing = PACKINGS['7in8-first-high'];
const checksum = CHECKSUMS['sum-14'];
const PROGRAMS = 50;
const SIZE = 42;

/** A reverberation rack: one program or the whole bank, whichever it is asked for; it answers nothing to a write. */
export class Umbra extends SimulatedDevice {
	protected override readonly voice = false;
	readonly manners: UnitManners = { bufferBytes: 512, thinkMs: 4, forgets: [] };

	get switches() {
		return [this.flag('protect', 'Memory protect', 0), this.dial('deviceId', 'Device ID', 0, 0, 126)];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const command = message[4];
		if (command === 0x10 && message.length === 7 && message[5] < PROGRAMS)
			return this.reply(this.#message(0x00, [message[5]], [this.state.memory.programs[message[5]]]));
		if (command === 0x11 && message.length === 6)
			return this.reply(this.#message(0x01, [], this.state.memory.programs));
		if (command !== 0x00 && command !== 0x01) return;
		if (this.isOn('protect')) return this.say('LOCKED');
		const bodyAt = command === 0x00 ? 6 : 5;
		const body = message.subarray(bodyAt, message.length - 3);
		const records = command === 0x00 ? 1 : PROGRAMS;
		const first = command === 0x00 ? message[5] : 0;
		if (first + records > PROGRAMS || body.length !== packing.packedLength(SIZE * records)) return;
		const [high, low] = checksum.of(message.subarray(4, message.length - 3));
		if (high !== message[message.length - 3] || low !== message[message.length - 2])
			return this.say('BAD SUM');
		this.store('programs', first, cutRecords(packing.unpack(body), SIZE));
		this.work(command === 0x00 ? 12 : 300);
	}

	#message(command: number, slot: number[], records: Uint8Array[]): Uint8Array {
		const covered = Uint8Array.of(command, ...slot, ...packing.pack(joinBytes(records)));
		return Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, ...covered, ...checksum.of(covered), 0xf7);
	}
}
