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
