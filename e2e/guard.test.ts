import { mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { firstView } from './first-view';
import { checkMap, fitNames, stripsFile, stripsOf } from '../src/lib/core/control';
import { mapOf } from '../src/lib/core/control/map.fixture';
import { fromHex, writeSysexMidiFile } from '../src/lib/core/midi';
import { serve, type Served } from './server-process';

const data = mkdtempSync(join(tmpdir(), 'drawer-guard-'));
let server: Served | null = null;
afterEach(async () => {
	await server?.kill();
	server = null;
});
afterAll(() => rmSync(data, { recursive: true, force: true }));

/** A request with headers that fetch does not let one set. */
const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
	new Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; body: string }>(
		(resolve, reject) => {
			const sent = request({ host: '127.0.0.1', port: 5398, path, method, headers }, (response) => {
				let body = '';
				response.on('data', (chunk) => (body += chunk));
				response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, body }));
			});
			sent.on('error', reject);
			sent.end();
		}
	);

describe('on this machine alone', () => {
	it('refuses foreign hosts and origins, and sends a strict policy', async () => {
		server = await serve(5398, data);
		expect((await ask('/')).status).toBe(200);
		expect((await ask('/', { host: 'localhost:5398' })).status).toBe(200);
		for (const host of ['evil.example', 'evil.example:5398', '127.0.0.1:80', '192.168.0.7:5398'])
			expect((await ask('/', { host })).status, host).toBe(421);
		const foreign = await ask('/api/v1/devices', { origin: 'http://evil.example' }, 'POST');
		expect(foreign.status).toBe(403);
		expect(JSON.parse(foreign.body).problem.remedy).toContain('Nothing was done');
		const { headers } = await ask('/');
		const policy = String(headers['content-security-policy']);
		expect(policy).toContain("default-src 'none'");
		expect(policy).toMatch(/script-src 'self' 'nonce-[^']+'/);
		expect(policy).not.toContain('unsafe-eval');
		expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
		expect(headers['x-content-type-options']).toBe('nosniff');
	});

	it('plans pages in a process of its own, one task at a time, and lets it go when whoever asked hangs up', async () => {
		server = await serve(5398, data);
		const ids = (letter: string, count: number) => Array.from({ length: count }, (_, i) => `${letter}${i}`);
		/** Of many targets touched criss-cross no plan is proved in a minute. */
		const task = (count: number) => ({
			...{ format: 'silent-drawer.page-task', version: 1, controls: ids('c', 8), pages: { count: 12 } },
			targets: ids('t', count).map((id) => ({ id })),
			songs: ids('s', 20).map((name, s) => ({
				name,
				touches: Array.from({ length: 20 }, (_, i) => `t${(i * i * 7 + s * 11 + i * s) % count}`)
			}))
		});
		const plan = (count: number, seconds: number, signal?: AbortSignal) =>
			fetch(`${server!.url}/api/v1/control/pages`, {
				...{ method: 'POST', headers: { 'content-type': 'application/json' }, signal },
				body: JSON.stringify({ task: task(count), seconds })
			});
		const asked = new AbortController();
		const long = plan(90, 100, asked.signal).catch((error: Error) => error.name);
		// It is heard first: the others come when it is long under way.
		await new Promise((done) => setTimeout(done, 2000));
		await expect.poll(async () => (await plan(4, 1)).status, { timeout: 20_000 }).toBe(409);
		asked.abort();
		expect(await long).toBe('AbortError');
		await expect.poll(async () => (await plan(4, 5)).status, { timeout: 20_000 }).toBe(200);
	}, 120_000);

	it('answers bad calls with what is wrong, where, and what to do', async () => {
		server = await serve(5398, data);
		const call = async (method: string, path: string, body?: string) => {
			const response = await fetch(`${server!.url}/api/v1${path}`, {
				method,
				headers: { 'content-type': 'application/json' },
				body
			});
			return { status: response.status, problem: (await response.json()).problem };
		};
		expect(await call('POST', '/devices', '{')).toMatchObject({
			status: 422,
			problem: { code: 'request.json' }
		});
		expect(await call('POST', '/devices', '{"name":"","channel":99}')).toMatchObject({
			status: 422,
			problem: { code: 'request.invalid', detail: { faults: [{ at: 'name' }, { at: 'channel' }] } }
		});
		expect(await call('GET', '/devices/none')).toMatchObject({
			status: 404,
			problem: { code: 'device.not-found' }
		});
		expect(
			await call(
				'POST',
				'/transfers',
				'{"deviceId":"none","direction":"capture","world":"bench","scope":{"kind":"all"}}'
			)
		).toMatchObject({ status: 404 });
		expect(
			await call('POST', '/transfers/none/messages', '{"position":0,"messages":["f07df7"]}')
		).toMatchObject({ status: 404, problem: { code: 'transfer.not-found' } });
		expect(
			await call('POST', '/transfers/none/messages', '{"position":0,"messages":["f0ff"]}')
		).toMatchObject({ status: 422, problem: { detail: { faults: [{ at: 'messages[0]' }] } } });
		expect(await call('GET', '/versions/none/export?as=wav')).toMatchObject({ status: 422 });
		expect(await call('POST', '/files/inspect', '{}')).toMatchObject({
			status: 422,
			problem: { code: 'file.missing' }
		});
		for (const path of ['/control/check', '/control/strips'])
			expect(await call('POST', path, '{"format":"silent-drawer.map"}')).toMatchObject({
				status: 422,
				problem: { code: 'request.invalid' }
			});
		expect(await call('POST', '/control/names', '{"names":["A","A"],"characters":1}')).toMatchObject({
			status: 422,
			problem: { code: 'names.crowded' }
		});
	});
});

