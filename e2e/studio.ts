import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test as base, type Page } from '@playwright/test';
import type { Speed } from '../src/lib/hardware/desk.svelte';
import { template } from './prepare';
import { serve, type Served } from './server-process';

const FIRST_PORT = Number(process.env.E2E_PORT ?? 5410);

interface Studios {
	/** The demo studio of a file of tests: as it ships when the file begins. */
	of(file: string): Promise<string>;
}

/**
 * A page whose console must stay silent, with a fast bench, on a demo studio that the file's tests have for themselves: no
 * journey depends on what another one left behind.
 */
export const test = base.extend<{ speed: Speed; demoStudio: string }, { studios: Studios }>({
	studios: [
		// eslint-disable-next-line no-empty-pattern
		async ({}, use, { parallelIndex }) => {
			let running: { file: string; data: string; server: Served } | null = null;
			const end = async () => {
				if (!running) return;
				await running.server.kill();
				rmSync(running.data, { recursive: true, force: true });
				running = null;
			};
			await use({
				async of(file) {
					if (running?.file !== file) {
						await end();
						const data = mkdtempSync(join(tmpdir(), 'drawer-demo-'));
						cpSync(template, data, { recursive: true });
						running = { file, data, server: await serve(FIRST_PORT + parallelIndex, data, {}, true) };
					}
					return running.server.url;
				}
			});
			await end();
		},
		{ scope: 'worker' }
	],
	demoStudio: async ({ studios }, use, { file }) => use(await studios.of(file)),
	baseURL: ({ demoStudio }, use) => use(demoStudio),
	speed: [20, { option: true }],
	page: async ({ page, speed }, use) => {
		const complaints: string[] = [];
		page.on('pageerror', (error) => complaints.push(error.message));
		page.on('console', (message) => {
			// Answers of the app's own API with 4xx are shown in the page; the browser logs them besides.
			if (message.type() === 'error' && !message.text().includes('Failed to load resource'))
				complaints.push(message.text());
		});
		// A page answers to keys and buttons once its script runs.
		const ready = () => page.waitForSelector('html[data-ready]', { state: 'attached' });
		const [goto, reload] = [page.goto.bind(page), page.reload.bind(page)];
		page.goto = async (...to) => {
			const response = await goto(...to);
			await ready();
			return response;
		};
		page.reload = async (...how) => {
			const response = await reload(...how);
			await ready();
			return response;
		};
		await page.addInitScript((factor) => {
			if (localStorage.getItem('silent-drawer.bench-speed') === null)
				localStorage.setItem('silent-drawer.bench-speed', String(factor));
		}, speed);
		await use(page);
		expect(complaints).toEqual([]);
	}
});

export { expect };

/** Gives all tests of a file an empty studio of their own, on a port of its own; its server can be ended and started again. */
export function ownStudio(port: number): { end: () => Promise<void>; start: () => Promise<void> } {
	const data = mkdtempSync(join(tmpdir(), 'drawer-own-'));
	let server: Served;
	const start = async () => {
		server = await serve(port, data);
	};
	const end = () => server.kill();
	test.use({ baseURL: `http://127.0.0.1:${port}` });
	test.beforeAll(start);
	test.afterAll(async () => {
		await end();
		rmSync(data, { recursive: true, force: true });
	});
	return { start, end };
}

/** How fast the bench is from the next load of the page on. */
export const nextSpeed = (page: Page, factor: Speed) =>
	page.evaluate((told) => localStorage.setItem('silent-drawer.bench-speed', String(told)), factor);

interface Device {
	id: string;
	name: string;
	benchUnit: string | null;
}

export async function device(page: Page, name: string): Promise<Device> {
	const all = (await (await page.request.get('/api/v1/devices')).json()) as Device[];
	return all.find((entry) => entry.name === name)!;
}

/** The device whose page is open: a name may stand twice, above all where a test is tried again. */
async function openDevice(page: Page): Promise<Device> {
	const id = /\/gear\/([-\w]{9})/.exec(page.url())![1];
	return (await (await page.request.get(`/api/v1/devices/${id}`)).json()) as Device;
}

/** Adds a device of a model by the two-field form, plugged in to a new unit where none is free. */
export async function addDevice(page: Page, model: string, name: string): Promise<Device> {
	await page.goto('/gear/new');
	await page.getByLabel('Model', { exact: true }).selectOption({ label: model });
	await page.getByLabel('Your name for it').fill(name);
	// The demo studio’s cables stay as they are.
	const plug = page.getByRole('checkbox', { name: /^Plug it into the next free sockets/ });
	if (await plug.isVisible()) await plug.uncheck();
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
	const added = await openDevice(page);
	if (!added.benchUnit) {
		await page.goto(`/gear/${added.id}/ports`);
		await page.getByRole('button', { name: /^Put a new/ }).click();
		await expect(page.getByRole('group', { name: /^Front panel/ })).toBeVisible();
	}
	return openDevice(page);
}

