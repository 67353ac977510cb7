import { randomBytes, timingSafeEqual, createHash } from 'node:crypto';

const WINDOW_MS = 60_000;
const TRIES = 5;
export const SESSION_COOKIE = 'drawer-session';

/** How long a session lasts that is used no more, and how long it lasts at the most. */
const IDLE_MS = 7 * 86_400_000;
const LONGEST_MS = 30 * 86_400_000;

interface Session {
	/** The passphrase that it was given for: with another one it is over. */
	of: string;
	begunAt: number;
	usedAt: number;
}
const sessions = new Map<string, Session>();
const tries = new Map<string, number[]>();

const digest = (text: string) => createHash('sha256').update(text).digest();

/** The passphrase that guards the studio, or null where it is open to this machine alone. */
export const passphrase = (): string | null => process.env.DRAWER_PASSPHRASE || null;

/** Whether a session is still open; it is used now. */
export function isKnown(token: string | undefined, nowMs = Date.now()): boolean {
	const session = token === undefined ? undefined : sessions.get(token);
	if (!session) return false;
	if (
		session.of !== passphrase() ||
		nowMs - session.usedAt > IDLE_MS ||
		nowMs - session.begunAt > LONGEST_MS
	) {
		sessions.delete(token!);
		return false;
	}
	session.usedAt = nowMs;
	return true;
}

/** Ends a session. */
export const leave = (token: string | undefined): void =>
	void (token !== undefined && sessions.delete(token));

/**
 * Tries a passphrase for `address`: five tries a minute.
 * @returns a session token, or the seconds to wait, or null for a wrong passphrase
 */
export function enter(
	attempt: string,
	address: string,
	nowMs = Date.now()
): { token: string } | { waitSeconds: number } | null {
	const recent = (tries.get(address) ?? []).filter((at) => nowMs - at < WINDOW_MS);
	if (recent.length >= TRIES) return { waitSeconds: Math.ceil((WINDOW_MS - (nowMs - recent[0])) / 1000) };
	tries.set(address, [...recent, nowMs]);
	const right = passphrase();
	if (right === null || !timingSafeEqual(digest(attempt), digest(right))) return null;
	tries.delete(address);
	const token = randomBytes(32).toString('base64url');
	sessions.set(token, { of: right, begunAt: nowMs, usedAt: nowMs });
	return { token };
}

const LOCAL = ['127.0.0.1', 'localhost', '[::1]'];

/** Whether a Host header names this server: an address that it listens on, so that no foreign name can be pointed at it. */
export function hostAllowed(host: string | null): boolean {
	if (!host) return false;
	const listen = process.env.DRAWER_LISTEN;
	const name = host.replace(/:\d+$/, '');
	if (!listen) return LOCAL.includes(name);
	const port = listen.slice(listen.lastIndexOf(':') + 1);
	if (host !== name && !host.endsWith(`:${port}`)) return false;
	if (LOCAL.includes(name)) return true;
	const bound = listen.slice(0, listen.lastIndexOf(':'));
	if (LOCAL.includes(bound) || bound === '::1') return false;
	const names = (process.env.DRAWER_NAMES ?? '').split(',').map((entry) => entry.trim());
	return (
		name === bound ||
		names.includes(name) ||
		/^\d{1,3}(\.\d{1,3}){3}$/.test(name) ||
		/^\[[0-9a-f:]+\]$/i.test(name)
	);
}

/** The most that one request can bring, but for those that are written to disk as they arrive. */
const BODY_LIMIT = 64 * 1024 * 1024;
const STREAMED = ['/api/v1/bundle'];

/** Whether a request brings more than is taken, or does not say how much. */
export function bringsTooMuch(path: string, headers: Headers): boolean {
	if (STREAMED.includes(path)) return false;
	const length = headers.get('content-length');
	return length === null ? headers.has('transfer-encoding') : Number(length) > BODY_LIMIT;
}

const READING = ['GET', 'HEAD', 'OPTIONS'];

/**
 * Whether a request comes from this app's pages, from a link that somebody followed, or from no browser. Browsers say where a
 * request comes from (Fetch Metadata), and an origin with whatever can change something.
 */
export function comesFromHere(method: string, headers: Headers): boolean {
	const site = headers.get('sec-fetch-site');
	if (site === null) return true;
	if (!READING.includes(method)) return site === 'same-origin' && headers.get('origin') !== null;
	const followed =
		headers.get('sec-fetch-mode') === 'navigate' && headers.get('sec-fetch-dest') === 'document';
	return site === 'same-origin' || site === 'none' || followed;
}

/** Only a path of this app: never a way out to another site, however it is written. */
export function insidePath(to: string | null): string {
	const here = 'http://here.invalid';
	// Browsers leave tabs and line ends out, and read a backslash as a slash.
	if (!to || !to.startsWith('/') || /[\\\p{Cc}]/u.test(to)) return '/';
	const { origin, pathname, search } = new URL(to, here);
	// A way with dots in it can come to begin with two slashes.
	return origin === here && !pathname.startsWith('//') ? pathname + search : '/';
}

/** Whether an Origin header, where there is one, is that of the page's own host. */
export const originAllowed = (origin: string | null, host: string): boolean =>
	origin === null || origin === `http://${host}` || origin === `https://${host}`;
