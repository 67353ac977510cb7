import { factoryState, seededRandom } from '../src/lib/core/bench';
import { decodeDump, makeSlot, messagesFor, parseProfile, type Profile } from '../src/lib/core/profile';
import { shippedProfile } from '../src/lib/server/profiles';
import { n, type Row } from './bench-rows';

const SLOTS = 128;
const AIM_MS = 50;

/** A shipped model with 128 slots of its first kind, and what all of them travel in. */
function large(id: string, change: (json: Profile) => void): { profile: Profile; messages: Uint8Array[] } {
	const json = structuredClone(shippedProfile(id));
	json.areas = json.areas.slice(0, 1);
	json.areas[0].slots = SLOTS;
	json.areas[0].labels = { style: 'number', first: 1, digits: 3, prefix: '' };
	change(json);
	const profile = parseProfile(json);
	const area = profile.areas[0].id;
	const slots = factoryState(profile, seededRandom(1)).memory[area].map((bytes, i) =>
		makeSlot(profile, area, i, bytes)
	);
	return {
		profile,
		messages: messagesFor(profile, slots, { deviceId: profile.addressing.deviceId?.default })
	};
}

/** The median of so many readings, in ms, after some that only warm up. */
function decoding({ profile, messages }: ReturnType<typeof large>): number {
	const times: number[] = [];
	for (let i = 0; i < 25; i++) {
		const start = performance.now();
		if (decodeDump(profile, messages).slots.length !== SLOTS) throw new Error('Not all of it was read.');
		if (i >= 5) times.push(performance.now() - start);
	}
	return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

/** Reading dumps of instruments that do not pack whole records together, against one that does. */
export function profiles(row: Row): void {
	const addressed = large('harbeck-cairn', ({ capture, restore, messages: _, ...json }) => {
		json.areas[0].addresses = [{ from: 0, base: '20 00 00', stride: '00 08 00' }];
		capture.splice(1);
		restore.splice(1);
	});
	const severalMessages = large('ostler-fathom', () => undefined);
	const sum = ({ messages }: typeof addressed) => messages.reduce((all, { length }) => all + length, 0);
	const perByte = decoding(addressed) / sum(addressed);
	row(
		`Decoding ${SLOTS} slots of addressed memory in six blocks each, ms`,
		n(decoding(addressed)),
		`${addressed.messages.length} messages, ${n(sum(addressed), 0)} bytes; aim ${AIM_MS}`
	);
	row(
		`Decoding ${SLOTS} sounds of ten messages each, with CRC-16, ms`,
		n(decoding(severalMessages)),
		`${severalMessages.messages.length} messages, ${n(sum(severalMessages), 0)} bytes; ${n(decoding(severalMessages) / sum(severalMessages) / perByte, 2)} × the time a byte`
	);
}
