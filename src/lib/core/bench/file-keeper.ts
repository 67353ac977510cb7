import { Framer } from '../sysex';

/** A file as the keeper has it. */
interface Kept {
	type: string;
	bytes: Uint8Array;
}

const GROUP = 7;
const PACKET = 112;

const code = (text: string) => [...text].map((sign) => sign.charCodeAt(0));
const xor = (bytes: readonly number[]) => bytes.reduce((all, byte) => all ^ byte, 0);

/** Seven bytes as eight: their top bits first. */
const outOf = (bytes: Uint8Array): number[] => {
	const wire: number[] = [];
	for (let at = 0; at < bytes.length; at += GROUP) {
		const group = [...bytes.subarray(at, at + GROUP)];
		wire.push(
			parseInt(
				group
					.map((byte) => byte >> 7)
					.join('')
					.padEnd(GROUP, '0'),
				2
			)
		);
		wire.push(...group.map((byte) => byte & 0x7f));
	}
	return wire;
};
const into = (wire: Uint8Array): number[] => {
	const bytes: number[] = [];
	for (let at = 0; at < wire.length; at += GROUP + 1) {
		const tops = wire[at].toString(2).padStart(GROUP, '0');
		[...wire.subarray(at + 1, at + GROUP + 1)].forEach((byte, i) =>
			bytes.push(byte | (tops[i] === '1' ? 0x80 : 0))
		);
	}
	return bytes;
};

/** A simulated recorder that gives and takes files by file dump, by code of its own. */
export class FileKeeper {
	readonly files = new Map<string, Kept>();
	readonly #framer = new Framer();
	#out: number[][] = [];
	#at = 0;
	#coming: { name: string; type: string; length: number; bytes: number[]; packets: number } | null = null;

	constructor(
		readonly deviceId: number,
		private readonly transmit: (bytes: Uint8Array) => void
	) {}

	receive(bytes: Uint8Array): void {
		for (const event of this.#framer.push(bytes)) if (event.kind === 'sysex') this.#handle(event.bytes);
	}

	/** Begins to send a file, as its panel does. */
	dump(name: string, to = 0x7e): void {
		const file = this.files.get(name)!;
		const { length } = file.bytes;
		const lengths = [0, 1, 2, 3].map((i) => Math.floor(length / 128 ** i) % 128);
		this.#out = [[0xf0, 0x7e, to, 7, 1, this.deviceId, ...code(file.type), ...lengths, ...code(name), 0xf7]];
		for (let at = 0; at < length; at += PACKET) {
			const data = outOf(file.bytes.subarray(at, at + PACKET));
			const inner = [0x7e, to, 7, 2, (at / PACKET) % 128, data.length - 1, ...data];
			this.#out.push([0xf0, ...inner, xor(inner), 0xf7]);
		}
		this.#out.push([0xf0, 0x7e, to, 0x7b, 0, 0xf7]);
		this.#at = 0;
		this.#say();
	}

	#say(): void {
		if (!this.#out[this.#at]) return;
		this.transmit(Uint8Array.from(this.#out[this.#at]));
		// Nobody answers to its end.
		if (this.#at === this.#out.length - 1) this.#out = [];
	}

	#sign(kind: number, packet: number): void {
		this.transmit(Uint8Array.of(0xf0, 0x7e, this.deviceId, kind, packet, 0xf7));
	}

	#handle(message: Uint8Array): void {
		const [, universal, to, sub, what] = message;
		if (universal !== 0x7e) return;
		// Answers to what it sends name whom they come from.
		if (sub === 0x7f && this.#out.length > 0) {
			this.#at++;
			return this.#say();
		}
		if (sub === 0x7e && this.#out.length > 0) {
			if (this.#at > 0) this.#at = 1 + what + 128 * Math.floor((this.#at - 1) / 128);
			return this.#say();
		}
		if (to !== this.deviceId && to !== 0x7f) return;
		if (sub === 0x7b) return this.#end();
		if (sub !== 7) return;
		if (what === 3) {
			const name = String.fromCharCode(...message.subarray(10, -1));
			if (this.files.has(name)) this.dump(name, message[5]);
			else this.#sign(0x7d, 0);
		}
		if (what === 1) {
			this.#coming = {
				type: String.fromCharCode(...message.subarray(6, 10)),
				length: [13, 12, 11, 10].reduce((all, at) => all * 128 + message[at], 0),
				name: String.fromCharCode(...message.subarray(14, -1)),
				bytes: [],
				packets: 0
			};
			this.#sign(0x7f, 0);
		}
		if (what === 2 && this.#coming) this.#packet(message);
	}

	#packet(message: Uint8Array): void {
		const coming = this.#coming!;
		const number = message[5];
		const good =
			message.length === message[6] + 10 && xor([...message.subarray(1, -2)]) === message[message.length - 2];
		if (good && coming.packets > 0 && number === (coming.packets - 1) % 128) return this.#sign(0x7f, number);
		if (!good || number !== coming.packets % 128) return this.#sign(0x7e, coming.packets % 128);
		coming.bytes.push(...into(message.subarray(7, -2)));
		coming.packets++;
		this.#sign(0x7f, number);
	}

	#end(): void {
		const coming = this.#coming;
		this.#coming = null;
		if (!coming || coming.bytes.length < coming.length) return;
		this.files.set(coming.name, {
			type: coming.type,
			bytes: Uint8Array.from(coming.bytes.slice(0, coming.length || undefined))
		});
	}
}
