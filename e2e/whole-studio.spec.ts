import type { Page } from '@playwright/test';
import { addDevice, device, expect, goButton, result, rowOf, rowsOf, start, test, trayOf } from './studio';

const bench = async (page: Page, name: string) => {
	const { benchUnit } = await device(page, name);
	return (await (await page.request.get(`/api/v1/bench/units/${benchUnit}`)).json()) as { memory: unknown };
};

test('the whole studio in one go: one fails, goes on, and two snapshots are compared', async ({ page }) => {
	test.setTimeout(120_000);
	await page.goto('/transfers/studio');
	await page.getByRole('button', { name: /^Check all \d+ in the tray/ }).click();
	const tray = trayOf(page);
	const rows = tray.getByRole('navigation', { name: 'Rows of the tray' });
	// The drum machine needs a key pressed, and other tests' devices are not asked.
	const wanted = ['Orrery', 'Parallax west', 'Parallax east', 'Umbra hall'];
	await expect(rows.getByRole('button', { name: /^Umbra hall/ })).toBeVisible();
	const names = await rows
		.getByRole('button', { name: /^Take .* out of the tray$/ })
		.evaluateAll((buttons) =>
			buttons.map((button) => /^Take (.*) out of the tray$/.exec(button.getAttribute('aria-label')!)![1])
		);
	for (const name of names.filter((each) => !wanted.includes(each)))
		await rows.getByRole('button', { name: `Take ${name} out of the tray`, exact: true }).click();
	const unit = (await device(page, 'Parallax east')).benchUnit!;
	const stored = (await (await page.request.get(`/api/v1/bench/units/${unit}`)).json()) as Record<
		string,
		unknown
	>;
	const put = (faults: unknown[], revision: unknown) =>
		page.request.put(`/api/v1/bench/units/${unit}`, { data: { ...stored, faults, revision, edited: false } });
	expect((await put([{ kind: 'truncate', way: 'from device', afterBytes: 5 }], stored.revision)).ok()).toBe(
		true
	);
	await tray.getByLabel('Title of the snapshot').fill('Whole studio, first');
	await tray.getByRole('button', { name: /^Back up 4 devices/ }).click();
	const row = (name: string) => rowOf(page, name);
	for (const name of ['Orrery', 'Parallax west', 'Umbra hall'])
		await expect(row(name)).toContainText('done', { timeout: 60_000 });
	await expect(row('Parallax east')).toContainText('look at it', { timeout: 60_000 });

	const now = (await (await page.request.get(`/api/v1/bench/units/${unit}`)).json()) as { revision: number };
	expect((await put([], now.revision)).ok()).toBe(true);
	await row('Parallax east').click();
	// What failed goes on, or is tried again, and lands in the same snapshot.
	const again = tray
		.getByRole('button', { name: 'Resume' })
		.or(tray.getByRole('link', { name: 'Try again' }));
	const resumed = (await again.innerText()) === 'Resume';
	await again.click();
	if (!resumed) await start(page);
	await expect(result(page)).toContainText('33 slots', { timeout: 60_000 });
	await page.goto('/sounds/snapshots');
	await page.getByRole('link', { name: 'Whole studio, first' }).click();
	await expect(page.getByRole('heading', { name: 'Whole studio, first' })).toBeVisible();
	await expect(page.getByRole('row', { name: /Parallax east/ })).toContainText('kept then, verified');
	await expect(page.getByRole('row', { name: /Nadir drums/ })).toContainText('as last known');

	const since = page.getByLabel('What changed since');
	await since.selectOption(await since.locator('option', { hasText: 'autumn' }).innerText());
	await expect(page.getByRole('heading', { name: /devices? changed\./ })).toBeVisible();
	await page.getByRole('link', { name: 'Compare slots of Orrery' }).click();
	await expect(page.getByText(/slots? differs?:/).first()).toBeVisible();
});

