import { CHECKSUMS, PACKINGS } from '../../sysex';
import type { Touch, UnitManners } from '../unit';
import { KINDS, SimulatedController, wideAt, type Saying } from './controller';

const MODEL = 0x5d;
const packing = PACKINGS['nibbles-high-first'];
const checksum = CHECKSUMS['xor-7'];
const PAGES = 12;
const SIZE = 912;
const CELL = { first: 16, size: 14 };
const GESTURES: Touch[] = ['move', 'push', 'double', 'long'];
const WAYS: Saying['way'][] = [
	'position',
	'twos-complement',
	'sign-bit',
	'offset-64',
	'held',
	'switch',
	'value'
];

/** A rack panel of encoders: it gives and takes single pages, says whether it took them, and plays them at once. */
export class Larch extends SimulatedController {
	readonly manners: UnitManners = { bufferBytes: 1024, thinkMs: 3, forgets: [] };

	get switches() {
		return [this.flag('protect', 'Page lock', 0), this.dial('deviceId', 'Device ID', 16, 0, 31)];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const [command, page] = [message[4], message[5]];
		if (page >= PAGES) return;
		if (command === 0x01 && message.length === 7) {
			const body = packing.pack(this.state.memory.pages[page]);
			return this.#tell(0x02, page, ...body, ...checksum.of(body));
		}
		if (command !== 0x02 || message.length !== 8 + packing.packedLength(SIZE)) return;
		if (this.isOn('protect')) return this.#tell(0x05, page);
		const body = message.subarray(6, message.length - 2);
		if (checksum.of(body)[0] !== message[message.length - 2]) return this.#tell(0x04, page);
		this.store('pages', page, [packing.unpack(body)]);
		this.#tell(0x03, page);
	}

	#tell(...rest: number[]): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, ...rest, 0xf7));
	}

	protected sayingOf(control: string, how: Touch, page: number): Saying | null {
		const record = this.state.memory.pages[page];
		const at =
			CELL.first + CELL.size * (4 * (Number(control.slice('turn-'.length)) - 1) + GESTURES.indexOf(how));
		if (!record || !(at >= CELL.first && at + CELL.size <= SIZE)) return null;
		const kind = KINDS[record[at] & 15];
		if (!kind) return null;
		return {
			kind,
			way: WAYS[record[at + 1] & 7] ?? 'held',
			channel: record[at + 2] & 15,
			number: wideAt(record, at + 4),
			low: wideAt(record, at + 6),
			high: wideAt(record, at + 8)
		};
	}
}
