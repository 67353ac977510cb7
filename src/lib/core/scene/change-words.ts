import type { SceneChange } from './scene-change';
import { instrumentName, type ShowSet } from './set';

/** ms in words: under a tenth of a second in milliseconds, else in seconds. */
const timeWords = (ms: number) =>
	ms < 100 ? `${Math.ceil(ms)} ms` : `${(Math.ceil(ms / 10) / 100).toFixed(2)} s`;
const counted = (count: number, word: string) => `${count} ${word}${count === 1 ? '' : 's'}`;

/** What a change takes, in a few words: messages, and the time until the last instrument is ready, as far as it is known. */
export function changeInWords({ messages, readyMs, unmeasured }: SceneChange): string {
	if (messages.length === 0) return 'nothing to send';
	const more = unmeasured.length > 0 ? ' and loading' : '';
	return `${counted(messages.length, 'message')}, ${timeWords(readyMs)}${more}`;
}

/** How long a change keeps each wire busy, and until when the last instrument is ready; nothing where nothing is sent. */
export function wiresInWords({ lines, readyMs, unmeasured }: SceneChange): string {
	if (lines.length === 0) return '';
	const wires = lines.map(({ line, busyMs }) => `${line} ${timeWords(busyMs)}`).join(', ');
	const loads = unmeasured.length > 0 ? ', and what nobody measured after it' : '';
	return `On the wire: ${wires}. The last instrument is ready after ${timeWords(readyMs)}${loads}.`;
}

/** What of a change is not sent, and why. */
export function unsentInWords(set: ShowSet, { unreached, keptBack }: SceneChange): string[] {
	const name = (id: string) => instrumentName(set, id);
	return [
		...unreached.map(
			({ instrument, why, messages }) =>
				`${name(instrument)} ${why === 'away' ? 'is noted as away' : 'is reached by no line'}: ${counted(messages, 'message')} for it ${messages === 1 ? 'is' : 'are'} not sent.`
		),
		...keptBack.map(
			({ instrument, messages }) =>
				`${name(instrument)} drops out while it is spoken to: ${counted(messages, 'message')} ${messages === 1 ? 'is' : 'are'} kept back.`
		)
	];
}

/** What somebody should know before a change is sent; the loudest first. */
export function changeWarnings(set: ShowSet, change: SceneChange): { loud: boolean; says: string }[] {
	const name = (id: string) => instrumentName(set, id);
	return [
		...change.jumps.map(({ instrument, channel, db }) => ({
			loud: db > 0,
			says:
				db > 0
					? `${name(instrument)}, channel ${channel}, gets ${Math.round(db)} dB louder: turn down first.`
					: `${name(instrument)}, channel ${channel}, gets ${Math.round(-db)} dB softer.`
		})),
		...unsentInWords(set, change).map((says) => ({ loud: false, says })),
		...change.unmeasured.map((instrument) => ({
			loud: false,
			says: `How long ${name(instrument)} takes to load a program, nobody has noted.`
		})),
		...change.silenced.map(({ instrument, channel }) => ({
			loud: false,
			says: `${name(instrument)}, channel ${channel}: held notes are ended.`
		}))
	];
}
