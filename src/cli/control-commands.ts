import { writeFileSync } from 'node:fs';
import loadHighs from 'highs';
import {
	checkMap,
	classify,
	DISPLAY_CHARSETS,
	fitNames,
	mapSchema,
	pageTaskSchema,
	planPages,
	recordingOf,
	stripsFile,
	stripsOf,
	type ControlMap,
	type DisplayCharset
} from '../lib/core/control';
import { readDocument } from '../lib/core/reading';
import { numberOf, oneOf, print, wrongUse, type Command } from './command';
import { bytesOf, documentOf, place, textOf } from './files';

const mapOf = (path: string): ControlMap => documentOf(path, (text) => readDocument(mapSchema, text, 'map'));

export const controlCommands: Record<string, Command> = {
	learn: {
		usage: 'learn FILE.mid',
		says: 'what controls a recording holds, a line each in order of appearance',
		async run(words) {
			if (words.length !== 1) throw wrongUse(this);
			const { heard, damage } = recordingOf(bytesOf(words[0]));
			for (const { resolution: _, noise: __, ...control } of classify(heard)) print(control);
			for (const says of damage) console.error(`${words[0]}, ${says}.`);
			return damage.length > 0 ? 1 : 0;
		}
	},
	'fit-names': {
		usage: 'fit-names --chars N [--charset upper|ascii] FILE',
		says: 'short names for the lines of a file: distinct, and the most readable',
		async run(words) {
			const { about, options } = oneOf(this, words, 'chars', 'charset');
			const charset = options.charset ?? 'ascii';
			if (!options.chars || !Object.hasOwn(DISPLAY_CHARSETS, charset)) throw wrongUse(this);
			const names = textOf(about)
				.split(/\r?\n/)
				.map((line) => line.trim())
				.filter(Boolean);
			print(fitNames(names, Number(options.chars), charset as DisplayCharset));
			return 0;
		}
	},
	'plan-pages': {
		usage: 'plan-pages FILE.json [--seconds N]',
		says: 'which target goes on which page and control, proved best or with its gap',
		async run(words) {
			const { about, options } = oneOf(this, words, 'seconds');
			const seconds = numberOf(options.seconds, 'seconds', 0.1, 86_400) ?? 20;
			const task = documentOf(about, (text) => readDocument(pageTaskSchema, text, 'page-task'));
			print(planPages(await loadHighs(), task, { seconds, now: () => performance.now() }));
			return 0;
		}
	},
	'check-map': {
		usage: 'check-map MAP.json',
		says: 'everything that is wrong with a controller map; exit code 1 on errors',
		async run(words) {
			if (words.length !== 1) throw wrongUse(this);
			const troubles = checkMap(mapOf(words[0]));
			print(troubles);
			return troubles.some(({ severity }) => severity === 'error') ? 1 : 0;
		}
	},
	strips: {
		usage: 'strips MAP.json --out FILE.svg',
		says: 'the paper strips of a map in true size, on sheets of A4',
		async run(words) {
			const { about, options } = oneOf(this, words, 'out');
			if (!options.out) throw wrongUse(this);
			const strips = stripsOf(mapOf(about));
			writeFileSync(place(options.out), stripsFile(strips));
			print({ out: options.out, strips: strips.length });
			return 0;
		}
	}
};
