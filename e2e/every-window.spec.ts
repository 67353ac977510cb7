import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import { device, expect, test } from './studio';

const axePath = createRequire(import.meta.url).resolve('axe-core/axe.min.js');

// Its tests look, and change nothing that another one looks at: any worker may take any of them.
test.describe.configure({ mode: 'parallel' });

interface Axe {
	run(options: object): Promise<{
		violations: { id: string; nodes: { target: string[]; failureSummary: string }[] }[];
	}>;
}
const look = (page: Page, options: object): Promise<string[]> =>
	page.evaluate(async (given) => {
		const { axe } = window as unknown as { axe: Axe };
		const { violations } = await axe.run({ resultTypes: ['violations'], ...given });
		return violations.flatMap(({ id, nodes }) =>
			nodes.map((node) => `${id}: ${node.target.join(' ')} — ${node.failureSummary.split('\n')[1]?.trim()}`)
		);
	}, options);

/** What axe finds by daylight, and, of what colours decide, by lamplight. */
async function faults(page: Page): Promise<string[]> {
	const light = (theme: string) =>
		page.evaluate((told) => (document.documentElement.dataset.theme = told), theme);
	await page
		.addScriptTag({ path: axePath })
		.catch(async () =>
			page.evaluate(await import('node:fs').then(({ readFileSync }) => readFileSync(axePath, 'utf8')))
		);
	await expect(page.locator('html')).toHaveAttribute('data-theme', 'daylight');
	// A colour on its way to another is none that anybody reads.
	await page.addStyleTag({ content: '* { transition: none !important; }' });
	const found = await look(page, {});
	await light('lamplight');
	const dim = await look(page, {
		runOnly: { type: 'rule', values: ['color-contrast', 'link-in-text-block'] }
	});
	await light('daylight');
	return [...found, ...dim.map((each) => `lamplight, ${each}`)];
}

/** Every view that the app has, on the demo studio. */
async function everyView(page: Page): Promise<string[]> {
	const orrery = (await device(page, 'Orrery')).id;
	const nadir = (await device(page, 'Nadir drums')).id;
	const transfers = await (await page.request.get('/api/v1/transfers')).json();
	const [capture, restore] = ['capture', 'restore'].map(
		(direction) => transfers.find((entry: { direction: string }) => entry.direction === direction).id
	);
	const json = async (path: string) => (await page.request.get(`/api/v1${path}`)).json();
	const [newer, older] = ((await json('/snapshots')) as { id: string }[]).map(({ id }) => id);
	const bank = ((await json('/banks')) as { id: string; document: { title: string } }[]).find(
		({ document }) => document.title === 'Night of the comets'
	)!.id;
	const [{ record: sound, versionId: version }] = (await json('/find?q=slow+eclipse')).found;
	const [{ id: map }] = (await json('/maps')) as { id: string }[];
	const [{ id: run }] = (await json('/runs')) as { id: string }[];
	return [
		'/',
		'/gear',
		'/gear?archived',
		'/gear/find',
		'/gear/new',
		'/gear/import',
		'/gear/pairings',
		`/gear/${orrery}`,
		`/gear/${orrery}/edit`,
		`/gear/${orrery}/ports`,
		`/gear/${orrery}/drawer`,
		`/gear/${orrery}/profile`,
		`/gear/${orrery}/notes`,
		'/transfers',
		`/transfers/new?device=${nadir}`,
		`/transfers/${capture}`,
		`/transfers/${restore}`,
		'/wiring',
		`/wiring?device=${nadir}`,
		`/wiring/map?device=${orrery}`,
		`/wiring/problems?to=${nadir}`,
		'/wiring/problems',
		'/wiring/plan',
		'/wiring/host',
		'/wiring/power',
		'/wiring/sheets',
		'/control',
		'/control/zones',
		'/control/zones/gear',
		'/control/set',
		'/control/set/run',
		'/control/set/sheet',
		'/control/feet',
		'/control/feet/pairings',
		'/control/feet/slots',
		'/control/feet/deputies',
		'/control/feet/shelf',
		'/control/feet/sheet',
		`/control/${map}`,
		`/control/${map}/strips`,
		`/control/${map}/pages`,
		`/control/${map}/host`,
		`/control/${map}/table`,
		'/sounds?q=star',
		`/sounds/${sound}`,
		'/transfers/studio',
		'/sounds/snapshots',
		`/sounds/snapshots/${newer}`,
		`/sounds/snapshots/${newer}?with=${older}`,
		'/sounds/banks',
		`/sounds/banks/${bank}`,
		`/sounds/banks/${bank}/merge`,
		`/transfers/new?bank=${bank}`,
		'/sounds/look-alikes',
		'/transfers/ports',
		'/transfers/monitor',
		'/transfers/universal',
		'/care',
		'/care/switching',
		'/care/procedures',
		`/care/procedures/${run}`,
		'/care/procedures/write?procedure=before-a-show',
		'/care/service',
		`/care/service?device=${orrery}`,
		`/gear/${orrery}/settings`,
		'/gear/workshop',
		'/gear/workshop?profile=new',
		`/gear/workshop?profile=vellbrook-orrery&version=${version}`,
		'/transfers/bench',
		'/nowhere'
	];
}

