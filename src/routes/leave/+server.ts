import { redirect } from '@sveltejs/kit';
import { SESSION_COOKIE, leave } from '$lib/server/guard';

/** Ends the session of this browser: the next page asks for the passphrase. */
export const POST = ({ cookies }) => {
	leave(cookies.get(SESSION_COOKIE));
	cookies.delete(SESSION_COOKIE, { path: '/' });
	redirect(303, '/enter');
};
