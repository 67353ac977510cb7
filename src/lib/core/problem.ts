/**
 * The one kind of error that the product throws on purpose.
 *
 * `code` is stable and meant for programs, `message` says what happened in the musician's words,
 * `remedy` says what to try, `detail` carries the facts (offsets, ids, lists).
 */
export class Problem extends Error {
	constructor(
		readonly code: string,
		message: string,
		readonly remedy: string,
		readonly detail: Record<string, unknown> = {}
	) {
		super(message);
		this.name = 'Problem';
	}

	/** Plain data for a JSON answer. */
	toJSON(): ProblemData {
		return { code: this.code, message: this.message, remedy: this.remedy, detail: this.detail };
	}
}

export interface ProblemData {
	code: string;
	message: string;
	remedy: string;
	detail?: Record<string, unknown>;
}

/**
 * Any thrown thing as a problem; what was not thrown on purpose has the code `unforeseen`.
 * @param remedy what to try after something unforeseen
 */
export const problemOf = (error: unknown, remedy = 'Try again.'): Problem =>
	error instanceof Problem
		? error
		: new Problem('unforeseen', error instanceof Error ? error.message : String(error), remedy);