describe('the operations of controllers', () => {
	it('answer with what the command line prints', async () => {
		server = await serve(5398, data);
		const post = (path: string, body: unknown) =>
			fetch(`${server!.url}/api/v1/control/${path}`, {
				method: 'POST',
				headers: { 'content-type': 'application/json', origin: server!.url },
				body: JSON.stringify(body)
			});
		const map = mapOf('osier-weir-9');
		expect(await (await post('check', map)).json()).toEqual(checkMap(map));
		expect(await (await post('names', { names: ['Filter Cutoff'], characters: 6 })).json()).toEqual(
			fitNames(['Filter Cutoff'], 6)
		);
		const strips = await post('strips', map);
		expect(strips.headers.get('content-type')).toContain('image/svg+xml');
		expect(await strips.text()).toBe(stripsFile(stripsOf(map)));
		const form = new FormData();
		form.set(
			'file',
			new File([Uint8Array.from(writeSysexMidiFile([fromHex('f0 7d 01 02 f7')]))], 'hand.mid')
		);
		const learnt = await fetch(`${server.url}/api/v1/control/learn`, {
			method: 'POST',
			headers: { origin: server.url },
			body: form
		});
		expect(await learnt.json()).toMatchObject({ controls: [{ kind: 'sysex', messages: 1 }], damage: [] });
	});
});

describe('open to the network', () => {
	it('does not start without a passphrase', async () => {
		await expect(serve(5398, data, { HOST: '0.0.0.0' })).rejects.toThrow('Set DRAWER_PASSPHRASE first');
	});

	it('asks for the passphrase on every page and call, and slows down guessing', async () => {
		server = await serve(5398, data, { HOST: '0.0.0.0', DRAWER_PASSPHRASE: 'perihelion' });
		const page = await ask('/gear');
		expect(page.status).toBe(303);
		expect(page.headers.location).toBe('/enter?to=%2Fgear');
		expect((await ask('/api/v1/devices')).status).toBe(401);
		expect((await ask('/', { host: 'evil.example:5398' })).status).toBe(421);
		const enter = (passphrase: string) =>
			fetch(`${server!.url}/enter?to=//evil.example`, {
				method: 'POST',
				redirect: 'manual',
				headers: { origin: server!.url, accept: 'text/html' },
				body: new URLSearchParams({ passphrase })
			});
		const right = await enter('perihelion');
		expect(right.status).toBe(303);
		expect(right.headers.get('location')).toBe('/');
		const cookie = right.headers.get('set-cookie')!;
		expect(cookie).toMatch(/HttpOnly; SameSite=Strict/i);
		expect((await ask('/api/v1/devices', { cookie: cookie.split(';')[0] })).status).toBe(200);
		expect((await ask('/api/v1/devices', { cookie: 'drawer-session=guess' })).status).toBe(401);
		for (let i = 0; i < 5; i++) expect((await enter('wrong')).status).toBe(401);
		const slowed = await enter('perihelion');
		expect(slowed.status).toBe(429);
		expect(await slowed.text()).toContain('Too many tries');
	});
});

describe('the first view', () => {
	it('is there with 95 kB of scripts, gzipped', async () => {
		server = await serve(5398, data);
		const scripts = await firstView(server.url);
		expect(scripts.size).toBeGreaterThan(5);
		expect([...scripts.values()].reduce((sum, size) => sum + size, 0)).toBeLessThanOrEqual(95_000);
	});
});
