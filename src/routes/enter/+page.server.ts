import { fail, redirect } from '@sveltejs/kit';
import { SESSION_COOKIE, enter, insidePath } from '$lib/server/guard';

export const actions = {
	default: async ({ request, cookies, getClientAddress, url }) => {
		const form = await request.formData();
		const result = enter(String(form.get('passphrase') ?? ''), getClientAddress());
		if (result === null) return fail(401, { says: 'That is not the passphrase.' });
		if ('waitSeconds' in result)
			return fail(429, { says: `Too many tries. Wait ${result.waitSeconds} seconds.` });
		cookies.set(SESSION_COOKIE, result.token, {
			path: '/',
			httpOnly: true,
			sameSite: 'strict',
			secure: url.protocol === 'https:'
		});
		redirect(303, insidePath(url.searchParams.get('to')));
	}
};
