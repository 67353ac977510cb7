import { error, json, redirect, type Handle, type HandleServerError } from '@sveltejs/kit';
import { Problem } from '$lib/core/problem';
import {
	SESSION_COOKIE,
	bringsTooMuch,
	comesFromHere,
	hostAllowed,
	isKnown,
	originAllowed,
	passphrase
} from '$lib/server/guard';
import { machineProblem } from '$lib/server/machine-problem';
import { movedTo } from '$lib/server/moved';
import { nulProblem } from '$lib/server/sane-body';
import { theStudio } from '$lib/server/studio';
import { today, type DeviceToday } from '$lib/server/today';

const refuse = (status: number, problem: Problem) => json({ problem }, { status });

/** What every answer says to the browser, refusals too. */
function guarded(response: Response): Response {
	const { headers } = response;
	headers.set('X-Content-Type-Options', 'nosniff');
	// Without any referrer a browser says of the app's own forms that they come from nowhere, and they would be refused.
	headers.set('Referrer-Policy', 'same-origin');
	headers.set('Cross-Origin-Opener-Policy', 'same-origin');
	headers.set('Cross-Origin-Resource-Policy', 'same-origin');
	headers.set('Permissions-Policy', 'midi=(self), camera=(), microphone=(), geolocation=()');
	if (headers.get('content-type')?.includes('json') && !headers.has('cache-control'))
		headers.set('Cache-Control', 'no-store');
	return response;
}

export const handle: Handle = async (given) => guarded(await answered(given));

const answered: Handle = async ({ event, resolve }) => {
	const host = event.request.headers.get('host');
	if (!hostAllowed(host))
		return refuse(
			421,
			new Problem(
				'guard.host',
				'This server does not go by that name.',
				'Open it under the address that it printed when it started.'
			)
		);
	const { method, headers } = event.request;
	if (!originAllowed(headers.get('origin'), host!) || !comesFromHere(method, headers))
		return refuse(
			403,
			new Problem(
				'guard.origin',
				'Another site tried to reach this studio.',
				'Nothing was done. Use the app’s own pages.'
			)
		);
	const { pathname } = event.url;
	if (event.url.href.includes('%00')) return refuse(422, nulProblem());
	if (bringsTooMuch(pathname, headers))
		return refuse(
			413,
			new Problem(
				'guard.too-large',
				'That is more than 64 MiB in one request, or it does not say how much it is.',
				'Send it in parts. Only bundles may be larger.'
			)
		);
	if (passphrase() && pathname !== '/enter' && !isKnown(event.cookies.get(SESSION_COOKIE))) {
		if (pathname.startsWith('/api/'))
			return refuse(
				401,
				new Problem(
					'guard.passphrase',
					'This studio is guarded by a passphrase.',
					'Open the app and enter it.'
				)
			);
		redirect(303, `/enter?to=${encodeURIComponent(pathname)}`);
	}
	const moved = movedTo(pathname, event.url.search);
	if (moved) redirect(308, moved);
	let studio;
	try {
		studio = await theStudio();
	} catch (thrown) {
		return notOpen(thrown, event.request);
	}
	let rows: Promise<DeviceToday[]> | undefined;
	event.locals.studio = studio;
	event.locals.today = () => (rows ??= today(studio));
	return resolve(event);
};

/** Says why the studio could not be opened; the next request tries again. */
function notOpen(thrown: unknown, request: Request): Response {
	const told = machineProblem(thrown);
	if (!(told instanceof Problem)) console.error(thrown);
	const problem =
		told instanceof Problem
			? told
			: new Problem(
					'studio.closed',
					`The studio could not be opened: ${thrown instanceof Error ? thrown.message : String(thrown)}.`,
					'Try again; the server’s log says more.'
				);
	if (!request.headers.get('accept')?.includes('text/html')) return refuse(503, problem);
	error(503, { message: `${problem.message} ${problem.remedy}`, remedy: problem.remedy, code: problem.code });
}

/** What a page shows when something failed: a Problem's own words, or the plain fact that it was not foreseen. */
export const handleError: HandleServerError = ({ error, status, message }) => {
	const told = machineProblem(error);
	if (told instanceof Problem) return { message: told.message, remedy: told.remedy, code: told.code };
	if (status === 404)
		return {
			message: 'There is no such page.',
			remedy: 'Go to Today, or use the cabinet on the left.',
			code: 'page.not-found'
		};
	console.error(error);
	return {
		message: message || 'Something went wrong that nobody foresaw.',
		remedy: 'Try again; the server’s log says more.',
		code: 'unforeseen'
	};
};
