import type { z } from 'zod';
import { Problem } from './problem';

/** A field of a document that is not as its format says. */
export interface Fault {
	/** Path of the field, such as `devices[3].receive.channels[0]`. */
	at: string;
	/** What was expected there, and what was found. */
	says: string;
}

/** `['devices', 3, 'name']` as `devices[3].name`; empty for the document itself. */
export const faultPath = (path: readonly PropertyKey[]): string =>
	path.reduce<string>(
		(text, step) =>
			typeof step === 'number' ? `${text}[${step}]` : text === '' ? String(step) : `${text}.${String(step)}`,
		''
	);

const shown = (value: unknown): string => {
	const text = JSON.stringify(value);
	return text === undefined ? 'nothing' : text.length > 60 ? `${text.slice(0, 57)}…` : text;
};

const at = (value: unknown, path: readonly PropertyKey[]): unknown =>
	path.reduce<unknown>(
		(inner, step) =>
			inner === null || inner === undefined ? undefined : (inner as Record<PropertyKey, unknown>)[step],
		value
	);

/** A schema's complaint in words: what was expected, and what stands there. */
function inWords(issue: z.core.$ZodIssue, found: unknown): string {
	const instead = found === undefined ? 'nothing is there' : `found ${shown(found)}`;
	if (issue.code === 'invalid_type') return `expected ${issue.expected}, ${instead}`;
	if (issue.code === 'invalid_value')
		return `expected one of ${issue.values.map(shown).join(', ')}, ${instead}`;
	if (issue.code === 'too_small')
		return `expected at least ${issue.minimum}${issue.origin === 'string' ? ' characters' : issue.origin === 'array' ? ' entries' : ''}, ${instead}`;
	if (issue.code === 'too_big')
		return `expected at most ${issue.maximum}${issue.origin === 'string' ? ' characters' : issue.origin === 'array' ? ' entries' : ''}, ${instead}`;
	return `${issue.message}, ${instead}`;
}

/** Fields of `raw` that `parsed` does not have, as paths. */
export function unknownFields(raw: unknown, parsed: unknown, path: PropertyKey[] = []): string[] {
	if (Array.isArray(raw))
		return raw.flatMap((entry, i) => unknownFields(entry, (parsed as unknown[])[i], [...path, i]));
	if (raw === null || typeof raw !== 'object') return [];
	return Object.entries(raw).flatMap(([key, value]) =>
		parsed !== null && typeof parsed === 'object' && Object.hasOwn(parsed, key)
			? unknownFields(value, (parsed as Record<string, unknown>)[key], [...path, key])
			: [faultPath([...path, key])]
	);
}

/** What a schema complains of, each with its path. */
export const faultsOf = (error: z.ZodError, raw: unknown): Fault[] =>
	error.issues.map((issue) => ({
		at: faultPath(issue.path) || 'the file',
		says: inWords(issue, at(raw, issue.path))
	}));

/** @throws Problem `${kind}.json` */
export function jsonOf(text: string, kind: string): unknown {
	try {
		return JSON.parse(text);
	} catch (error) {
		throw new Problem(
			`${kind}.json`,
			`The file is not JSON: ${error instanceof Error ? error.message : error}.`,
			`Choose a file that was exported as a ${kind}.`
		);
	}
}

/**
 * Reads a document of a format, whole or not at all.
 * @returns what it says, and the paths of fields that the format does not know, which are left out
 * @throws Problem `${kind}.json`, `${kind}.invalid`; `detail.faults` names each faulty field
 */
export function readDocument<T>(
	schema: z.ZodType<T>,
	text: string,
	kind: string
): { value: T; ignored: string[] } {
	const raw = jsonOf(text, kind);
	const parsed = schema.safeParse(raw);
	if (parsed.success) return { value: parsed.data, ignored: unknownFields(raw, parsed.data) };
	const faults = faultsOf(parsed.error, raw);
	throw new Problem(
		`${kind}.invalid`,
		`The ${kind} has ${faults.length === 1 ? 'a fault' : `${faults.length} faults`}: ${faults[0].at}: ${faults[0].says}.`,
		'Correct the fields that are named; nothing was taken over.',
		{ faults }
	);
}
