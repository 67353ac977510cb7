import { recordingOf } from '../lib/core/control';
import { toHex } from '../lib/core/midi';
import { Problem } from '../lib/core/problem';
import { readDocument } from '../lib/core/reading';
import {
	nothingHeld,
	playThrough,
	sceneChange,
	sceneNumbered,
	setSchema,
	setupSchema,
	type Scene,
	type ShowSet
} from '../lib/core/scene';
import { oneOf, print, wrongUse, type Command } from './command';
import { bytesOf, documentOf } from './files';

/** The scene that is meant by its number or its name. @throws Problem `scene.not-found` */
function sceneOf(set: ShowSet, text: string): Scene {
	const called = set.scenes.filter(({ name }) => name.toLowerCase() === text.trim().toLowerCase());
	const found = /^\d+$/.test(text)
		? sceneNumbered(set, Number(text))
		: called.length === 1
			? called[0]
			: null;
	if (found) return found;
	throw new Problem(
		'scene.not-found',
		called.length > 1 ? `${called.length} scenes are called “${text}”.` : `The set has no scene “${text}”.`,
		`Give its number: ${set.scenes.map(({ number, name }) => `${number} ${name}`).join(', ') || 'it has none'}.`
	);
}

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
	},
	'scene-change': {
		usage: 'scene-change SET.json [--from SCENE] --to SCENE',
		says: 'the messages from one scene to another with their times, as JSON; without --from, from nothing known; exit code 1 where not all can be sent',
		run(words) {
			const { about, options } = oneOf(this, words, 'from', 'to');
			const { from, to } = options;
			if (to === undefined) throw wrongUse(this);
			const set = documentOf(about, (text) => readDocument(setSchema, text, 'set'));
			const known = from === undefined ? nothingHeld : sceneChange(set, nothingHeld, sceneOf(set, from)).held;
			const change = sceneChange(set, known, sceneOf(set, to));
			print({
				...change,
				messages: change.messages.map(({ bytes, ...message }) => ({
					...message,
					bytes: toHex(Uint8Array.from(bytes), ' ')
				})),
				held: undefined
			});
			return Promise.resolve(change.unreached.length + change.keptBack.length > 0 ? 1 : 0);
		}
	}
};
