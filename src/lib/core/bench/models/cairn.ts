import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x4c;
const REQUEST = 0x11;
const DATA = 0x12;
/** So many bytes of data at most in what it sends, wherever that cuts. */
const PACKET = 100;
/** Rest between two packets. */
const REST_MS = 8;
/** What it takes in one message at most. */
const LARGEST = 128;

/** Where a tone keeps what: offsets in seven-bit addresses, and lengths. Between them is nothing. */
const TONE = [
	{ at: 0x000, size: 64 },
	...[0, 1, 2, 3].map((layer) => ({ at: 128 + 128 * layer, size: 96 })),
	{ at: 640, size: 40 }
];
const TONES = { base: 0x20 * 16384, stride: 1024 };
/** A performance: what is common, and eight parts that each name a tone by bank and number. */
const PERFORMANCE = [
	{ at: 0, size: 32 },
	{ at: 64, size: 128 }
];
const PERFORMANCES = { base: 0x30 * 16384, stride: 256 };
const PARTS = 8;
const SYSTEM = { base: 0x01 * 16384, size: 32 };

/** A place in its memory: a byte of a record. */
interface Place {
	area: 'tones' | 'performances' | 'system';
	slot: number;
	byte: number;
}

const whole = (bytes: Uint8Array) => bytes[0] * 16384 + bytes[1] * 128 + bytes[2];
const three = (address: number) => [
	Math.floor(address / 16384),
	Math.floor(address / 128) % 128,
	address % 128
];
/** So that address, data and this come to nought in seven bits. */
const sumOf = (bytes: Iterable<number>): number => {
	let sum = 0;
	for (const byte of bytes) sum += byte;
	return (128 - (sum % 128)) % 128;
};

/** A layered sample player whose memory is one row of addresses: it gives and takes any stretch of it. */
export class Cairn extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 400, thinkMs: 4, forgets: [] };

	get switches() {
		return [this.flag('protect', 'Protect', 0), this.dial('deviceId', 'Unit number', 16, 0, 31)];
	}

	#placeAt(address: number): Place | null {
		const own = address - SYSTEM.base;
		if (own >= 0 && own < SYSTEM.size) return { area: 'system', slot: 0, byte: own };
		return (
			this.#within('performances', PERFORMANCES, PERFORMANCE, address) ??
			this.#within('tones', TONES, TONE, address)
		);
	}

	#within(
		area: Place['area'],
		{ base, stride }: { base: number; stride: number },
		blocks: readonly { at: number; size: number }[],
		address: number
	): Place | null {
		const from = address - base;
		const slot = Math.floor(from / stride);
		if (from < 0 || slot >= this.state.memory[area].length) return null;
		let before = 0;
		for (const { at, size } of blocks) {
			const within = (from % stride) - at;
			if (within >= 0 && within < size) return { area, slot, byte: before + within };
			before += size;
		}
		return null;
	}

	/** The tones that a performance plays, part by part. */
	played(performance: number): Uint8Array[] {
		const record = this.state.memory.performances[performance];
		return Array.from({ length: PARTS }, (_, part) => {
			const [bank, number] = record.subarray(32 + 16 * part);
			return this.state.memory.tones[bank * 16 + number];
		});
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId || message.length < 10)
			return;
		const covered = message.subarray(5, message.length - 2);
		if (sumOf(covered) !== message[message.length - 2]) return this.say('SUM?');
		if (message[4] === REQUEST && covered.length === 6)
			this.#give(whole(covered), whole(covered.subarray(3)));
		else if (message[4] === DATA) this.#take(whole(covered), covered.subarray(3));
	}

	/** What it has from an address on, gaps left out, in packets. */
	#give(from: number, size: number): void {
		const packets: { address: number; data: number[] }[] = [];
		for (let address = from; address < from + Math.min(size, 4096); address++) {
			const place = this.#placeAt(address);
			if (!place) continue;
			const last = packets.at(-1);
			const byte = this.state.memory[place.area][place.slot][place.byte];
			if (last && last.address + last.data.length === address && last.data.length < PACKET)
				last.data.push(byte);
			else packets.push({ address, data: [byte] });
		}
		let wait = this.manners.thinkMs;
		for (const { address, data } of packets) {
			const covered = [...three(address), ...data];
			this.reply(
				Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, DATA, ...covered, sumOf(covered), 0xf7),
				wait
			);
			wait += (covered.length + 7) * 0.32 + REST_MS;
		}
	}

	#take(from: number, data: Uint8Array): void {
		if (data.length === 0 || data.length > LARGEST) return;
		const places = Array.from(data, (_, i) => this.#placeAt(from + i));
		if (places.includes(null)) return this.say('NO SUCH ADDRESS');
		if (this.isOn('protect')) return this.say('PROTECTED');
		const changed = new Map<string, { place: Place; record: Uint8Array }>();
		places.forEach((place, i) => {
			const { area, slot, byte } = place!;
			const key = `${area} ${slot}`;
			const entry = changed.get(key) ?? { place: place!, record: this.state.memory[area][slot].slice() };
			entry.record[byte] = data[i];
			changed.set(key, entry);
		});
		for (const { place, record } of changed.values()) this.store(place.area, place.slot, [record]);
		this.work(10);
	}
}
