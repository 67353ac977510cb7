import { Problem } from '../core/problem';

/** The deepest that what is sent may be nested: documents that people make are a tenth of it. */
const DEEPEST = 200;

/** A sign that ends texts in some places and not in others: nothing that people write holds it. */
export const nulProblem = () =>
	new Problem(
		'request.nul',
		'There is a NUL character in the request.',
		'Leave it out: no name, text or id holds one.'
	);

const tooDeep = () =>
	new Problem(
		'request.depth',
		`The request is nested more than ${DEEPEST} levels deep.`,
		'Send it as the description of the API says.'
	);

/**
 * Looks through what was sent before anything else walks it, level by level.
 * @throws Problem `request.nul`, `request.depth`
 */
export function mustBeSane(value: unknown): void {
	let level: unknown[] = [value];
	for (let depth = 0; level.length > 0; depth++) {
		if (depth > DEEPEST) throw tooDeep();
		const next: unknown[] = [];
		for (const each of level) {
			if (typeof each === 'string') {
				if (each.includes('\0')) throw nulProblem();
			} else if (Array.isArray(each)) for (const inner of each) next.push(inner);
			else if (each !== null && typeof each === 'object')
				for (const [key, inner] of Object.entries(each)) next.push(key, inner);
		}
		level = next;
	}
}
