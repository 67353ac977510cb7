import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { request as secureRequest } from 'node:https';
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
		// A request on a connection that just ends fails: it does not while somebody reads a page.
		expect((await ask('/', { connection: 'keep-alive' })).headers['keep-alive']).toBe('timeout=120');
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

describe('where requests come from', () => {
	it('what another site begins is refused, a link from there is followed, and refusals are as strict as pages', async () => {
		server = await serve(5398, data);
		const cross = { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors', 'sec-fetch-dest': 'image' };
		const refused = await ask('/api/v1/devices', cross);
		expect(refused.status).toBe(403);
		const followed = { ...cross, 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' };
		expect((await ask('/', followed)).status).toBe(200);
		// A browser says its origin with whatever changes something.
		const silent = { 'sec-fetch-site': 'same-origin', 'content-type': 'application/json' };
		expect((await ask('/api/v1/devices', silent, 'POST')).status).toBe(403);
		const nul = await ask('/api/v1/devices/a%00b');
		expect([nul.status, (JSON.parse(nul.body) as { problem: { code: string } }).problem.code]).toEqual([
			422,
			'request.nul'
		]);
		const strict = await ask('/', { host: 'evil.example' });
		for (const { headers } of [refused, nul, strict])
			expect(headers).toMatchObject({
				'x-content-type-options': 'nosniff',
				'referrer-policy': 'same-origin',
				'cross-origin-resource-policy': 'same-origin'
			});
	});

	it('answers are squeezed where that is asked for, and data is not kept by the browser', async () => {
		server = await serve(5398, data);
		const { headers } = await ask('/api/v1/openapi.json', { 'accept-encoding': 'gzip' });
		expect(headers).toMatchObject({ 'content-encoding': 'gzip', 'cache-control': 'no-store' });
		expect((await ask('/api/v1/openapi.json')).headers['content-encoding']).toBeUndefined();
	});
});

describe('a studio that cannot be opened', () => {
	it('is said with what is wrong, on pages and to programs, and is open as soon as it can be', async () => {
		const folder = mkdtempSync(join(tmpdir(), 'drawer-damaged-'));
		const file = join(folder, 'studio.sqlite');
		writeFileSync(file, 'This was a studio once, and something wrote over it.');
		server = await serve(5398, folder);
		const page = await ask('/', { accept: 'text/html' });
		expect(page.status).toBe(503);
		expect(page.body).toContain('The studio’s file is damaged: it does not begin as a studio does.');
		expect(page.body).toContain('Try again');
		const called = await ask('/api/v1/devices');
		expect(called.status).toBe(503);
		expect(JSON.parse(called.body)).toMatchObject({ problem: { code: 'studio.damaged', detail: { file } } });
		expect(readFileSync(file, 'utf8')).toContain('This was a studio once');
		rmSync(file);
		expect((await ask('/api/v1/devices')).status).toBe(200);
		rmSync(folder, { recursive: true, force: true });
	});
});

describe('over HTTPS', () => {
	it('is served with a certificate of one’s own; a session goes over nothing else, and ends when it is left', async () => {
		const [cert, key] = [join(data, 'cert.pem'), join(data, 'key.pem')];
		const made = spawnSync('openssl', [
			...['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes'],
			...['-keyout', key, '-out', cert, '-days', '2', '-subj', '/CN=studio']
		]);
		expect(made.status, String(made.stderr)).toBe(0);
		await expect(serve(5398, data, { DRAWER_TLS_CERT: cert })).rejects.toThrow('belong together');
		await expect(serve(5398, data, { DRAWER_TLS_CERT: key, DRAWER_TLS_KEY: key })).rejects.toThrow(
			'cannot be read'
		);
		server = await serve(5398, data, {
			DRAWER_TLS_CERT: cert,
			DRAWER_TLS_KEY: key,
			DRAWER_PASSPHRASE: 'perihelion'
		});
		const call = (path: string, method = 'GET', headers: Record<string, string> = {}, sent = '') =>
			new Promise<{ status: number; headers: NodeJS.Dict<string | string[]> }>((resolve, reject) => {
				const asked = secureRequest(
					{ host: '127.0.0.1', port: 5398, path, method, headers, rejectUnauthorized: false },
					(response) => {
						response.resume();
						response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers }));
					}
				);
				asked.on('error', reject);
				asked.end(sent);
			});
		const form = {
			accept: 'text/html',
			'content-type': 'application/x-www-form-urlencoded',
			origin: 'https://127.0.0.1:5398'
		};
		const entered = await call('/enter?to=/.//evil.example', 'POST', form, 'passphrase=perihelion');
		expect([entered.status, entered.headers.location]).toEqual([303, '/']);
		// Who else wants this studio is told under which address it is open.
		expect(readFileSync(join(data, 'studio.sqlite.holder'), 'utf8')).toContain(' at https://127.0.0.1:5398,');
		const set = String(entered.headers['set-cookie']);
		expect(set).toMatch(/; HttpOnly; Secure; SameSite=Strict/i);
		const cookie = set.split(';')[0];
		expect((await call('/api/v1/devices', 'GET', { cookie })).status).toBe(200);
		const left = await call('/leave', 'POST', { ...form, cookie });
		expect([left.status, left.headers.location]).toEqual([303, '/enter']);
		expect((await call('/api/v1/devices', 'GET', { cookie })).status).toBe(401);
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
