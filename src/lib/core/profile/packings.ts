import { Problem } from '../problem';
import { PACKINGS, type Packing, type PackingId } from '../sysex';

const DATA_LOW = 38;

/** The two halves of a value of fourteen bits with the controller of the lower one between them (MIDI 1.0, controllers 6 and 38). */
const dataEntry: Packing = {
	title: 'data entry, the higher half first',
	packedLength: (bytes) => (bytes === 2 ? 3 : -1),
	unpackedLength: (packed) => (packed === 3 ? 2 : -1),
	pack([high, low]) {
		const large = [high, low].findIndex((byte) => byte > 0x7f);
		if (large >= 0)
			throw new Problem(
				'packing.too-large',
				`A value at byte ${large} is larger than 127.`,
				'This device cannot hold it.',
				{ offset: large }
			);
		return Uint8Array.of(high, DATA_LOW, low);
	},
	unpack(packed) {
		if (packed.length !== 3 || packed[1] !== DATA_LOW)
			throw new Problem(
				'packing.invalid',
				'The data cannot be unpacked: its lower half is not there.',
				'Ask for it again.',
				{ offset: 1 }
			);
		return Uint8Array.of(packed[0], packed[2]);
	}
};

/** How the memory of a message may travel: packed, or as what a panel tells in two halves. */
export type CarriedAs = PackingId | 'data-entry';

export const packingOf = (id: CarriedAs): Packing => (id === 'data-entry' ? dataEntry : PACKINGS[id]);
