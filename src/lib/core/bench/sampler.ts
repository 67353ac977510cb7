import {
	handshake,
	joinSample,
	packetCount,
	readHandshake,
	readSampleHeader,
	readSamplePacket,
	readSampleRequest,
	sampleHeader,
	samplePackets,
	Framer,
	type Sample,
	type SampleHeader
} from '../sysex';

/** A simulated sampler: gives and takes samples by the sample dump standard, packet by packet. */
export class Sampler {
	readonly samples = new Map<number, Sample>();
	readonly #framer = new Framer();
	#sending: Uint8Array[] = [];
	#at = 0;
	#header: SampleHeader | null = null;
	#packets: Uint8Array[] = [];

	constructor(
		readonly deviceId: number,
		private readonly transmit: (bytes: Uint8Array) => void
	) {}

	receive(bytes: Uint8Array): void {
		for (const event of this.#framer.push(bytes)) if (event.kind === 'sysex') this.#handle(event.bytes);
	}

	#handle(message: Uint8Array): void {
		if (message[2] !== this.deviceId && message[2] !== 0x7f) return;
		const wanted = readSampleRequest(message);
		if (wanted !== null) {
			const sample = this.samples.get(wanted);
			if (!sample) return this.transmit(handshake(this.deviceId, 'cancel', 0));
			this.#sending = [
				sampleHeader(this.deviceId, { ...sample, length: sample.words.length }),
				...samplePackets(this.deviceId, sample)
			];
			this.#at = 0;
			return this.transmit(this.#sending[0]);
		}
		const sign = readHandshake(message);
		if (sign?.kind === 'ack') this.#at++;
		if ((sign?.kind === 'ack' || sign?.kind === 'nak') && this.#sending[this.#at])
			return this.transmit(this.#sending[this.#at]);
		const header = readSampleHeader(message);
		if (header) {
			this.#header = header;
			this.#packets = [];
			return this.transmit(handshake(this.deviceId, 'ack', 0));
		}
		const packet = readSamplePacket(message);
		if (!packet || !this.#header) return;
		const expected = this.#packets.length & 0x7f;
		if (packet.good && packet.number === ((expected - 1) & 0x7f) && this.#packets.length > 0)
			return this.transmit(handshake(this.deviceId, 'ack', packet.number));
		if (!packet.good || packet.number !== expected)
			return this.transmit(handshake(this.deviceId, 'nak', expected));
		this.#packets.push(packet.data);
		if (this.#packets.length === packetCount(this.#header))
			this.samples.set(this.#header.number, joinSample(this.#header, this.#packets));
		this.transmit(handshake(this.deviceId, 'ack', packet.number));
	}
}
