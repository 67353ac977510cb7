import { parseArgs } from 'node:util';
import { Problem } from '../lib/core/problem';

export interface Command {
	usage: string;
	says: string;
	/** Gives the exit code. Answers go to standard output as JSON. */
	run(words: string[]): Promise<number>;
}

/** An answer: a line of JSON on standard output. */
export const print = (value: unknown): void => console.log(JSON.stringify(value));

export const wrongUse = ({ usage }: Pick<Command, 'usage'>): Problem =>
	new Problem('cli.usage', `Usage: drawer ${usage}`, '');

/**
 * The one thing that a command is about, and its options, each of which takes a word.
 * @throws Problem `cli.usage` where there is none, or several
 */
export function oneOf<Name extends string>(
	command: Pick<Command, 'usage'>,
	words: string[],
	...names: Name[]
): { about: string; options: Partial<Record<Name, string>> } {
	const { values, positionals } = parseArgs({
		args: words,
		options: Object.fromEntries(names.map((name) => [name, { type: 'string' as const }])),
		allowPositionals: true
	});
	if (positionals.length !== 1) throw wrongUse(command);
	return { about: positionals[0], options: values as Partial<Record<Name, string>> };
}

/** A number of an option; undefined where it is not given. @throws Problem `cli.number` */
export function numberOf(
	text: string | undefined,
	name: string,
	low: number,
	high: number
): number | undefined {
	if (text === undefined) return undefined;
	const value = Number(text);
	if (!Number.isFinite(value) || value < low || value > high)
		throw new Problem('cli.number', `--${name} is a number from ${low} to ${high}, not “${text}”.`, '');
	return value;
}
