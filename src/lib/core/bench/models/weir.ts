import { CHECKSUMS, PACKINGS } from '../../sysex';
import type { Touch, UnitManners } from '../unit';
import { SimulatedController, wideAt, type Saying } from './controller';

const MODEL = 0x5c;
const packing = PACKINGS['7in8-first-high'];
const checksum = CHECKSUMS['negated-sum-7'];
const SETUPS = 16;
const SIZE = 2896;
const LAYER = { first: 16, size: 720 };
const CELL = 16;
/** The last one silences the desk while it is held, and says nothing itself. */
const KINDS: (Saying['kind'] | null)[] = [null, 'cc', 'note', 'program', 'cc-14', null];
const WAYS: Saying['way'][] = ['position', 'sign-bit', 'held', 'switch', 'value'];

/**
 * A desk of faders in setups of four layers. It speaks of one setup only, the one on its panel: a dump says not which, and
 * goes to whichever is shown. It tells by itself when its panel was moved. It plays what it was sent after a restart.
 */
export class Weir extends SimulatedController {
	readonly manners: UnitManners = { bufferBytes: 256, thinkMs: 4, forgets: ['stale'] };

	get switches() {
		return [
			this.flag('protect', 'Memory protect', 0),
			this.flag('called', 'Call-up from outside', 1),
			this.dial('deviceId', 'Device ID', 0, 0, 15)
		];
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const [command, argument] = [message[4], message[5]];
		if (command === 0x20) this.#tellWhere(this.manners.thinkMs);
		else if (command === 0x22 && message.length === 7) {
			if (this.isOn('called') && argument < SETUPS) super.select(argument);
			this.showed();
		} else if (command === 0x10) {
			const body = packing.pack(this.state.memory.setups[this.cursor]);
			this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, 0x11, ...body, ...checksum.of(body), 0xf7));
		} else if (command === 0x11 && message.length === 7 + packing.packedLength(SIZE)) {
			if (this.isOn('protect')) return this.say('LOCKED');
			const body = message.subarray(5, message.length - 2);
			if (checksum.of(body)[0] !== message[message.length - 2]) return this.say('SUM?');
			this.store('setups', this.cursor, [packing.unpack(body)]);
			this.state.settings.stale = 1;
			this.say('RESTART');
			this.work(220);
		}
	}

	#tellWhere(afterMs: number): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, 0x21, this.cursor, 0xf7), afterMs);
	}

	/** A hand at its panel. */
	override select(index: number): void {
		super.select(index);
		this.#tellWhere(0);
	}

	/** A layer of the setup that is shown. Says nothing between a dump and the next restart. */
	protected sayingOf(control: string, how: Touch, layer: number): Saying | null {
		const place = placeOf(control, how);
		if (this.state.settings.stale || place < 0 || layer > 3) return null;
		const record = this.state.memory.setups[this.cursor];
		const at = LAYER.first + LAYER.size * layer + CELL * place;
		const kind = KINDS[record[at] & 15];
		if (!kind) return null;
		return {
			kind,
			way: WAYS[(record[at] >> 4) & 7] ?? 'held',
			channel: record[at + 1] & 15,
			number: wideAt(record, at + 2),
			low: wideAt(record, at + 4),
			high: wideAt(record, at + 6)
		};
	}

	protected override pageKey(layer: number): string {
		return `${this.cursor} ${layer}`;
	}
}

/** Where a layer keeps a gesture: the push encoders three by three, then the faders, then the keys; -1 where it has none. */
function placeOf(control: string, how: Touch): number {
	const [row, number] = control.split('-');
	const n = Number(number) - 1;
	if (row === 'push') return n * 3 + ['move', 'push', 'shift-move'].indexOf(how);
	return row === 'fader' ? 27 + n : row === 'key' ? 36 + n : -1;
}