export const trayOf = (page: Page) => page.getByRole('region', { name: 'Tray' });
/** The rows of the tray, and the one of a device. */
export const rowsOf = (page: Page) => trayOf(page).getByRole('navigation', { name: 'Rows of the tray' });
export const rowOf = (page: Page, name: string) =>
	rowsOf(page).getByRole('button', { name: new RegExp(`^${name}`) });
export const result = (page: Page) => page.getByRole('region', { name: 'Result' });

/** The one button that begins what is in the tray. */
export const goButton = (page: Page) =>
	trayOf(page).getByRole('button', { name: /^(Back up|Listen|Overwrite|Ask|Send it|Begin)/ });

/** Ticks what the panel must show, and begins what is in the tray. */
export async function start(page: Page): Promise<void> {
	const card = trayOf(page).getByRole('region', { name: 'Before it starts' });
	await expect(card).toBeVisible();
	await expect(card.getByText(/^(Bench|Hardware):/)).toBeVisible();
	// The page that put it there leads on to the drawer: what is pressed while it changes may be pressed beside.
	await expect(page).not.toHaveURL(/\/transfers\/new/);
	const panel = card.getByRole('group', { name: /must show$/ });
	for (const box of await panel.getByRole('checkbox').all()) await box.check();
	await goButton(page).click();
	await expect(card).toBeHidden();
}

export async function backUp(page: Page, id: string, by?: () => Promise<void>): Promise<void> {
	await page.goto(`/transfers/new?device=${id}`);
	await start(page);
	await by?.();
	await expect(result(page)).toContainText('Complete, checksums right');
}

/**
 * Goes to the next slot at the front panel that is on the page, and gives it another name. What is typed before the panel has
 * switched over belongs to the slot before. @returns the name that it had
 */
export async function renameNextSlot(page: Page, name: string): Promise<string> {
	const panel = page.getByRole('group', { name: /^Front panel/ });
	const display = panel.getByRole('status', { name: 'Display' });
	const first = await display.innerText();
	await panel.getByRole('button', { name: 'Next slot' }).click();
	await expect(display).not.toHaveText(first, { useInnerText: true });
	const field = panel.getByRole('textbox', { name: 'Name' });
	const before = await field.inputValue();
	await field.fill(name);
	await field.press('Enter');
	await expect(display).toContainText(name);
	return before;
}

/** Flips a switch of the front panel that is on the page. */
export async function flip(page: Page, label: RegExp, on: boolean): Promise<void> {
	const toggle = page.getByRole('switch', { name: label });
	await toggle.setChecked(on);
	await expect(
		page.getByRole('switch', { name: new RegExp(`${label.source}.*${on ? 'on' : 'off'}`) })
	).toBeVisible();
}

/** Lets a file of 2021 fall on the page. */
export async function dropFile(page: Page, name: string, bytes: Buffer): Promise<void> {
	const data = await page.evaluateHandle(
		([file, base64]) => {
			const transfer = new DataTransfer();
			transfer.items.add(
				new File([Uint8Array.from(atob(base64), (char) => char.charCodeAt(0))], file, {
					lastModified: Date.UTC(2021, 4, 3)
				})
			);
			return transfer;
		},
		[name, bytes.toString('base64')] as const
	);
	await page.dispatchEvent('main', 'dragover', { dataTransfer: data });
	await page.dispatchEvent('main', 'drop', { dataTransfer: data });
}

/**
 * A run of the firmware update of a rack, by the API up to where a hand asks its loader: file and variant are chosen, what is
 * about sounds and answers is passed with a reason. @returns its id, and one more act on it
 */
export async function firmwareRun(page: Page, deviceId: string, system: Buffer) {
	const api = async (path: string, order: Parameters<Page['request']['post']>[1]) => {
		const answer = await page.request.post(`/api/v1${path}`, order);
		expect(answer.ok(), await answer.text()).toBe(true);
		return answer.json();
	};
	let run = await api('/runs', { data: { procedure: 'firmware-update', device: deviceId } });
	const { id } = run as { id: string };
	run = await api(`/runs/${id}/file`, {
		multipart: {
			file: { name: 'p.syx', mimeType: 'application/octet-stream', buffer: system },
			revision: String(run.revision)
		}
	});
	const act = async (does: object) =>
		(run = await api(`/runs/${id}/acts`, { data: { revision: run.revision, act: does } }));
	await act({ do: 'choose', step: 'plate', variant: 'rack' });
	for (const step of ['backup', 'kept', 'answers', 'there']) {
		if (step === 'backup' || step === 'answers') await act({ do: 'begin', step });
		if (run.step === step) await act({ do: 'overrule', step, reason: 'Not needed to look at the sending.' });
	}
	await act({ do: 'done', step: 'mains' });
	return { id, act };
}
