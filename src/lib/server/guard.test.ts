import { afterEach, describe, expect, it } from 'vitest';
import { comesFromHere, enter, hostAllowed, insidePath, isKnown, leave, originAllowed } from './guard';

const before = { ...process.env };
afterEach(() => {
	for (const key of ['DRAWER_LISTEN', 'DRAWER_NAMES', 'DRAWER_PASSPHRASE']) {
		if (before[key] === undefined) delete process.env[key];
		else process.env[key] = before[key];
	}
});

describe('hosts', () => {
	it.each([
		['127.0.0.1:5317', 'localhost:5317', true],
		['127.0.0.1:5317', '[::1]:5317', true],
		['127.0.0.1:5317', 'localhost', true],
		['127.0.0.1:5317', 'localhost:80', false],
		['127.0.0.1:5317', 'evil.example:5317', false],
		['127.0.0.1:5317', '192.168.1.4:5317', false],
		['0.0.0.0:5317', '192.168.1.4:5317', true],
		['0.0.0.0:5317', '[fe80::1]:5317', true],
		['0.0.0.0:5317', 'studio.local:5317', true],
		['0.0.0.0:5317', 'evil.example:5317', false],
		['0.0.0.0:5317', '1.2.3.4.evil.example:5317', false]
	])('listening on %s, “%s” is allowed: %s', (listen, host, allowed) => {
		process.env.DRAWER_LISTEN = listen;
		process.env.DRAWER_NAMES = 'studio.local, other.local';
		expect(hostAllowed(host)).toBe(allowed);
	});

	it('no host at all is refused', () => {
		expect(hostAllowed(null)).toBe(false);
		expect(hostAllowed('')).toBe(false);
	});
});

it('origins are the page’s own, or none', () => {
	expect(originAllowed(null, 'localhost:5317')).toBe(true);
	expect(originAllowed('http://localhost:5317', 'localhost:5317')).toBe(true);
	for (const foreign of [
		'null',
		'http://localhost:5318',
		'http://evil.example',
		'http://localhost:5317.evil.example'
	])
		expect(originAllowed(foreign, 'localhost:5317'), foreign).toBe(false);
});

describe('the passphrase', () => {
	it('gives a session to who knows it, and slows down who guesses', () => {
		process.env.DRAWER_PASSPHRASE = 'perigee';
		const now = 1_000_000;
		const right = enter('perigee', 'a', now) as { token: string };
		expect(isKnown(right.token, now)).toBe(true);
		expect(isKnown('made up')).toBe(false);
		expect(isKnown(undefined)).toBe(false);
		for (let i = 0; i < 5; i++) expect(enter('apogee', 'b', now + i)).toBeNull();
		expect(enter('perigee', 'b', now + 10)).toEqual({ waitSeconds: 60 });
		expect(enter('perigee', 'c', now + 10)).toHaveProperty('token');
		expect(enter('perigee', 'b', now + 60_001)).toHaveProperty('token');
	});

	it('none fits where there is none', () => {
		delete process.env.DRAWER_PASSPHRASE;
		expect(enter('', 'd')).toBeNull();
	});
});

describe('a session', () => {
	const day = 86_400_000;
	const begin = (now: number) => (enter('perigee', `at ${now}`, now) as { token: string }).token;

	it('ends when it is left, when it is used no more, after a month, and with another passphrase', () => {
		process.env.DRAWER_PASSPHRASE = 'perigee';
		const left = begin(0);
		leave(left);
		expect(isKnown(left, 1)).toBe(false);
		const idle = begin(0);
		expect(isKnown(idle, 6 * day)).toBe(true);
		expect(isKnown(idle, 12 * day)).toBe(true);
		expect(isKnown(idle, 20 * day)).toBe(false);
		const old = begin(0);
		for (let at = 1; at <= 30; at++) expect(isKnown(old, at * day)).toBe(true);
		expect(isKnown(old, 31 * day)).toBe(false);
		const revoked = begin(0);
		process.env.DRAWER_PASSPHRASE = 'apogee';
		expect(isKnown(revoked, 1)).toBe(false);
		process.env.DRAWER_PASSPHRASE = 'perigee';
		expect(isKnown(revoked, 2)).toBe(false);
	});
});

describe('where a request comes from', () => {
	it.each([
		['GET', {}, true],
		['POST', {}, true],
		['POST', { 'sec-fetch-site': 'same-origin', origin: 'http://localhost:5317' }, true],
		['POST', { 'sec-fetch-site': 'same-origin' }, false],
		['POST', { 'sec-fetch-site': 'none', origin: 'http://localhost:5317' }, false],
		['DELETE', { 'sec-fetch-site': 'cross-site', origin: 'http://localhost:5317' }, false],
		['POST', { 'sec-fetch-site': 'same-site', origin: 'http://localhost:5317' }, false],
		['GET', { 'sec-fetch-site': 'same-origin' }, true],
		['GET', { 'sec-fetch-site': 'none' }, true],
		[
			'GET',
			{ 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors', 'sec-fetch-dest': 'image' },
			false
		],
		[
			'GET',
			{ 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'iframe' },
			false
		],
		[
			'GET',
			{ 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' },
			true
		]
	])('%s %o: %s', (method, headers, here) => {
		expect(comesFromHere(method, new Headers(headers as Record<string, string>))).toBe(here);
	});
});

it('after the passphrase a way leads on to a path of this app, and nowhere else', () => {
	for (const to of ['/', '/gear/x/drawer?v=1', '/sounds?q=a%2Fb']) expect(insidePath(to)).toBe(to);
	for (const out of [
		null,
		'',
		'gear',
		'https://evil.example',
		'//evil.example',
		'/\\evil.example',
		'/\t/evil.example',
		'/\n/evil.example',
		'\t//evil.example',
		'/\r\n//evil.example'
	])
		expect(insidePath(out), String(out)).toBe('/');
	expect(insidePath('/.//evil.example')).toBe('/');
});
