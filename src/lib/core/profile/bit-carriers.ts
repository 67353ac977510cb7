import { Problem } from '../problem';
import { packingOf, type CarriedAs } from './packings';

const PROBE = 56;

/**
 * For each bit, by memory byte, the packed byte that carries it, found by asking the packing itself; -1 where that bit
 * cannot travel. Packings repeat after 56 bytes at most, so that a longer body follows from a short one. Null where
 * a bit is carried by several bytes.
 */
export function bitCarriers(packing: CarriedAs, size: number): Int32Array[] | null {
	const { pack } = packingOf(packing);
	const probe = Math.min(size, PROBE);
	const plain = pack(new Uint8Array(probe));
	const ratio = size > probe ? pack(new Uint8Array(probe * 2)).length - plain.length : 0;
	const table: Int32Array[] = [];
	for (let bit = 0; bit < 8; bit++) {
		const where = new Int32Array(size);
		for (let i = 0; i < probe; i++) {
			const changed = packedOrNull(pack, new Uint8Array(probe).with(i, 1 << bit));
			const at = changed ? changed.findIndex((byte, n) => byte !== plain[n]) : -1;
			if (changed && changed.findLastIndex((byte, n) => byte !== plain[n]) !== at) return null;
			where[i] = at;
		}
		for (let i = probe; i < size; i++)
			where[i] = where[i % probe] < 0 ? -1 : where[i % probe] + Math.floor(i / probe) * ratio;
		table.push(where);
	}
	return table;
}

function packedOrNull(pack: (memory: Uint8Array) => Uint8Array, memory: Uint8Array): Uint8Array | null {
	try {
		return pack(memory);
	} catch (error) {
		if (error instanceof Problem) return null;
		throw error;
	}
}
