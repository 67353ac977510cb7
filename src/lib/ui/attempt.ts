import { notices } from './notices.svelte';
import { problemOf } from './words';

/** Does something; what goes wrong is said in the footer line. @returns whether it worked */
export async function attempt(work: () => Promise<void>): Promise<boolean> {
	try {
		await work();
		return true;
	} catch (error) {
		const { message, remedy } = problemOf(error);
		notices.say(`${message} ${remedy}`, 'bad');
		return false;
	}
}
