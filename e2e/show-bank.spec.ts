import { addDevice, backUp, expect, result, start, test } from './studio';

test('a show bank is built by keyboard, sent and verified', async ({ page }) => {
	test.setTimeout(90_000);
	const { id } = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Show Umbra');
	await backUp(page, id);
	await page.goto('/sounds/banks');
	await page.getByLabel('Title').fill('Comet night');
	await page.getByLabel('For', { exact: true }).selectOption({ label: 'Show Umbra' });
	await page.getByRole('button', { name: 'Begin an empty bank' }).press('Enter');
	await expect(page.getByRole('heading', { level: 1, name: 'Sounds' })).toBeVisible();
	const search = page.getByLabel('Find a sound of this model');
	await search.focus();
	await expect(page.getByRole('list', { name: 'Sounds found' }).getByRole('button').first()).toBeVisible();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Enter');
	await page.keyboard.press('ArrowDown');
	await page.keyboard.press('ArrowDown');
	await page.keyboard.press('Enter');
	const slot = (n: number) => page.locator(`[data-slot="${n}"]`);
	await expect(page.getByText('3 slots of 50 used')).toBeVisible();
	await expect(slot(0)).toContainText('used twice');
	await slot(2).focus();
	await page.keyboard.press('F2');
	await page.keyboard.type('Opening');
	await page.keyboard.press('Enter');
	await expect(slot(2)).toContainText('Opening');
	await expect(slot(2)).toBeFocused();
	await page.keyboard.press('Alt+ArrowLeft');
	await expect(slot(1)).toContainText('Opening');
	await expect(slot(1)).toBeFocused();
	await page.keyboard.press('n');
	await page.keyboard.type('1 Halley');
	await page.keyboard.press('Enter');
	await expect(slot(1)).toBeFocused();
	await page.keyboard.press('o');
	await expect(slot(0)).toContainText('Opening');
	await page.keyboard.press('Control+z');
	await expect(slot(1)).toContainText('Opening');
	await page.keyboard.press('Control+y');
	await expect(slot(0)).toContainText('Opening');
	await slot(2).focus();
	await page.keyboard.press('Delete');
	await expect(page.getByText('2 slots of 50 used')).toBeVisible();
	await expect(page.getByText('Saved.')).toBeVisible();
	await page.reload();
	await expect(slot(0)).toContainText('Opening');
	await page.keyboard.press('r');
	const card = page.getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText('from the bank “Comet night”');
	await card.getByText(/that (is|are) written$/).click();
	await expect(card.getByRole('list', { name: 'Slots that are written' })).toContainText('Opening');
	await start(page);
	await expect(result(page)).toContainText('Verified', { timeout: 30_000 });
});

test('merge with a conflict', async ({ page }) => {
	test.setTimeout(90_000);
	const { id } = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Merge Umbra');
	await backUp(page, id);
	await page.goto(`/gear/${id}/drawer`);
	await page.getByRole('button', { name: 'Begin a bank with it' }).click();
	const slot = (n: number) => page.locator(`[data-slot="${n}"]`);
	for (const [n, name] of [
		[0, 'Mine'],
		[1, 'Also mine']
	] as const) {
		await slot(n).focus();
		await page.keyboard.press('F2');
		await page.keyboard.type(name);
		await page.keyboard.press('Enter');
		await expect(slot(n)).toContainText(name);
	}
	await expect(page.getByText('Saved.')).toBeVisible();
	const bank = page.url();
	// Meanwhile somebody renames the same sound, and another one, at the device.
	await page.goto(`/gear/${id}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	for (const [steps, name] of [
		[0, 'Theirs'],
		[2, 'Third']
	] as const) {
		for (let i = 0; i < steps; i++) await panel.getByRole('button', { name: 'Next slot' }).click();
		// What is typed before the panel has switched over belongs to the slot before.
		await expect(panel.getByRole('status', { name: 'Display' })).toContainText(`Program ${steps + 1}`);
		await panel.getByRole('textbox', { name: 'Name' }).fill(name);
		await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
		await expect(panel.getByRole('status', { name: 'Display' })).toContainText(name);
	}
	await backUp(page, id);
	await page.goto(bank);
	await page.getByRole('link', { name: 'Merge with the device' }).click();
	await expect(page.getByText('1 slot to decide.')).toBeVisible();
	await expect(page.getByRole('button', { name: 'Merge', exact: true })).toBeDisabled();
	await page.getByRole('radio', { name: 'Take the device’s in slot 1' }).check();
	await page.getByRole('button', { name: 'Merge', exact: true }).click();
	await expect(slot(0)).toContainText('Theirs');
	await expect(slot(1)).toContainText('Also mine');
	await expect(slot(2)).toContainText('Third');
});

test('a sound is dragged from the search to its place in a bank', async ({ page }) => {
	await page.goto('/sounds/banks');
	await page.getByRole('link', { name: 'Night of the comets' }).click();
	const list = page.getByRole('list', { name: 'Sounds found' });
	const first = list.getByRole('button').first();
	await expect(first).toBeVisible();
	const name = (await first.locator('.plate').innerText()).trim();
	const used = Number(/(\d+) slots of/.exec(await page.getByText(/slots of 64 used/).innerText())![1]);
	const [from, to] = [await first.boundingBox(), await page.locator('[data-slot="5"]').boundingBox()];
	await page.mouse.move(from!.x + 30, from!.y + 12);
	await page.mouse.down();
	await page.mouse.move(from!.x + 60, from!.y + 20, { steps: 4 });
	await page.mouse.move(to!.x + 20, to!.y + 12, { steps: 12 });
	await page.waitForTimeout(400);
	await page.mouse.up();
	await expect(page.getByText(`${used + 1} slots of 64 used`)).toBeVisible();
	await expect(page.locator('[data-slot]').filter({ hasText: name }).first()).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.getByText(`${used} slots of 64 used`)).toBeVisible();
	await expect(page.getByText('Saved.')).toBeVisible();
});
