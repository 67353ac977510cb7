import type { Page } from '@playwright/test';
import { backUp, device, dropFile, expect, flip, result, start, test } from './studio';

const memoryOf = (page: Page, model: string) => page.getByRole('region', { name: `In the ${model}` });
const closeTray = (page: Page) => page.getByRole('button', { name: 'Close the tray' }).first().press('Enter');

async function addTo(page: Page, map: string, model: string) {
	await page.goto('/control');
	await page.getByRole('link', { name: map }).click();
	const memory = memoryOf(page, model);
	if (!(await device(page, model)))
		await memory.getByRole('button', { name: `Add the ${model} to Gear` }).press('Enter');
	await expect(memory.getByRole('status')).toBeVisible();
	return memory;
}

test('a map goes to one setup of a desk whose dumps name none, is proved there, and a file without a number finds it', async ({
	page
}) => {
	const memory = await addTo(page, 'Star show, faders', 'Weir 9');
	await memory.getByLabel('Its setup').selectOption({ label: 'S03 · not known' });
	await memory.getByRole('button', { name: 'Send to S03' }).press('Enter');
	await page.getByRole('checkbox', { name: /nobody touches its panel/ }).press('Space');
	await page.keyboard.press('s');
	await expect(page.getByRole('heading', { name: 'Verified' })).toBeVisible({ timeout: 60_000 });
	await closeTray(page);
	await expect(memory.getByRole('status')).toHaveText(
		/S03 held all of this map that it can.* when it was read on the bench .*: read back after it was sent\./
	);
	// Only that setup was copied, written and read: of the others nothing is known.
	await memory.getByLabel('Its setup').selectOption({ label: 'S02 · not known' });
	await expect(memory.getByRole('status')).toHaveText(
		'What S02 holds is not known: it was never read. This map was in S03.'
	);
	// Saved by hand, the same dump says not which setup it is of: what was last seen tells, and it can be said otherwise.
	const { id } = await device(page, 'Weir 9');
	await page.goto(`/gear/${id}/drawer`);
	const href = await page.getByRole('link', { name: 'Export .syx' }).getAttribute('href');
	const whole = await (await page.request.get(href!)).body();
	await dropFile(page, 'desk.syx', whole.subarray(7));
	const dialog = page.getByRole('dialog', { name: 'Dump file “desk.syx”' });
	const place = dialog.getByRole('combobox', { name: /^Which setup is “.*”\? The file does not say\./ });
	await expect(place.locator('option:checked')).toHaveText('S03 · was last seen to hold exactly this');
	await place.selectOption({ label: 'S09' });
	await dialog.getByRole('button', { name: 'Keep it' }).press('Enter');
	await expect(page.getByRole('heading', { name: 'desk.syx', exact: true })).toBeVisible();
	await expect(page.getByText('S09', { exact: true }).first()).toBeVisible();
});

test('a map’s page asks how it stands to the controller once, and again when something changed', async ({
	page
}) => {
	const asked: string[] = [];
	page.on('request', (request) => {
		if (request.url().includes('/memory?')) asked.push(request.url());
	});
	const memory = await addTo(page, 'Star show, faders', 'Weir 9');
	await page.waitForLoadState('networkidle');
	const before = asked.length;
	expect(before).toBeLessThan(6);
	await memory.getByLabel('Its setup').selectOption({ index: 8 });
	await expect.poll(() => asked.at(-1)).toContain('slot=8');
	await page.waitForLoadState('networkidle');
	expect(asked.length - before).toBeLessThan(3);
});

test('a desk that takes no call from outside is called up by hand, and the transfer goes on by itself', async ({
	page
}) => {
	const memory = await addTo(page, 'Star show, faders', 'Weir 9');
	const { id } = await device(page, 'Weir 9');
	await page.goto(`/gear/${id}/ports`);
	await flip(page, /Call-up from outside/, false);
	await page.goto('/control');
	await page.getByRole('link', { name: 'Star show, faders' }).click();
	await memory.getByLabel('Its setup').selectOption({ label: 'S02 · not known' });
	await memory.getByRole('button', { name: 'Send to S02' }).press('Enter');
	await page.getByRole('checkbox', { name: /nobody touches its panel/ }).press('Space');
	await page.keyboard.press('s');
	await expect(page.getByText('Call up setup S02 on the Weir 9.')).toBeVisible();
	await page.getByRole('button', { name: 'Next slot' }).press('Enter');
	await expect(page.getByRole('heading', { name: 'Verified' })).toBeVisible({ timeout: 60_000 });
});

test('names on a display come back from a page that is taken over', async ({ page }) => {
	const memory = await addTo(page, 'Rack panel, hall', 'Larch 16');
	await memory.getByRole('button', { name: 'Back it up' }).press('Enter');
	await start(page);
	await expect(result(page)).toContainText('Complete, checksums right');
	await closeTray(page);
	await memory.getByLabel('Its page').selectOption({ index: 4 });
	await memory.getByRole('button', { name: 'Take over what P05 holds' }).press('Enter');
	await expect(memory.getByRole('status')).toContainText('P05 held exactly this page');
});

test('all layers of another setup are taken over into a map, and come back by undo', async ({ page }) => {
	const memory = await addTo(page, 'Star show, faders', 'Weir 9');
	const { id } = await device(page, 'Weir 9');
	const map = page.url();
	await page.goto(`/gear/${id}/ports`);
	await flip(page, /Call-up from outside/, true);
	await backUp(page, id);
	await page.goto(map);
	await memory.getByLabel('Its setup').selectOption({ index: 6 });
	await expect(memory.getByText('controls of S07 say something else')).toBeVisible();
	await memory.getByRole('button', { name: 'Take over what S07 holds' }).press('Enter');
	await expect(memory.getByRole('status')).toContainText('S07 held all of this map that it can');
	await expect(page.getByRole('button', { name: 'layer 4' })).toBeVisible();
	await page.getByRole('button', { name: /^Undo: All layers as S07 holds them/ }).press('Enter');
	await expect(memory.getByRole('button', { name: 'Take over what S07 holds' })).toBeVisible();
});
