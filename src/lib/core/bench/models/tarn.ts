import { joinBytes } from '../../midi';
import { CHECKSUMS, PACKINGS } from '../../sysex';
import { cutRecords, type Touch, type UnitManners } from '../unit';
import { KINDS, SimulatedController, wideAt, type Saying } from './controller';

const MODEL = 0x5b;
const packing = PACKINGS['7in8-first-low'];
const checksum = CHECKSUMS['xor-7'];
const TEMPLATES = 20;
const SIZE = 412;
const CELL = { first: 32, size: 10 };
const BUTTONS = 18;
const WAYS: Saying['way'][] = ['position', 'twos-complement', 'offset-64', 'held', 'switch', 'value'];

/**
 * A panel of buttons and two wheels: it gives and takes all its templates at once, and plays none of them until it was
 * switched off and on.
 */
export class Tarn extends SimulatedController {
	readonly manners: UnitManners = { bufferBytes: 512, thinkMs: 5, forgets: ['stale'] };

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

	/** Says nothing between a dump and the next restart. */
	protected sayingOf(control: string, how: Touch, template: number): Saying | null {
		if (this.state.settings.stale) return null;
		const record = this.state.memory.templates[template];
		const at = CELL.first + CELL.size * indexOf(control, how);
		if (!record || !(at + CELL.size <= SIZE)) return null;
		const kind = KINDS[record[at] & 15];
		if (!kind) return null;
		return {
			kind,
			way: WAYS[record[at + 1] & 7] ?? 'held',
			channel: record[at + 2] & 15,
			number: wideAt(record, at + 3),
			low: wideAt(record, at + 5),
			high: wideAt(record, at + 7)
		};
	}
}

/** Buttons two by two, pushed and long; then the wheels. */
function indexOf(control: string, how: Touch): number {
	if (control === 'wheel-left' || control === 'wheel-right')
		return 2 * BUTTONS + (control === 'wheel-left' ? 0 : 1);
	return (Number(control.slice('button-'.length)) - 1) * 2 + (how === 'long' ? 1 : 0);
}
