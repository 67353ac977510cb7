import { joinBytes } from '../../midi';
import { CHECKSUMS, PACKINGS } from '../../sysex';
import type { Touch, UnitManners } from '../unit';
import { SimulatedController, type Saying } from './controller';

const MODEL = 0x5e;
const packing = PACKINGS['7in8-last-low'];
const checksum = CHECKSUMS['sum-7'];
const BANKS = 6;
const SIZE = 688;
const CELL = { first: 16, size: 24 };
const KINDS: (Saying['kind'] | null)[] = [null, 'note', 'cc', 'bend', 'program', 'pressure'];
const WAYS: Saying['way'][] = ['held', 'switch', 'value', 'position', 'offset-64', 'twos-complement'];
/** Gestures in the order of a bank's cells, after those of the pads and the knobs. */
const LAST = ['stick-x', 'stick-y', 'ribbon', 'bank'];

/** A pad plate: it gives all its banks at once, takes them one by one, and says nothing to that. */
export class Sluice extends SimulatedController {
	readonly manners: UnitManners = { bufferBytes: 900, thinkMs: 6, forgets: [] };

	get switches() {
		return [this.flag('protect', 'Bank lock', 0)];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL) return;
		if (message[3] === 0x40 && message.length === 5) {
			const body = packing.pack(joinBytes(this.state.memory.banks));
			return this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, 0x41, ...body, ...checksum.of(body), 0xf7));
		}
		const bank = message[4];
		if (message[3] !== 0x42 || bank >= BANKS || message.length !== 7 + packing.packedLength(SIZE)) return;
		if (this.isOn('protect')) return this.say('LOCKED');
		const body = message.subarray(5, message.length - 2);
		if (checksum.of(body)[0] !== message[message.length - 2]) return this.say('SUM?');
		this.store('banks', bank, [packing.unpack(body)]);
		this.work(45);
	}

	protected sayingOf(control: string, how: Touch, bank: number): Saying | null {
		const record = this.state.memory.banks[bank];
		const place = placeOf(control, how);
		if (!record || place < 0) return null;
		const at = CELL.first + CELL.size * place;
		const wide = (i: number) => record[at + i] | ((record[at + i + 1] & 0x3f) << 8);
		const kind = KINDS[(record[at] >> 4) & 15];
		if (!kind) return null;
		return {
			kind,
			way: WAYS[record[at] & 7] ?? 'held',
			channel: record[at + 1] & 15,
			number: wide(3),
			low: wide(5),
			high: wide(7)
		};
	}
}

function placeOf(control: string, how: Touch): number {
	const [row, number] = control.split('-');
	if (row === 'pad') return Number(number) - 1;
	if (row === 'turn') return 16 + 2 * (Number(number) - 1) + (how === 'shift-move' ? 1 : 0);
	return LAST.includes(control) ? 24 + LAST.indexOf(control) : -1;
}
