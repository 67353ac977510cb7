import { recallOf, type Profile } from '../profile';
import type { Selected } from './held';
import { slotSaid } from './send-scene';

/** What an instrument said by itself that it plays: on a channel, or, where its message names none, anywhere. */
export interface ToldItself {
	/** 1–16; null where it does not say. */
	channel: number | null;
	/** `unstored`: something that no program selects. */
	plays: Selected | 'unstored';
}

/**
 * Hears an instrument that tells what a hand chose at its panel. Program changes are those on its channel; a bank select
 * before one belongs to it (MIDI 1.0), and what was never sent is not known.
 * @param profile how it tells; null comes back where it does not
 * @param channel 1–16
 * @returns what takes each message that comes from it, in their order, and says what it means; null where it means nothing
 */
export function toldItself(
	profile: Profile,
	{ deviceId, channel }: { deviceId: number; channel: number }
): ((bytes: Uint8Array) => ToldItself | null) | null {
	const area = profile.areas.find(({ playing }) => playing?.tells !== undefined);
	if (!area?.playing) return null;
	const { tells, says } = area.playing;
	if (tells === 'says' && says !== undefined)
		return (bytes) => {
			const slot = slotSaid(profile, says, { deviceId, channel }, bytes);
			return slot === null ? null : { channel: null, plays: recallOf(area, slot) ?? 'unstored' };
		};
	let [msb, lsb]: (number | null)[] = [null, null];
	return (bytes) => {
		if ((bytes[0] & 0x0f) + 1 !== channel) return null;
		const kind = bytes[0] & 0xf0;
		if (kind === 0xb0 && bytes[1] === 0) msb = bytes[2];
		if (kind === 0xb0 && bytes[1] === 32) lsb = bytes[2];
		return kind === 0xc0 ? { channel, plays: { msb, lsb, program: bytes[1] } } : null;
	};
}
