import { SimulatedDevice, type UnitManners } from '../unit';

const MODEL = 0x6a;
const PATTERNS = { count: 24, size: 200, packet: 64 };
const SONGS = { count: 16, size: 40 };
const GIVE = 0x01;
const PACKET = 0x02;
const END = 0x03;
const OPEN = 0x04;
const CLOSE = 0x05;
const DROP = 0x06;
const GIVE_SONGS = 0x11;
const SONG_TABLE = 0x12;
const ACK = 0x40;
const NAK = 0x41;
const WAIT = 0x42;
const LOCKED = 0x43;
/** In place of an acknowledgement, where it asks: this packet next. */
const ASK = 0x44;
/** Without a word for so long it gives a dump up. */
const PATIENCE_MS = 1200;

/** Eight bytes for each seven, the low bit of the first one for the first byte. */
function pack(bytes: Uint8Array): number[] {
	const out: number[] = [];
	for (let at = 0; at < bytes.length; at += 7) {
		const group = bytes.subarray(at, at + 7);
		out.push(
			group.reduce((tops, byte, i) => tops | ((byte >> 7) << i), 0),
			...[...group].map((byte) => byte & 127)
		);
	}
	return out;
}

function unpack(packed: Uint8Array): Uint8Array | null {
	const out: number[] = [];
	for (let at = 0; at < packed.length; at += 8) {
		const group = packed.subarray(at + 1, at + 8);
		if (group.length === 0 || packed[at] >> group.length !== 0) return null;
		out.push(...[...group].map((byte, i) => byte | (((packed[at] >> i) & 1) << 7)));
	}
	return Uint8Array.from(out);
}

const sumOf = (bytes: Iterable<number>): number => [...bytes].reduce((sum, byte) => (sum + byte) & 127, 0);

/**
 * A sequencer. A pattern goes packet by packet, each acknowledged, in both directions; it asks for time while it reads or
 * writes its card, and stores a pattern only when all of it has come. Songs are one message, a table of their numbers first.
 */
export class Tally extends SimulatedDevice {
	protected override readonly voice = false;
	readonly manners: UnitManners = { bufferBytes: 300, thinkMs: 4, forgets: [] };
	/** What is being given: the packet that waits for its acknowledgement. */
	#giving: { pattern: number; packet: number; until: number } | null = null;
	/** What is being taken. */
	#taking: { pattern: number; bytes: Uint8Array; next: number; until: number } | null = null;

	get switches() {
		return [
			this.flag('protect', 'Card protect', 0),
			this.flag('chain', 'Chain patterns', 0),
			this.flag('asks', 'Ask for packets', 0),
			this.dial('deviceId', 'Device ID', 0, 0, 15)
		];
	}

