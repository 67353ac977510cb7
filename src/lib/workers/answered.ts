import { Problem, type ProblemData } from '../core/problem';

/** Errors as data: what a worker throws loses its kind on the way. */
export type Answered<T> = { value: T } | { problem: ProblemData };

export async function answered<T>(work: () => Promise<T> | T): Promise<Answered<T>> {
	try {
		return { value: await work() };
	} catch (error) {
		const problem =
			error instanceof Problem
				? error
				: new Problem('worker.failed', error instanceof Error ? error.message : String(error), 'Try again.');
		return { problem: problem.toJSON() };
	}
}

/** @throws Problem */
export function opened<T>(answer: Answered<T>): T {
	if ('value' in answer) return answer.value;
	const { code, message, remedy, detail } = answer.problem;
	throw new Problem(code, message, remedy, detail);
}
