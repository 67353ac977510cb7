import { writeFileSync } from 'node:fs';
import { recordingOf } from '../lib/core/control';
import { toHex } from '../lib/core/midi';
import { Problem } from '../lib/core/problem';
import { readDocument } from '../lib/core/reading';
import {
	changeBetween,
	fileExpects,
	playThrough,
	SCENE_FILES,
	sceneFile,
	sceneNumbered,
	setSchema,
	setupSchema,
	type Scene,
	type ShowSet
} from '../lib/core/scene';
import { oneOf, print, wrongUse, type Command } from './command';
import { bytesOf, documentOf, place } from './files';

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
			const { notes, dropped, nobodys, unplayed } = playThrough(setup, heard, untilMs);
			notes.forEach(print);
			dropped.forEach(print);
			if (nobodys > 0) console.error(`${nobodys} messages are on channels that no player sends on.`);
			if (unplayed > 0) console.error(`${unplayed} keys are in no zone that is on.`);
			return Promise.resolve(dropped.length + damage.length + unplayed > 0 ? 1 : 0);
		}
	},
	expects: {
		usage: 'expects FILE.mid',
		says: 'what setup a file expects: programs, ranges and notes at once by channel, and what of it is beyond General MIDI, as JSON',
		run(words) {
			if (words.length !== 1) throw wrongUse(this);
			const { heard, untilMs, damage } = recordingOf(bytesOf(words[0]));
			for (const line of damage) console.error(`Not read: ${line}.`);
			print(fileExpects(heard, untilMs));
			return Promise.resolve(damage.length > 0 ? 1 : 0);
		}
	},
	ready: {
		usage: 'ready SET.json',
		says: 'what a set lacks by what the studio of this machine has and knows, a line each, then whether it is ready; exit code 1 where it is not',
		async run(words) {
			if (words.length !== 1) throw wrongUse(this);
			const set = documentOf(words[0], (text) => readDocument(setSchema, text, 'set'));
			const { withStudio, readinessOf } = await import('./studio');
			const { items, ready, since, steps } = await withStudio((studio) => readinessOf(studio, set));
			for (const { kind, scenes, says, cure } of items) print({ kind, scenes, says, cure: cure.says });
			print({ ready, since, steps });
			return ready ? 0 : 1;
		}
	},
	'scene-change': {
		usage: 'scene-change SET.json [--from SCENE] --to SCENE [--out FILE.mid|FILE.syx]',
		says: 'the messages from one scene to another with their times, as JSON, and to a file; without --from, from nothing known; exit code 1 where not all can be sent',
		run(words) {
			const { about, options } = oneOf(this, words, 'from', 'to', 'out');
			const { from, to, out } = options;
			const as = SCENE_FILES.find((each) => out?.toLowerCase().endsWith(`.${each}`));
			if (to === undefined || (out !== undefined && as === undefined)) throw wrongUse(this);
			const set = documentOf(about, (text) => readDocument(setSchema, text, 'set'));
			const before = from === undefined ? null : sceneOf(set, from);
			const change = changeBetween(set, before, sceneOf(set, to));
			if (out !== undefined && as) writeFileSync(place(out), sceneFile(change, as));
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
