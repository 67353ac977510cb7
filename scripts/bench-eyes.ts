import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { serve } from '../e2e/server-process';
import { injectMidi, standIn } from '../e2e/stand-in/inject';
import { shippedProfile } from '../src/lib/server/profiles';
import { chromiumFlags, needChromium } from './browser.mjs';
import { n, type Row } from './bench-rows';
import { largeStudio } from './large-studio';

/** The longest that the page kept hand and eye waiting at one go while something was done, in ms; 0 where nothing took 50. */
async function longest(page: Page, work: () => Promise<unknown>): Promise<number> {
	await page.evaluate(() => {
		const found: number[] = [];
		(window as unknown as { longTasks: number[] }).longTasks = found;
		new PerformanceObserver((list) => {
			for (const { duration } of list.getEntries()) found.push(duration);
		}).observe({ type: 'longtask' });
	});
	await work();
	return page.evaluate(() => Math.max(0, ...(window as unknown as { longTasks: number[] }).longTasks));
}

/** The longest tasks of so many openings of a drawer, in ms, shortest first: each in a browser that has never seen the app. */
const OPENINGS = 9;
async function openings(browser: Browser, folder: string, versionsEach: number): Promise<number[]> {
	const data = join(folder, `${versionsEach}`);
	mkdirSync(data);
	const { studio, device } = await largeStudio(
		join(data, 'studio.sqlite'),
		shippedProfile('ternhill-umbra'),
		{ devices: 2, versionsEach }
	);
	await studio.close();
	const server = await serve(5391, data);
	try {
		const times: number[] = [];
		for (let i = 0; i < OPENINGS; i++) {
			const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
			await page.goto(server.url);
			await page.waitForSelector('html[data-ready]', { state: 'attached' });
			// Somebody looks before they press; what Today itself is busy with is not the drawer's.
			await page.waitForTimeout(1500);
			times.push(
				await longest(page, async () => {
					await page.locator(`a.front[href="/gear/${device.id}/drawer"]`).click();
					await page.locator('g.pile').first().waitFor();
					await page.waitForTimeout(500);
				})
			);
			await page.close();
		}
		return times.sort((a, b) => a - b);
	} finally {
		await server.kill();
	}
}

/** What the browser's main thread is busy with at one go: a drawer of 2,000 versions, the monitor in a flood. */
export async function eyes(row: Row): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'bench-eyes-'));
	const browser = await chromium.launch({ executablePath: needChromium(), args: chromiumFlags });
	try {
		// The short drawer says what of it is this machine's, and what the number of versions costs.
		for (const versions of [20, 2000]) {
			const times = await openings(browser, folder, versions);
			row(
				`Longest task in opening a drawer of ${versions.toLocaleString('en')} versions, ms`,
				n(times[OPENINGS - 1]),
				`the worst of ${OPENINGS}, each in a browser that never saw the app; limit 50, 0 where none took that`
			);
		}
		await flood(row, browser, join(folder, '20'));
	} finally {
		await browser.close();
		rmSync(folder, { recursive: true, force: true });
	}
}

async function flood(row: Row, browser: Browser, data: string): Promise<void> {
	const server = await serve(5391, data);
	try {
		const context = await browser.newContext({ baseURL: server.url });
		await injectMidi(context);
		const monitor = await context.newPage();
		await monitor.goto('/transfers/monitor');
		await monitor.waitForSelector('html[data-ready]', { state: 'attached' });
		await monitor.getByRole('button', { name: 'Listen to the computer’s MIDI ports' }).click();
		await monitor.getByText('Every in of the computer is heard').waitFor();
		let sent = 0;
		const longestTask = await longest(monitor, async () => {
			sent = await standIn(monitor, 'flood', 4, 3000, 3);
			await monitor.getByText(`${sent.toLocaleString('en')} messages`).waitFor();
		});
		row('Longest task of the monitor at 3,000 messages/s, ms', n(longestTask), `${sent} messages, limit 50`);
	} finally {
		await server.kill();
	}
}
