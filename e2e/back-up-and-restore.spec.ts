import { addDevice, backUp, expect, result, start, test } from './studio';

test('add, capture, edit at the panel, capture, compare, restore, verified', async ({ page }) => {
	const { id } = await addDevice(page, 'Vellbrook Orrery — synthesiser', 'Journey Orrery');
	await page.goto(`/gear/${id}/drawer`);
	await expect(page.getByText('This drawer is empty')).toBeVisible();
	await backUp(page, id);
	await expect(result(page)).toContainText('65 slots, every message whole, every checksum right.');

	// Edit one sound at the simulated panel.
	await page.goto(`/gear/${id}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	for (const _ of [1, 2, 3]) await panel.getByRole('button', { name: 'Next slot' }).click();
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('Program 14');
	await panel.getByLabel('Parameter').selectOption({ label: 'Filter cutoff' });
	await panel.getByRole('slider', { name: 'Filter cutoff' }).fill('1000');
	await expect(panel.getByText(/Hz/)).toBeVisible();
	const front = page
		.getByRole('navigation', { name: 'Cabinet' })
		.getByRole('link', { name: /^Journey Orrery/ });
	await expect(front).toContainText('Changed since it was read');
	await backUp(page, id);

	// Comparing shows exactly that edit.
	await page.goto(`/gear/${id}/drawer`);
	await page.keyboard.press('c');
	await expect(page.getByText('1 slot differs: 1 edited.')).toBeVisible();
	await page.locator('.slot.differs button.cell').click();
	const details = page.getByRole('region', { name: 'Changes of 14' });
	await expect(details.getByRole('row')).toHaveCount(2);
	await expect(details).toContainText('Filter cutoff');

	// Bring the first version back.
	await page.getByRole('slider', { name: 'Version that is open' }).press('Home');
	await expect(page.locator('.small-print', { hasText: '65 slots changed' })).toBeVisible();
	await page.keyboard.press('r');
	await expect(page.getByRole('heading', { name: 'Restore Journey Orrery' })).toBeVisible();
	await start(page);
	await expect(result(page)).toContainText('Verified');
	await expect(result(page)).toContainText('1 slot written and read back equal, 64 already there');

	// The instrument holds it: a fresh capture is the same as the first one.
	await backUp(page, id);
	await page.goto(`/gear/${id}/drawer`);
	await page.getByRole('slider', { name: 'Version that is open' }).press('End');
	const versions = page.locator('g.pile');
	await expect(versions).toHaveCount(5);
	await versions.first().click({ modifiers: ['Shift'] });
	await expect(page.getByText('Every slot is the same.')).toBeVisible();
});

test('restore chosen slots only', async ({ page }) => {
	const { id } = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Chosen Umbra');
	await backUp(page, id);
	await page.goto(`/gear/${id}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	const display = panel.getByRole('status', { name: 'Display' });
	for (const [n, name] of ['One', 'Two', 'Three'].entries()) {
		// What is typed before the panel has switched over belongs to the slot before.
		await expect(display).toContainText(`Program ${n + 1}`);
		await panel.getByRole('textbox', { name: 'Name' }).fill(name);
		await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
		await expect(panel.getByRole('status', { name: 'Display' })).toContainText(name);
		await panel.getByRole('button', { name: 'Next slot' }).click();
	}
	await page.goto(`/gear/${id}/drawer`);
	for (const slot of [2, 3])
		await page.getByRole('checkbox', { name: new RegExp(`^Choose ${slot} `) }).check();
	await page.getByRole('button', { name: /Restore 2 chosen slots/ }).click();
	// What is chosen and differs, and nothing else, is listed and written.
	const card = page.getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText(/2 of 2 slots\s+differ or may, 2 are written/);
	await card.getByText('The 2 slots that are written').click();
	await expect(card.getByRole('list', { name: 'Slots that are written' }).getByRole('listitem')).toHaveCount(
		2
	);
	await start(page);
	await expect(result(page)).toContainText('2 slots written and read back equal, 0 already there');
	// The other edit is still on the device.
	await page.goto(`/gear/${id}/ports`);
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('One');

	// What was overwritten is brought back from the history, after a reload too: checked in the tray like everything else.
	await page.reload();
	await page.getByRole('contentinfo').getByRole('button', { name: 'History' }).click();
	const history = page.getByRole('list', { name: 'What happened' });
	const back = history.getByRole('button', {
		name: /^Bring back what was there: Chosen Umbra holds exactly/
	});
	await back.click();
	await expect(card).toContainText(/2 of 2 slots\s+differ, 2 are written/);
	await start(page);
	await expect(result(page)).toContainText('2 slots written and read back equal, 0 already there');
	await page.goto(`/gear/${id}/ports`);
	for (const name of ['One', 'Two', 'Three']) {
		await expect(display).toContainText(name);
		await panel.getByRole('button', { name: 'Next slot' }).click();
	}
});

test('a pedal that only listens ends with a list to check by eye', async ({ page }) => {
	await page.goto('/');
	await page.getByRole('link', { name: 'Lantern delay' }).first().click();
	await expect(page.getByRole('slider', { name: 'Version that is open' })).toBeVisible();
	await page.keyboard.press('r');
	await start(page);
	await expect(result(page)).toContainText('Sent, check by eye');
	await expect(result(page).getByRole('heading', { name: 'Look at these on its display' })).toBeVisible();
	await expect(result(page).getByRole('listitem')).toHaveCount(20);
});
