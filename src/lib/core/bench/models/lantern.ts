import { CHECKSUMS, PACKINGS } from '../../sysex';
import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x52;
const packing = PACKINGS['pairs-14-high-first'];
const checksum = CHECKSUMS['ones-complement-7'];
const PRESETS = 20;
const SIZE = 32;

/** An effect pedal that only listens: presets can be written, one at a time, and never read back. */
export class Lantern extends SimulatedDevice {
	protected override readonly voice = false;
	readonly manners: UnitManners = { bufferBytes: 64, thinkMs: 2, forgets: [] };

	get switches() {
		return [this.dial('deviceId', 'Device ID', 0, 0, 7)];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId || message[4] !== 0x30)
			return;
		const slot = message[5];
		const body = message.subarray(6, message.length - 2);
		if (slot >= PRESETS || body.length !== SIZE) return;
		if (checksum.of(body)[0] !== message[message.length - 2]) return this.say('ERR');
		this.store('presets', slot, [packing.unpack(body)]);
		this.say('STORED');
		this.work(25);
	}
}
