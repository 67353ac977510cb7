import { isMidiFile, readMidiFile, Statements, sysexOfMidiFile } from '../midi';
import { finished, Pace, type Steps } from '../steps';
import { framing } from './frame';

/** A SysEx message found in a file. */
export interface FileMessage {
	/** Where it begins in the file, in bytes. */
	offset: number;
	/** F0 … F7; cut short when `complete` is false. */
	bytes: Uint8Array;
	complete: boolean;
}

export interface DumpFile {
	kind: 'syx' | 'mid';
	messages: FileMessage[];
	/** What its channel messages state: controllers, parameters, program changes, each as one message. */
	statements: FileMessage[];
	/** Everything else that was in the file and is no SysEx message, in words. */
	remarks: { offset: number; says: string; times: number }[];
}

/** What channel messages state, in their order; one that needs several stands where its last one does. */
function* statementsOf(messages: readonly { offset: number; bytes: Uint8Array }[]): Steps<FileMessage[]> {
	const statements = new Statements();
	const made: FileMessage[] = [];
	const pace = new Pace();
	for (const { offset, bytes } of messages) {
		if (pace.due()) yield;
		const stated = statements.push(bytes);
		if (stated) made.push({ offset, bytes: stated, complete: true });
	}
	return made;
}

/**
 * The SysEx messages of a `.syx` file (bytes as on the wire) or a `.mid` file. Nothing is left out silently: broken
 * messages come with `complete: false`, the rest as remarks.
 */
export const readDumpFile = (bytes: Uint8Array): DumpFile => finished(readingDumpFile(bytes));

/** The same with pauses. */
export function* readingDumpFile(bytes: Uint8Array): Steps<DumpFile> {
	if (isMidiFile(bytes)) {
		const file = readMidiFile(bytes);
		return {
			kind: 'mid',
			messages: sysexOfMidiFile(file),
			statements: yield* statementsOf(
				file.tracks.flatMap((track) =>
					track.flatMap(({ kind, offset, data }) => (kind === 'channel' ? [{ offset, bytes: data }] : []))
				)
			),
			remarks: file.damage.map(({ offset, reason }) => ({ offset, says: reason, times: 1 }))
		};
	}
	const found: DumpFile = { kind: 'syx', messages: [], statements: [], remarks: [] };
	const channel: { offset: number; bytes: Uint8Array }[] = [];
	const remark = (offset: number, says: string) => {
		const last = found.remarks.at(-1);
		if (last?.says === says) last.times++;
		else found.remarks.push({ offset, says, times: 1 });
	};
	const pace = new Pace();
	for (const event of yield* framing(bytes)) {
		if (pace.due()) yield;
		const { offset } = event;
		if (event.kind === 'sysex') found.messages.push({ offset, bytes: event.bytes, complete: true });
		else if (event.kind === 'broken' && event.bytes[0] === 0xf0)
			found.messages.push({ offset, bytes: event.bytes, complete: false });
		else if (event.kind === 'broken')
			remark(offset, `${event.bytes.length} bytes that belong to no message (${event.reason})`);
		else {
			if (event.kind === 'message') channel.push({ offset, bytes: event.bytes });
			remark(
				offset,
				`a ${event.kind === 'realtime' ? 'real-time' : 'channel'} message that is no system exclusive data`
			);
		}
	}
	return { ...found, statements: yield* statementsOf(channel) };
}
