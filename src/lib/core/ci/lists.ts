import type { z } from 'zod';
import { Problem } from '../problem';
import type { Described } from '../profile';
import type { Conversation } from '../transfer';
import { readJson } from './body';
import { programListSchema, stateListSchema, type ProgramList } from './resources';
import type { CiTalk } from './talk';

/**
 * A property that is a text of JSON.
 * @throws Problem `ci.body` where it is not what that resource has to be; as `CiTalk.get`
 */
export function* readResource<S extends z.ZodType>(
	talk: CiTalk,
	resource: string,
	schema: S,
	more: Record<string, unknown> = {}
): Conversation<z.infer<S>> {
	const { body } = yield* talk.get(resource, more);
	const read = schema.safeParse(readJson(body));
	if (!read.success)
		throw new Problem(
			'ci.body',
			`What it says as “${resource}” cannot be read: ${read.error.issues[0].message}.`,
			'Its maker may have a newer system for it.'
		);
	return read.data;
}

/** Whether a link leads to a state. */
export const stateLinked = ({ links }: ProgramList[number]): string | undefined =>
	links.find(({ resource, resId }) => resource === 'State' && resId !== undefined)?.resId;

/** The list that says what states are called, and how it is asked for. */
export const listOf = (from: Described['titles']): { resource: string; more: Record<string, unknown> } =>
	from === 'StateList'
		? { resource: from, more: {} }
		: { resource: 'ProgramList', more: from.programs === undefined ? {} : { resId: from.programs } };

/** What states are called now, by their ids. */
export function* titlesOf(talk: CiTalk, from: Described['titles']): Conversation<Map<string, string>> {
	const { resource, more } = listOf(from);
	if (from === 'StateList') {
		const list = yield* readResource(talk, resource, stateListSchema, more);
		return new Map(list.map(({ stateId, title }) => [stateId, title]));
	}
	const list = yield* readResource(talk, resource, programListSchema, more);
	return new Map(
		list.flatMap((program) => {
			const state = stateLinked(program);
			return state === undefined ? [] : [[state, program.title] as const];
		})
	);
}
