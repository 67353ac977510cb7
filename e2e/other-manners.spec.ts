import { addDevice, backUp, expect, result, start, test } from './studio';

/**
 * Instruments that do not hand out whole banks: memory by address, a sound in ten messages, the edit buffer alone, packets
 * with handshakes. For the musician they are like any other.
 */
const MODELS: { model: string; name: string; renamed: string; wholeAgain: string }[] = [
	{
		model: 'Harbeck Cairn — sample player',
		name: 'Addressed Cairn',
		renamed: 'Tried Once',
		wholeAgain: '1 slot written and read back equal, 64 already there'
	},
	{
		model: 'Ostler Fathom — percussion synthesiser',
		name: 'Ten-message Fathom',
		renamed: 'TRIED ONCE',
		wholeAgain: '1 slot written and read back equal, 31 already there'
	},
	{
		model: 'Merrow Skiff — synthesiser',
		name: 'Edit-buffer Skiff',
		renamed: 'Tried',
		wholeAgain: '1 slot written and read back equal, 63 already there'
	},
	{
		model: 'Keld Tally — sequencer',
		name: 'Packet Tally',
		renamed: 'Tried Once',
		wholeAgain: '1 slot written and read back equal, 39 already there'
	}
];

for (const { model, name, renamed, wholeAgain } of MODELS)
	test(`${model}: backed up, changed at the panel, and brought back, proved`, async ({ page }) => {
		test.setTimeout(120_000);
		const { id } = await addDevice(page, model, name);
		await backUp(page, id);
		await page.goto(`/gear/${id}/ports`);
		const panel = page.getByRole('group', { name: /^Front panel/ });
		await panel.getByRole('button', { name: 'Next slot' }).click();
		const before = await panel.getByRole('textbox', { name: 'Name' }).inputValue();
		await panel.getByRole('textbox', { name: 'Name' }).fill(renamed);
		await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
		await expect(panel.getByRole('status', { name: 'Display' })).toContainText(renamed);

		await page.goto(`/gear/${id}/drawer`);
		await page.keyboard.press('r');
		await expect(page.getByRole('heading', { name: `Restore ${name}` })).toBeVisible();
		await start(page);
		await expect(result(page)).toContainText('Verified');
		await expect(result(page)).toContainText(wholeAgain);

		await page.goto(`/gear/${id}/ports`);
		await page
			.getByRole('group', { name: /^Front panel/ })
			.getByRole('button', { name: 'Next slot' })
			.click();
		await expect(page.getByRole('status', { name: 'Display' })).not.toContainText(renamed);
		expect(before).not.toBe(renamed);
	});
