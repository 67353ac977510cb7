import { joinBytes } from '../midi';
import {
	endOfFile,
	fileHeader,
	filePacketCount,
	filePackets,
	fileRequest,
	isEndOfFile,
	readFileHeader,
	readFilePacket,
	type DumpedFile
} from '../sysex';
import type { Conversation } from './conversation';
import type { Reason } from './outcome';
import { receivePackets, sendPackets } from './packets';

export interface FileOutcome {
	status: 'complete' | 'incomplete' | 'refused';
	reason: Reason | null;
	/** What came, where all of it did. */
	file: DumpedFile | null;
	packets: number;
	resent: number;
}

/** What the app calls itself by: a device ID of its own, which nobody speaks to by another way. */
const SELF = 0x7e;
/** How long a hand may take to begin a dump at the panel, in ms. */
const HAND_MS = 120_000;

const noFile: Reason = {
	code: 'no answer',
	says: 'No file came.',
	remedy: 'Check the device ID and the name of the file, and that the device sends file dumps.'
};

/**
 * Receives a file packet by packet; damaged packets are asked for again.
 * @param wanted what is asked for; null where somebody begins the dump at the panel
 */
export function* receiveFile(
	deviceId: number,
	wanted: Pick<DumpedFile, 'type' | 'name'> | null,
	progress: (packets: number, of: number) => void
): Conversation<FileOutcome> {
	const { status, reason, header, packets, resent } = yield* receivePackets(
		deviceId,
		{
			ask: wanted && fileRequest(deviceId, SELF, wanted.type, wanted.name),
			header: readFileHeader,
			packet: readFilePacket,
			count: filePacketCount,
			isEnd: isEndOfFile,
			nothing: noFile,
			patienceMs: wanted ? undefined : HAND_MS
		},
		progress
	);
	const bytes = joinBytes(packets);
	const end = { packets: packets.length, resent, file: null };
	if (status !== 'complete') return { ...end, status, reason };
	const { type, name, length } = header!;
	// A length that was told is the file's: what comes beyond it fills a packet.
	if (length > bytes.length)
		return {
			...end,
			status: 'incomplete',
			reason: { code: 'damaged', says: 'It is shorter than it said.', remedy: 'Send it again.' }
		};
	return {
		...end,
		status,
		reason,
		file: { type, name, bytes: length === 0 ? bytes : bytes.slice(0, length) }
	};
}

/** Sends a file packet by packet, and again what the device reports as damaged. That it acknowledges is no proof of what it keeps. */
export function* sendFile(
	deviceId: number,
	file: DumpedFile,
	progress: (packets: number, of: number) => void
): Conversation<FileOutcome> {
	const packets = filePackets(deviceId, file);
	const { status, reason, through, resent } = yield* sendPackets(
		deviceId,
		fileHeader(deviceId, SELF, file),
		packets,
		progress
	);
	if (status === 'complete') yield { do: 'send', bytes: endOfFile(deviceId, packets.length) };
	return { status, reason, file: null, packets: through, resent };
}
