import { ZodError } from 'zod';
import { Problem } from '../../core/problem';
import { faultPath } from '../../core/reading';

/** What is read, or null where it is damaged or not what it should be: then what is wrong with it is told. */
export async function whole<T>(read: () => Promise<T>, wrong: (says: string) => void): Promise<T | null> {
	try {
		return await read();
	} catch (error) {
		if (error instanceof ZodError) {
			const [{ path, message }] = error.issues;
			wrong(`${faultPath(path) || 'all of it'}: ${message}`);
		} else if (error instanceof Problem || error instanceof SyntaxError) wrong(error.message);
		else throw error;
		return null;
	}
}
