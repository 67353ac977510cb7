import { expect, test } from './studio';

test('the hosted load is found, power planned and proved, its list ticked, and all of it taken back', async ({
	page
}) => {
	await page.goto('/');
	await page.keyboard.press('2');
	await page.getByRole('link', { name: 'Power', exact: true }).press('Enter');
	await expect(page.getByRole('complementary', { name: 'Cautions' })).toContainText(
		'The maker’s label decides'
	);
	const rule = (id: string) => page.locator(`[data-rule="${id}"]`);
	await expect(rule('hosted-load')).toContainText(
		'Ferryman host box carries Tiles (180 mA) besides its own 90 mA; Feed 8 Out 5 gives 200 mA.'
	);
	await expect(rule('read-the-label')).toContainText('polarity of Old tin phaser; mA of Old tin phaser');
	await page.getByLabel('What is wrong with it?').selectOption('It restarts again and again');
	await page.getByLabel('With', { exact: true }).selectOption('Tiles');
	await expect(page.getByText('Unplug the hosted device: does the box stay on?')).toBeVisible();

	await page.getByRole('button', { name: 'Plan what feeds what' }).press('Enter');
	const list = page.getByRole('list', { name: 'What is to be done' });
	const move = list.getByRole('checkbox', {
		name: 'Move Ferryman host box from Feed 8 Out 5 to Feed 3 Out 1.'
	});
	await expect(move).toBeVisible({ timeout: 30_000 });
	await expect(page.getByText('everything else is fed (proved); 1 plug moved (proved)')).toBeVisible();
	// What nobody has read stays, and is said not to be part of it.
	await expect(
		page.getByText('Old tin phaser, Ferry 2 stay as they hang, and are no part of the plan')
	).toBeVisible();
	await move.press('Space');
	await expect(rule('hosted-load')).toHaveCount(0);
	await expect(move).toBeChecked();
	await page.reload();
	await expect(move).toBeChecked();
	await page.getByRole('button', { name: /^Undo: Move Ferryman/ }).press('Enter');
	await expect(rule('hosted-load')).toHaveCount(1);
	await expect(move).not.toBeChecked();

	// The label is read: it is part of the plan then, which is older than that.
	await page.locator('summary', { hasText: 'Old tin phaser' }).press('Enter');
	const label = page.getByRole('group', { name: 'Label of Old tin phaser' });
	await label.getByLabel('mA running').fill('12.5');
	await label.getByLabel('mA running').press('Tab');
	await expect(rule('read-the-label')).toContainText('mA of Old tin phaser');
	await label.getByLabel('mA running').fill('350');
	await label.getByLabel('mA running').press('Tab');
	await label.getByLabel('Polarity').selectOption('centre positive');
	await expect(rule('read-the-label')).toHaveCount(0);
	await expect(rule('polarity')).toContainText('Wrong polarity can destroy it.');
	await expect(page.getByText('Labels or supplies changed since: plan anew.')).toBeVisible();
	await page.getByRole('button', { name: 'Plan anew', exact: true }).press('Enter');
	await expect(page.getByText('9 V DC, centre positive, ≥ 420 mA, for Old tin phaser.')).toBeVisible({
		timeout: 30_000
	});
});

test('a supply and a pedal of one’s own: nothing is assumed until the label is noted', async ({ page }) => {
	await page.goto('/wiring/power');
	const draws = page.getByRole('form', { name: 'Add what draws' });
	await draws.getByLabel('What draws').fill('Umbra hall');
	await draws.getByRole('button').press('Enter');
	await expect(page.getByText('Nothing feeds Umbra hall (? V AC or DC?, polarity?, ? mA).')).toBeVisible();
	const feeds = page.getByRole('form', { name: 'Add what feeds' });
	await feeds.getByLabel('What feeds').fill('Loft cell');
	await feeds.getByLabel('is a').selectOption('battery');
	await feeds.getByRole('button').press('Enter');
	await page.getByText('Outputs and label of Loft cell').press('Enter');
	const outputs = page.getByRole('form', { name: 'Outputs for Loft cell' });
	await outputs.getByLabel('How many').fill('2');
	await outputs.getByLabel('mA each').fill('800');
	await outputs.getByRole('button', { name: 'Add them' }).press('Enter');
	await page.getByLabel('Umbra hall hangs on').selectOption('Loft cell Out 1');
	await expect(page.getByText(/Not known: volts of Umbra hall; .*mAh of Loft cell/)).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.getByText(/Nothing feeds Umbra hall/)).toBeVisible();

	// A second output is joined to it by a cable: what both give together is not made up.
	await page.keyboard.press('Control+Shift+z');
	await page.getByLabel('Cable of Umbra hall').selectOption('doubling cable');
	await page.getByLabel('Second plug of Umbra hall').selectOption('Loft cell Out 2');
	await expect(page.locator('[data-rule="doubling"]')).toContainText(
		'Umbra hall hangs on a doubling cable at Loft cell Out 1 and Loft cell Out 2'
	);
	await expect(page.getByText('Umbra hall · the second plug of its doubling cable')).toBeVisible();
	await page.getByLabel('Cable of Umbra hall').selectOption('reversing cable');
	await expect(page.getByText('the second plug')).toHaveCount(0);

	// An adapter that is the wrong way round, and a host mode that is off.
	await page.locator('summary', { hasText: 'Ferryman host box' }).press('Enter');
	const box = page.getByRole('group', { name: 'Label of Ferryman host box' });
	await box
		.getByLabel('Adapter between Ferryman host box and Tiles')
		.selectOption('adapter, host end at the device');
	await expect(page.locator('[data-rule="adapter-end"]')).toContainText('nothing is fed, and nothing speaks');
	await page
		.locator('[data-rule="adapter-end"]')
		.getByRole('button', { name: 'Turn it round' })
		.press('Enter');
	await expect(page.locator('[data-rule="adapter-end"]')).toHaveCount(0);
	await expect(box.getByLabel('Adapter between Ferryman host box and Tiles')).toHaveValue('host end');
	await box.getByLabel('Host mode of Ferryman host box for Tiles').selectOption('host mode off');
	await expect(page.locator('[data-rule="host-mode"]')).toContainText('Tiles gets nothing from it');
});
