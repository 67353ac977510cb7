import type { PresentPort } from '../gear';
import { describeMessage } from '../midi';
import { recogniseDump, type Profile } from '../profile';
import { Framer } from '../sysex';
import type { SeekPorts } from './seek';

/** What came in at a port without being asked for: somebody plays there, or a device sends its memory. */
export interface Sign {
	port: PresentPort;
	kind: 'played' | 'dump';
	/** The message in words. */
	says: string;
	/** The model whose dump it is, where a profile knows it. */
	profileId: string | null;
	/** Device ID that the dump carries, as on the wire. */
	deviceId: number | null;
}

const UNIVERSAL = [0x7e, 0x7f];

/** What a message shows about who is at a port; null for what shows nothing: clock, active sensing, universal messages. */
export function signOf(profiles: readonly Profile[], port: PresentPort, bytes: Uint8Array): Sign | null {
	const [status] = bytes;
	if (status === 0xf0) {
		if (UNIVERSAL.includes(bytes[1])) return null;
		const [best] = recogniseDump(profiles, [bytes]);
		const profile = best && best.read > 0 ? best.profile : null;
		return {
			port,
			kind: 'dump',
			says: profile
				? `a dump of a ${profile.maker} ${profile.model}`
				: `a system exclusive message of ${bytes.length} bytes that no profile knows`,
			profileId: profile?.id ?? null,
			deviceId: profile ? (best.deviceIds[0] ?? null) : null
		};
	}
	const kind = status & 0xf0;
	// The end of a note, or a note of no velocity, tells less than its beginning.
	if (kind === 0x80 || (kind === 0x90 && bytes[2] === 0) || status > 0xf0 || kind < 0x80) return null;
	return { port, kind: 'played', says: describeMessage(bytes), profileId: null, deviceId: null };
}

/** Tells of every sign that comes in at any port, until the answer is called. */
export function listenForSigns(
	ports: SeekPorts,
	profiles: readonly Profile[],
	tell: (sign: Sign) => void
): () => void {
	const framers = new Map<string, Framer>();
	return ports.hear((port, chunk) => {
		const framer = framers.get(port.id) ?? new Framer();
		framers.set(port.id, framer);
		for (const event of framer.push(chunk)) {
			const sign = event.kind === 'broken' ? null : signOf(profiles, port, event.bytes);
			if (sign) tell(sign);
		}
	});
}
