/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
// Keeps the page that a set is run from, so that it opens again on stage while no network is there. Nothing else is kept.
import { build, version } from '$service-worker';

const worker = self as unknown as ServiceWorkerGlobalScope;
const STAGE = '/control/set/run';
const CACHE = `stage-${version}`;
/** How long a network that says nothing is waited for, ms. */
const PATIENCE = 5000;
const isPart = (path: string) => path.startsWith('/_app/immutable/');
/** What sending asks the server: which port is which socket, and how instruments are asked what they play. */
const isAnswer = (path: string) => path === '/api/v1/midi/ports' || /^\/api\/v1\/profiles\/[^/]+$/.test(path);

worker.addEventListener('install', (event) => event.waitUntil(worker.skipWaiting()));
worker.addEventListener('activate', (event) =>
	event.waitUntil(
		caches
			.keys()
			.then((names) => Promise.all(names.filter((name) => name !== CACHE).map((name) => caches.delete(name))))
			.then(() => worker.clients.claim())
	)
);

/** Puts the page away; one that the server does not show any more, without the passphrase, is forgotten. */
async function put(response: Response): Promise<boolean> {
	const elsewhere = response.redirected || response.type === 'opaqueredirect';
	if (elsewhere) await caches.delete(CACHE);
	else if (response.ok) await (await caches.open(CACHE)).put(STAGE, response);
	return response.ok && !elsewhere;
}

/** Scripts that pages fetch once they need them, sending among them; workers are for planning and for the bench. */
const scripts = build.filter((path) => /\.(js|css)$/.test(path) && !path.includes('/workers/'));

/** Puts the page away with all its scripts, what it loaded so far, and what it asks. @returns whether all of it is there */
async function keep(loaded: readonly string[]): Promise<boolean> {
	if (!(await put(await fetch(STAGE)))) return false;
	const cache = await caches.open(CACHE);
	const there = new Set((await cache.keys()).map(({ url }) => new URL(url).pathname));
	const paths = [...scripts, ...loaded].map((path) => new URL(path, worker.location.origin).pathname);
	await cache.addAll(
		[...new Set(paths)].filter((path) => isAnswer(path) || (isPart(path) && !there.has(path)))
	);
	return true;
}

/** The page as it was kept, which says so; null where none was. */
async function kept(): Promise<Response | null> {
	const found = await (await caches.open(CACHE)).match(STAGE);
	if (!found) return null;
	const text = await found.text();
	const at = found.headers.get('date');
	const since = at ? new Date(at).toISOString() : '';
	return new Response(text.replace('<html ', `<html data-kept="${since}" `), { headers: found.headers });
}

async function page(request: Request): Promise<Response> {
	try {
		const response = await fetch(request, { signal: AbortSignal.timeout(PATIENCE) });
		if (response.status >= 500) return (await kept()) ?? response;
		await put(response.clone());
		return response;
	} catch (error) {
		const found = await kept();
		if (found) return found;
		throw error;
	}
}

async function part(request: Request): Promise<Response> {
	const cache = await caches.open(CACHE);
	const found = await cache.match(request);
	if (found) return found;
	const response = await fetch(request);
	if (response.ok) await cache.put(request, response.clone());
	return response;
}

async function answer(request: Request): Promise<Response> {
	const cache = await caches.open(CACHE);
	try {
		const response = await fetch(request, { signal: AbortSignal.timeout(PATIENCE) });
		if (response.ok) await cache.put(request, response.clone());
		return response;
	} catch (error) {
		const found = await cache.match(request);
		if (found) return found;
		throw error;
	}
}

worker.addEventListener('fetch', (event) => {
	const { request } = event;
	const { origin, pathname } = new URL(request.url);
	if (request.method !== 'GET' || origin !== worker.location.origin) return;
	if (request.mode === 'navigate' && pathname === STAGE) event.respondWith(page(request));
	else if (isPart(pathname)) event.respondWith(part(request));
	else if (isAnswer(pathname)) event.respondWith(answer(request));
});

worker.addEventListener('message', (event: ExtendableMessageEvent) => {
	const [answer] = event.ports;
	event.waitUntil(
		keep(event.data as string[])
			.catch(() => false)
			.then((done) => answer.postMessage(done))
	);
});
