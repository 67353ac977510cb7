import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x59;
const REQUEST = 0x01;
const EDIT = 0x02;
const STORE = 0x03;
const BANKS = 2;
const PROGRAMS = 32;
const SIZE = 56;

/** Bytes as two nibbles each, the low one first. */
const nibbles = (bytes: Uint8Array) => [...bytes].flatMap((byte) => [byte & 15, byte >> 4]);

/**
 * An analogue synthesiser that knows its edit buffer alone: what plays is given when asked, what comes is played, and a
 * command puts that into a program. Programs are called up from outside by bank select and program change.
 */
export class Skiff extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 200, thinkMs: 6, forgets: [] };
	/** Bank select that waits for its program change. */
	#bank = 0;

	get switches() {
		return [
			this.flag('protect', 'Memory protect', 0),
			this.flag('follows', 'Program change', 1),
			this.flag('banks', 'Bank select', 1),
			this.dial('channel', 'Channel', 1, 1, 16),
			this.dial('deviceId', 'Device ID', 0, 0, 15)
		];
	}

	protected override bankSelect(controller: 0 | 32, value: number): void {
		if (controller === 0 && value < BANKS && this.isOn('banks')) this.#bank = value;
	}

	protected override programChange(number: number, channel: number): boolean {
		const own = this.switches.find(({ id }) => id === 'channel')!.value;
		if (!this.isOn('follows') || channel !== own || number >= PROGRAMS) return false;
		this.select(this.#bank * PROGRAMS + number);
		return true;
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const command = message[4];
		if (command === REQUEST && message.length === 6) {
			const body = nibbles(this.playing);
			const check = body.reduce((all, nibble) => all ^ nibble, 0x55);
			return this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, EDIT, ...body, check, 0xf7));
		}
		if (command === EDIT && message.length === 7 + 2 * SIZE) {
			const body = message.subarray(5, 5 + 2 * SIZE);
			if (
				body.some((nibble) => nibble > 15) ||
				body.reduce((all, nibble) => all ^ nibble, 0x55) !== message[5 + 2 * SIZE]
			)
				return this.say('DATA?');
			return this.tryOut(Uint8Array.from({ length: SIZE }, (_, i) => body[2 * i] | (body[2 * i + 1] << 4)));
		}
		if (command !== STORE || message.length !== 7 || message[5] >= BANKS * PROGRAMS) return;
		if (this.isOn('protect')) return this.say('PROTECTED');
		this.store('programs', message[5], [this.playing]);
		this.select(message[5]);
		this.work(40);
	}
}
