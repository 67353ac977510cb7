import type { Profile, ProfileArea } from './schema';
import { sectionsOf } from './sections';
import { areaOf } from './slots';

/** An address as manuals write it (“01 00 00”, seven bits a byte, the highest first) as a number. */
export const addressValue = (text: string): number =>
	text.split(' ').reduce((all, byte) => all * 128 + parseInt(byte, 16), 0);

/** A number as an address of so many bytes. */
export const addressText = (value: number, bytes = 4): string =>
	Array.from({ length: bytes }, (_, i) =>
		(Math.floor(value / 128 ** (bytes - 1 - i)) % 128).toString(16).padStart(2, '0').toUpperCase()
	).join(' ');

/** Bytes at addresses that follow each other, and where in which record they belong. */
export interface Stretch {
	address: number;
	size: number;
	area: string;
	slot: number;
	/** First byte in the record. */
	at: number;
}

/** Where a slot begins in addressed memory, or null where its area has no addresses. */
export function slotAddress({ addresses, slots }: ProfileArea, slot: number): number | null {
	const bank = addresses?.findLast(({ from }) => from <= slot);
	if (!bank || slot >= slots) return null;
	const stride = bank.stride === undefined ? 0 : addressValue(bank.stride);
	return addressValue(bank.base) + (slot - bank.from) * stride;
}

const maps = new WeakMap<Profile, Stretch[]>();

/** All that a profile says of addressed memory, by address. Stretches of a well-formed profile do not overlap. */
export function addressMap(profile: Profile): Stretch[] {
	let map = maps.get(profile);
	if (map) return map;
	map = profile.areas.flatMap((area) => {
		const record = profile.records[area.record];
		if (!area.addresses || !record) return [];
		return Array.from({ length: area.slots }, (_, slot) => {
			const base = slotAddress(area, slot)!;
			return sectionsOf(record).map(({ at, size, address }): Stretch => ({
				address: base + (address ?? at),
				size,
				area: area.id,
				slot,
				at
			}));
		}).flat();
	});
	map.sort((a, b) => a.address - b.address);
	maps.set(profile, map);
	return map;
}

/** What lies at `address` and the next `size` bytes; null where a byte of them is nothing that the profile describes. */
export function stretchesAt(profile: Profile, address: number, size: number): Stretch[] | null {
	const map = addressMap(profile);
	let low = 0;
	let high = map.length;
	// The last stretch that begins at or before the address.
	while (low < high) {
		const middle = (low + high) >> 1;
		if (map[middle].address <= address) low = middle + 1;
		else high = middle;
	}
	const found: Stretch[] = [];
	let at = address;
	const end = address + size;
	for (let i = low - 1; at < end; i++) {
		const stretch = map[i];
		if (!stretch || stretch.address > at || stretch.address + stretch.size <= at) return null;
		const skip = at - stretch.address;
		const take = Math.min(stretch.size - skip, end - at);
		found.push({ ...stretch, address: at, at: stretch.at + skip, size: take });
		at += take;
	}
	return found;
}

/** The address of a byte of a record, or null where it has none. */
export function addressIn(profile: Profile, areaId: string, slot: number, at: number): number | null {
	const area = areaOf(profile, areaId);
	const base = slotAddress(area, slot);
	const section = sectionsOf(profile.records[area.record]).find(
		(each) => each.at <= at && at < each.at + each.size
	);
	return base === null || !section ? null : base + (section.address ?? section.at) + (at - section.at);
}
