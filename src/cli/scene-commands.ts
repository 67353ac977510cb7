import { recordingOf } from '../lib/core/control';
import { readDocument } from '../lib/core/reading';
import { playThrough, setupSchema } from '../lib/core/scene';
import { print, wrongUse, type Command } from './command';
import { bytesOf, documentOf } from './files';

export const sceneCommands: Record<string, Command> = {
	play: {
		usage: 'play SETUP.json FILE.mid',
		says: 'which instrument sounds what when a file is played through a setup, a line a note; exit code 1 where a key made no note',
		run(words) {
			if (words.length !== 2) throw wrongUse(this);
			const setup = documentOf(words[0], (text) => readDocument(setupSchema, text, 'setup'));
			const { heard, untilMs, damage } = recordingOf(bytesOf(words[1]));
			for (const line of damage) console.error(`Not read: ${line}.`);
			const { notes, dropped, nobodys } = playThrough(
				setup,
				heard.map(({ atMs, bytes }) => ({ atMs, message: bytes })),
				untilMs
			);
			notes.forEach(print);
			dropped.forEach(print);
			if (nobodys > 0) console.error(`${nobodys} messages are on channels that no player sends on.`);
			return Promise.resolve(dropped.length + damage.length > 0 ? 1 : 0);
		}
	}
};
