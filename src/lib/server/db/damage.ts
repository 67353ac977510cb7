import { Problem } from '../../core/problem';

/** Whether SQLite says that a file is not what it should be. */
export const saysDamaged = (error: unknown): boolean =>
	error instanceof Error && /SQLITE_(CORRUPT|NOTADB|FORMAT)|malformed|not a database/.test(error.message);

/** Whether it says that something is not as in every studio: a table or a column is not there, or a number is bytes. */
const saysMisshapen = (error: unknown): boolean =>
	error instanceof Error &&
	/no such (table|column|index)|has no column named|foreign key mismatch|JSON cannot hold BLOB/.test(
		error.message
	);

/** A part of a studio's file that cannot be read, in words. */
export const tornFile = (says: string): Problem =>
	new Problem(
		'studio.torn',
		'A part of the studio’s file is damaged, and what was asked for lies in it.',
		'Run the check: it names what is touched. The rest can be read; a whole copy can be put back with “npm run drawer -- put-back”.',
		{ says }
	);

/** Whether what went wrong is damage in the file, however it shows. */
export const isTorn = (error: unknown): boolean =>
	saysDamaged(error) || saysMisshapen(error) || (error instanceof Problem && error.code === 'studio.torn');
