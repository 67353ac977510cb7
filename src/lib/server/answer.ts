import { error, json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { Problem } from '../core/problem';
import { faultPath } from '../core/reading';
import { machineProblem } from './machine-problem';
import { readJson } from './sane-body';

/** HTTP status for a problem's code: what is not there, what is in the way, what is wrong with the request. */
export function statusOf(problem: Problem): number {
	const kind = problem.code.split('.').at(-1)!;
	if (kind === 'not-found') return 404;
	if (kind === 'conflict' || kind === 'ended' || kind === 'taken') return 409;
	if (problem.code === 'object.damaged' || problem.code === 'studio.torn') return 500;
	if (problem.code.startsWith('disk.')) return 507;
	return 422;
}

/** A request body that does not fit, as a problem that names each faulty field. */
const invalid = (issues: z.ZodError['issues']) =>
	new Problem(
		'request.invalid',
		`The request has ${issues.length === 1 ? 'a fault' : `${issues.length} faults`}: ${faultPath(issues[0].path) || 'body'}: ${issues[0].message}.`,
		'Correct the fields that are named.',
		{ faults: issues.map((issue) => ({ at: faultPath(issue.path), says: issue.message })) }
	);

/** Runs `work` and answers with its value as JSON, or with the problem. */
export async function answer(work: () => Promise<unknown>, status = 200): Promise<Response> {
	try {
		const value = await work();
		return value === undefined ? new Response(null, { status: 204 }) : json(value, { status });
	} catch (thrown) {
		const problem = thrown instanceof z.ZodError ? invalid(thrown.issues) : machineProblem(thrown);
		if (problem instanceof Problem) return json({ problem }, { status: statusOf(problem) });
		throw thrown;
	}
}

/** The request's JSON body, checked. @throws Problem `request.json`, `request.nul`, `request.depth`, `request.values`, ZodError */
export async function body<S extends z.ZodType>(event: RequestEvent, schema: S): Promise<z.output<S>> {
	let parsed: unknown;
	try {
		parsed = await readJson(event.request.body);
	} catch (error) {
		if (error instanceof Problem) throw error;
		throw new Problem(
			'request.json',
			'The body is not JSON.',
			'Send JSON with the content type application/json.'
		);
	}
	return schema.parse(parsed);
}

/** For page loads: a problem becomes the page's error, with its words. */
export async function orError<T>(work: Promise<T>): Promise<T> {
	try {
		return await work;
	} catch (caught) {
		const thrown = machineProblem(caught);
		if (thrown instanceof Problem)
			error(statusOf(thrown), { message: thrown.message, remedy: thrown.remedy, code: thrown.code });
		throw thrown;
	}
}
