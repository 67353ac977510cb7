import { afterEach, describe, expect, it } from 'vitest';
import { enter, hostAllowed, isKnown, originAllowed } from './guard';

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
		expect(isKnown(right.token)).toBe(true);
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
