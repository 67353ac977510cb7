import { Problem, problemOf, type ProblemData } from './problem';

/** What a worker answers: what it throws would lose its kind on the way, so a problem crosses as data. */
export type Answered<T> = { value: T } | { problem: ProblemData };

/** @param remedy what to try where the problem was not foreseen */
export async function answered<T>(work: () => Promise<T> | T, remedy?: string): Promise<Answered<T>> {
	try {
		return { value: await work() };
	} catch (error) {
		return { problem: problemOf(error, remedy).toJSON() };
	}
}

/** What was answered. @throws Problem */
export function opened<T>(answer: Answered<T>): T {
	if ('value' in answer) return answer.value;
	const { code, message, remedy, detail } = answer.problem;
	throw new Problem(code, message, remedy, detail);
}