	#tell(...rest: number[]): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, ...rest, 0xf7));
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== this.deviceId) return;
		const [command, about] = [message[4], message[5]];
		const rest = message.subarray(5, message.length - 1);
		const now = this.clock.now();
		if (this.#giving && now > this.#giving.until) this.#giving = null;
		if (this.#taking && now > this.#taking.until) this.#taking = null;
		if (command === GIVE && rest.length === 1 && about < PATTERNS.count) this.#begin(about);
		else if (command === ACK && rest.length === 1 && this.#giving?.packet === about) this.#next();
		else if (command === NAK && rest.length === 1 && this.#giving?.packet === about) this.#send();
		else if (command === OPEN && rest.length === 1 && about < PATTERNS.count) this.#open(about);
		else if (command === PACKET) this.#take(rest);
		else if (command === CLOSE && rest.length === 1) this.#close(about);
		else if (command === DROP) this.#giving = this.#taking = null;
		else if (command === GIVE_SONGS && rest.length === 0) this.#giveSongs();
		else if (command === SONG_TABLE) this.#takeSongs(rest);
	}

	#begin(pattern: number): void {
		this.#giving = { pattern, packet: 0, until: this.clock.now() + PATIENCE_MS };
		// Every fourth pattern lies on the slow side of the card.
		if (pattern % 4 !== 3) return this.#send();
		this.#tell(WAIT);
		this.#giving.until += 900;
		this.clock.after(900, () => this.#send());
	}

	#send(): void {
		if (!this.#giving) return;
		const { pattern, packet } = this.#giving;
		const from = packet * PATTERNS.packet;
		const body = pack(this.state.memory.patterns[pattern].subarray(from, from + PATTERNS.packet));
		const covered = [pattern, packet, ...body];
		this.#giving.until = this.clock.now() + PATIENCE_MS;
		this.#tell(PACKET, ...covered, sumOf(covered));
	}

	#next(): void {
		const giving = this.#giving!;
		giving.packet++;
		if (giving.packet * PATTERNS.packet < PATTERNS.size) return this.#send();
		this.#giving = null;
		// Chained, it goes on with the next one until it is told to stop.
		if (this.isOn('chain')) return this.#begin((giving.pattern + 1) % PATTERNS.count);
		this.#tell(END, giving.pattern);
	}

	#open(pattern: number): void {
		if (this.isOn('protect')) return this.#tell(LOCKED, pattern);
		this.#taking = {
			pattern,
			bytes: new Uint8Array(PATTERNS.size),
			next: 0,
			until: this.clock.now() + PATIENCE_MS
		};
		if (this.isOn('asks')) this.#tell(ASK, 0);
		else this.#tell(ACK, 0);
	}

	#take(rest: Uint8Array): void {
		const taking = this.#taking;
		const [pattern, packet] = rest;
		if (!taking || pattern !== taking.pattern) return;
		taking.until = this.clock.now() + PATIENCE_MS;
		const body = unpack(rest.subarray(2, rest.length - 1));
		const room = Math.min(PATTERNS.packet, PATTERNS.size - packet * PATTERNS.packet);
		if (sumOf(rest.subarray(0, rest.length - 1)) !== rest[rest.length - 1] || body?.length !== room)
			return this.#tell(NAK, packet);
		// One that came already: its acknowledgement was lost.
		if (packet < taking.next) return this.#took(packet);
		if (packet !== taking.next) return this.#tell(NAK, packet);
		taking.bytes.set(body, packet * PATTERNS.packet);
		taking.next++;
		this.#took(packet);
	}

	#took(packet: number): void {
		if (this.isOn('asks')) this.#tell(ASK, packet + 1);
		else this.#tell(ACK, packet);
	}

	#close(pattern: number): void {
		const taking = this.#taking;
		if (taking?.pattern !== pattern || taking.next * PATTERNS.packet < PATTERNS.size)
			return this.#tell(NAK, 0);
		this.store('patterns', pattern, [taking.bytes]);
		this.#taking = null;
		this.#tell(WAIT);
		this.reply(Uint8Array.of(0xf0, 0x7d, MODEL, this.deviceId, this.isOn('asks') ? ASK : ACK, 0, 0xf7), 500);
	}

	#giveSongs(): void {
		const numbers = Array.from({ length: SONGS.count }, (_, i) => i);
		const songs = this.state.memory.songs.flatMap((song) => {
			const body = pack(song);
			return [...body, sumOf(body)];
		});
		this.#tell(SONG_TABLE, SONGS.count, ...numbers, ...songs);
	}

	#takeSongs(rest: Uint8Array): void {
		const count = rest[0];
		const each = pack(new Uint8Array(SONGS.size)).length + 1;
		if (rest.length !== 1 + count + count * each) return this.say('TABLE?');
		if (this.isOn('protect')) return this.say('PROTECTED');
		for (let i = 0; i < count; i++) {
			const body = rest.subarray(1 + count + i * each, 1 + count + (i + 1) * each);
			const song = unpack(body.subarray(0, each - 1));
			const number = rest[1 + i];
			if (
				number < SONGS.count &&
				song?.length === SONGS.size &&
				sumOf(body.subarray(0, each - 1)) === body[each - 1]
			)
				this.store('songs', number, [song]);
			else this.say('SONG?');
		}
		this.work(30);
	}
}