test('a snapshot is restored: the tray checks first, and lists what is chosen and differs', async ({
	page
}) => {
	test.setTimeout(90_000);
	await page.goto('/sounds/snapshots');
	await page.getByRole('link', { name: 'Before the autumn shows' }).click();
	await page.getByRole('checkbox', { name: 'Umbra hall' }).check();
	const check = page.getByRole('button', { name: 'Check the restore of 1 device in the tray' });
	// Only what a song needs.
	await page.getByLabel('Only sounds named').fill('nobody is called this');
	await check.click();
	await expect(page.getByRole('alert')).toContainText('No chosen device has a sound of that name');
	await page.getByLabel('Only sounds named').fill('');
	await check.click();
	const card = page.getByRole('region', { name: 'Before it starts' });
	const says = /(\d+) of 50 slots\s+differ, (\d+) are written/;
	await expect(card).toContainText(says);
	const [, differ, written] = says.exec((await card.textContent())!)!;
	expect(differ).toBe(written);
	await card.getByText(`The ${written} slots that are written`).click();
	await expect(card.getByRole('list', { name: 'Slots that are written' }).getByRole('listitem')).toHaveCount(
		Number(written)
	);
	await expect(goButton(page)).toHaveText(new RegExp(`^Overwrite ${written} slots of Umbra hall`));
	await start(page);
	await expect(result(page)).toContainText(`${written} slots written and read back equal`, {
		timeout: 40_000
	});
	// What the panel must be set back to stays until it is ticked.
	const back = page.getByRole('group', { name: 'Set back on the panel of Umbra hall' });
	await page.getByRole('button', { name: 'Clear what is over' }).click();
	await expect(back).toBeVisible();
	await page.reload();
	await back.getByRole('checkbox', { name: /Memory protect is on again/ }).check();
	await page.getByRole('button', { name: 'Clear what is over' }).click();
	await expect(trayOf(page)).toBeHidden();
	// What is believed never replaces asking: the run that reads the device first is still offered.
	await page.getByRole('checkbox', { name: 'Umbra hall' }).check();
	await check.click();
	await expect(card).toContainText(/0 of 50 slots\s+differ/);
	await expect(card.getByRole('checkbox')).toHaveCount(1);
	await start(page);
	await expect(result(page)).toContainText('0 slots written and read back equal, 50 already there', {
		timeout: 40_000
	});
	await expect(back).toBeHidden();
});

test.describe('at the real speed of the wire', () => {
	test.use({ speed: 1 });

	test('a restore of four, stopped at the second, leaves the rest untouched and says so', async ({
		page
	}) => {
		test.setTimeout(150_000);
		const names = ['Orrery', 'Parallax east', 'Parallax west', 'Umbra hall'];
		const before = new Map<string, unknown>();
		for (const name of names) before.set(name, (await bench(page, name)).memory);
		await page.goto('/sounds/snapshots');
		await page.getByRole('link', { name: 'Before the autumn shows' }).click();
		for (const name of names) await page.getByRole('checkbox', { name, exact: true }).check();
		await page.getByRole('button', { name: 'Check the restore of 4 devices in the tray' }).click();
		for (const name of names) await expect(rowOf(page, name)).toContainText('to look at on its panel');
		await trayOf(page).getByRole('button', { name: 'All panels show what they must' }).click();
		await expect(goButton(page)).toHaveText(/^Ask and restore 4 devices/);
		await goButton(page).click();
		await expect(rowOf(page, 'Orrery')).toContainText('set its panel back', { timeout: 60_000 });
		const second = rowsOf(page).getByRole('button', { name: /restore: \d+ %/ });
		await expect(second).toHaveCount(1);
		const stopped = /^(.*?)\s*restore/.exec((await second.innerText()).replace(/\n/g, ' '))![1].trim();
		await trayOf(page).getByRole('button', { name: /^Stop/ }).click();
		const left = names.filter((name) => name !== 'Orrery' && name !== stopped);
		expect(left).toHaveLength(2);
		for (const name of left) {
			await rowOf(page, name).click();
			await expect(result(page)).toContainText(`${name} was not begun: nothing of it was touched.`);
			expect((await bench(page, name)).memory).toEqual(before.get(name));
			await expect(result(page).getByRole('button', { name: 'Try again' })).toBeVisible();
		}
		await rowOf(page, stopped).click();
		await expect(result(page)).toContainText('You cancelled it.');
	});

	test('the tray is kept on every page and over a reload; leaving in the middle asks first', async ({
		page
	}) => {
		test.setTimeout(90_000);
		const { id } = await addDevice(page, 'Vellbrook Orrery — synthesiser', 'Left Orrery');
		await page.goto(`/transfers/new?device=${id}`);
		await expect(goButton(page)).toHaveText(/^Back up Left Orrery/);
		await page.getByRole('link', { name: 'Wiring' }).click();
		await expect(page.getByRole('heading', { level: 1, name: 'Wiring' })).toBeVisible();
		await page.reload();
		await expect(trayOf(page)).toBeVisible();
		await start(page);
		await expect(page.getByText('Receiving')).toBeVisible();
		await page.getByRole('link', { name: 'Gear' }).first().click();
		await expect(page.getByRole('contentinfo')).toContainText('Backing up Left Orrery');
		const asked = page.waitForEvent('dialog');
		void page.close({ runBeforeUnload: true });
		const dialog = await asked;
		expect(dialog.type()).toBe('beforeunload');
		await dialog.dismiss();
		await expect(result(page)).toContainText('65 slots', { timeout: 30_000 });
	});
});