/** What is too wide, or below the window, on the page that is open, however wide the window is. Ends at the widest. */
async function tooWide(page: Page): Promise<string[]> {
	const found: string[] = [];
	for (const width of [390, 768, 1280]) {
		await page.setViewportSize({ width, height: 844 });
		const [over, below] = await page.evaluate(() => {
			const main = document.getElementById('page')!;
			const { scrollWidth, scrollHeight } = document.documentElement;
			return [
				Math.max(scrollWidth - innerWidth, main.scrollWidth - main.clientWidth),
				scrollHeight - innerHeight
			];
		});
		if (over > 0) found.push(`at ${width}: ${over} px too wide`);
		// The page scrolls inside its frame: the frame itself never does.
		if (below > 0) found.push(`at ${width}: ${below} px below the window`);
	}
	return found;
}

// In parts: all of them take longer than one test may on a busy machine.
const PARTS = 4;
for (const part of Array(PARTS).keys())
	test.describe(`views, part ${part + 1} of ${PARTS}`, () => {
		test.use({ bypassCSP: true });

		test('nothing is cut off or scrolled sideways however wide the window is, and axe finds nothing by daylight and by lamplight', async ({
			page
		}) => {
			test.setTimeout(300_000);
			const views = (await everyView(page)).filter((_, i) => i % PARTS === part);
			expect(views.length).toBeGreaterThan(15);
			const all: string[] = [];
			for (const view of views) {
				await page.setViewportSize({ width: 390, height: 844 });
				await page.goto(view);
				await page.waitForLoadState('networkidle');
				const found = [...(await tooWide(page)), ...(await faults(page))];
				all.push(...found.map((fault) => `${view} ${fault}`));
				// The tray keeps what it was given: it is looked at by itself below.
				await page.evaluate(() => {
					localStorage.removeItem('silent-drawer.tray');
					sessionStorage.clear();
				});
			}
			expect(all).toEqual([]);
		});
	});

test.describe('axe', () => {
	test.use({ bypassCSP: true });

	test('finds nothing in what comes by a press', async ({ page }) => {
		test.setTimeout(120_000);
		const orrery = (await device(page, 'Orrery')).id;
		const all: string[] = [];
		// A plan with its list, and music played through the wires.
		await page.goto('/wiring/plan');
		await page.getByRole('button', { name: 'Make a plan' }).click();
		await expect(page.getByText('Proved best')).toBeVisible({ timeout: 30_000 });
		all.push(...(await faults(page)).map((fault) => `plan ${fault}`));
		const timing = page.getByRole('region', { name: /^How late notes arrive/ });
		await timing.getByRole('button', { name: 'Play it through' }).click();
		await expect(timing.getByRole('row', { name: /^Orrery/ })).toBeVisible();
		all.push(...(await faults(page)).map((fault) => `timing ${fault}`));
		// Comparing, the dialogs, and the cabinet folded away on a narrow screen.
		await page.goto(`/gear/${orrery}/drawer`);
		await page.keyboard.press('c');
		await page.locator('.slot.differs button.cell').first().click();
		all.push(...(await faults(page)).map((fault) => `compare ${fault}`));
		await page.keyboard.press('?');
		all.push(...(await faults(page)).map((fault) => `keys ${fault}`));
		await page.keyboard.press('Escape');
		await page.keyboard.press('Control+k');
		all.push(...(await faults(page)).map((fault) => `commands ${fault}`));
		await page.keyboard.press('Escape');
		await page.setViewportSize({ width: 800, height: 1100 });
		all.push(...(await faults(page)).map((fault) => `upright ${fault}`));
		await page.getByRole('button', { name: 'Open the cabinet' }).click();
		await expect(page.getByRole('link', { name: /^Orrery/ })).toBeVisible();
		expect(all).toEqual([]);
	});
});

test.describe('the tray', () => {
	test.use({ bypassCSP: true });

	test('axe finds nothing with the tray open, at any width', async ({ page }) => {
		test.setTimeout(90_000);
		const all: string[] = [];
		const nadir = (await device(page, 'Nadir drums')).id;
		await page.goto(`/transfers/new?device=${nadir}`);
		await expect(page.getByRole('region', { name: 'Before it starts' })).toContainText('must show');
		await page.goto('/');
		await page.getByRole('button', { name: /^Back up \d of the \d/ }).click();
		await expect(page.getByRole('navigation', { name: 'Rows of the tray' })).toBeVisible();
		for (const width of [1280, 768, 390]) {
			await page.setViewportSize({ width, height: 844 });
			all.push(...(await faults(page)).map((fault) => `${width}: ${fault}`));
		}
		await page.getByRole('button', { name: 'What happened' }).click();
		all.push(...(await faults(page)).map((fault) => `history: ${fault}`));
		expect(all).toEqual([]);
	});
});

test.describe('a computer that is set to dark', () => {
	test.use({ colorScheme: 'dark' });

	test('gets the lamplight at once', async ({ page }) => {
		await page.goto('/');
		await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamplight');
	});
});
