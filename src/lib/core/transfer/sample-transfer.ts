import {
	joinSample,
	packetCount,
	readSampleHeader,
	readSamplePacket,
	sampleHeader,
	samplePackets,
	sampleRequest,
	type Sample
} from '../sysex';
import type { Conversation } from './conversation';
import type { Reason } from './outcome';
import { receivePackets, sendPackets } from './packets';

export interface SampleOutcome {
	status: 'complete' | 'incomplete' | 'refused';
	reason: Reason | null;
	sample: Sample | null;
	packets: number;
	resent: number;
}

const noSample: Reason = {
	code: 'no answer',
	says: 'No sample came.',
	remedy: 'Check the device ID and the sample number, and that the device sends sample dumps.'
};

/** Asks for a sample and receives it packet by packet; damaged packets are asked for again. */
export function* receiveSample(
	deviceId: number,
	number: number,
	progress: (packets: number, of: number) => void
): Conversation<SampleOutcome> {
	const { status, reason, header, packets, resent } = yield* receivePackets(
		deviceId,
		{
			ask: sampleRequest(deviceId, number),
			header: readSampleHeader,
			packet: readSamplePacket,
			count: packetCount,
			nothing: noSample
		},
		progress
	);
	return {
		status,
		reason,
		sample: status === 'complete' ? joinSample(header!, packets) : null,
		packets: packets.length,
		resent
	};
}

/** Sends a sample packet by packet, and again what the device reports as damaged. */
export function* sendSample(
	deviceId: number,
	sample: Sample,
	progress: (packets: number, of: number) => void
): Conversation<SampleOutcome> {
	const header = sampleHeader(deviceId, { ...sample, length: sample.words.length });
	const { status, reason, through, resent } = yield* sendPackets(
		deviceId,
		header,
		samplePackets(deviceId, sample),
		progress
	);
	return { status, reason, sample: null, packets: through, resent };
}
