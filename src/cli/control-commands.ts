import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
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
import { Problem } from '../lib/core/problem';
import { readDocument } from '../lib/core/reading';
import type { Command } from './command';
import { bytesOf, documentOf, place, textOf } from './files';

const print = (value: unknown) => console.log(JSON.stringify(value));
const wrongUse = (usage: string) => new Problem('cli.usage', `Usage: drawer ${usage}`, '');
const mapOf = (path: string): ControlMap => documentOf(path, (text) => readDocument(mapSchema, text, 'map'));

export const controlCommands: Record<string, Command> = {
	learn: {
		usage: 'learn FILE.mid',
		says: 'what controls a recording holds, a line each in order of appearance',
		async run(words) {
			if (words.length !== 1) throw wrongUse(this.usage);
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
			const { values, positionals } = parseArgs({
				args: words,
				options: { chars: { type: 'string' }, charset: { type: 'string' } },
				allowPositionals: true
			});
			const charset = values.charset ?? 'ascii';
			if (positionals.length !== 1 || !values.chars || !(charset in DISPLAY_CHARSETS))
				throw wrongUse(this.usage);
			const names = textOf(positionals[0])
				.split(/\r?\n/)
				.map((line) => line.trim())
				.filter(Boolean);
			print(fitNames(names, Number(values.chars), charset as DisplayCharset));
			return 0;
		}
	},
	'plan-pages': {
		usage: 'plan-pages FILE.json [--seconds N]',
		says: 'which target goes on which page and control, proved best or with its gap',
		async run(words) {
			const { values, positionals } = parseArgs({
				args: words,
				options: { seconds: { type: 'string' } },
				allowPositionals: true
			});
			const seconds = Number(values.seconds ?? 20);
			if (positionals.length !== 1 || !(seconds > 0)) throw wrongUse(this.usage);
			const task = documentOf(positionals[0], (text) => readDocument(pageTaskSchema, text, 'page-task'));
			print(planPages(await loadHighs(), task, { seconds, now: () => performance.now() }));
			return 0;
		}
	},
	'check-map': {
		usage: 'check-map MAP.json',
		says: 'everything that is wrong with a controller map; exit code 1 on errors',
		async run(words) {
			if (words.length !== 1) throw wrongUse(this.usage);
			const troubles = checkMap(mapOf(words[0]));
			print(troubles);
			return troubles.some(({ severity }) => severity === 'error') ? 1 : 0;
		}
	},
	strips: {
		usage: 'strips MAP.json --out FILE.svg',
		says: 'the paper strips of a map in true size, on sheets of A4',
		async run(words) {
			const { values, positionals } = parseArgs({
				args: words,
				options: { out: { type: 'string' } },
				allowPositionals: true
			});
			if (positionals.length !== 1 || !values.out) throw wrongUse(this.usage);
			const strips = stripsOf(mapOf(positionals[0]));
			writeFileSync(place(values.out), stripsFile(strips));
			print({ out: values.out, strips: strips.length });
			return 0;
		}
	}
};
