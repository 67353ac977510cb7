import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { Problem } from '../lib/core/problem';
import { parseProfile, type Profile } from '../lib/core/profile';
import type { Fault } from '../lib/core/reading';

/** Where a path of the command line is. */
export const place = (path: string): string => resolve(process.env.DRAWER_CWD ?? process.cwd(), path);

/** @throws Problem `file.unreadable` */
export function bytesOf(path: string): Uint8Array {
	try {
		return readFileSync(place(path));
	} catch (error) {
		throw new Problem(
			'file.unreadable',
			`“${path}” cannot be read: ${error instanceof Error ? error.message : error}.`,
			'Check the path.'
		);
	}
}

export const textOf = (path: string): string => Buffer.from(bytesOf(path)).toString('utf8');

/** Reads a document and says on standard error what of it is not of its format; a fault is a line each. */
export function documentOf<T>(path: string, read: (text: string) => { value: T; ignored: string[] }): T {
	try {
		const { value, ignored } = read(textOf(path));
		for (const field of ignored) console.error(`${field} is not a field of the format and was ignored.`);
		return value;
	} catch (problem) {
		if (problem instanceof Problem && problem.code.endsWith('.invalid'))
			for (const { at, says } of problem.detail.faults as Fault[]) console.error(`${at}: ${says}`);
		throw problem;
	}
}

/** The profile in a file. @throws Problem where it is no JSON, or has faults */
export function profileIn(file: string): Profile {
	let json: unknown;
	try {
		json = JSON.parse(textOf(file));
	} catch (error) {
		if (!(error instanceof SyntaxError)) throw error;
		throw new Problem('profile.json', `“${file}” is no JSON: ${error.message}.`, 'Correct it and try again.');
	}
	return parseProfile(json);
}
