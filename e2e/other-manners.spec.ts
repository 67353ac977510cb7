import { addDevice, backUp, expect, renameNextSlot, result, start, test } from './studio';

/**
 * Instruments that do not hand out whole banks: memory by address, a sound in ten messages, the edit buffer alone, packets
 * with handshakes, names in a table of their own. For the musician they are like any other.
 */
const MODELS: { model: string; name: string; renamed: string; wholeAgain: string }[] = [
	{
		model: 'Harbeck Cairn — sample player',
		name: 'Addressed Cairn',
		renamed: 'Tried Once',
		wholeAgain: '1 slot written and read back equal, 96 already there'
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
	},
	{
		model: 'Pellow Thrift — drum machine',
		name: 'Named-apart Thrift',
		renamed: 'Tried Once',
		wholeAgain: '1 slot written and read back equal, 23 already there'
	}
];

for (const { model, name, renamed, wholeAgain } of MODELS)
	test(`${model}: backed up, changed at the panel, and brought back, proved`, async ({ page }) => {
		test.setTimeout(120_000);
		const { id } = await addDevice(page, model, name);
		await backUp(page, id);
		await page.goto(`/gear/${id}/ports`);
		const panel = page.getByRole('group', { name: /^Front panel/ });
		const display = panel.getByRole('status', { name: 'Display' });
		const before = await renameNextSlot(page, renamed);

		await page.goto(`/gear/${id}/drawer`);
		await page.keyboard.press('r');
		await expect(page.getByRole('heading', { name: `Restore ${name}` })).toBeVisible();
		await start(page);
		await expect(result(page)).toContainText('Verified');
		await expect(result(page)).toContainText(wholeAgain);

		await page.goto(`/gear/${id}/ports`);
		await panel.getByRole('button', { name: 'Next slot' }).click();
		await expect(display).toContainText(before);
		expect(before).not.toBe(renamed);
	});

test('Corrie Sallow: a panel that is told as controllers is kept, compared in units, and brought back, proved', async ({
	page
}) => {
	test.setTimeout(120_000);
	const { id } = await addDevice(page, 'Corrie Sallow — string machine', 'Told Sallow');
	await page.goto(`/transfers/new?device=${id}`);
	const card = page.getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText('It never tells: Where its sliders stand');
	await start(page);
	await expect(result(page)).toContainText('Complete, twice in the same way');

	await page.goto(`/gear/${id}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	await panel.getByRole('combobox', { name: 'Parameter' }).selectOption({ label: 'Cutoff' });
	const cutoff = panel.getByRole('slider');
	const before = await cutoff.inputValue();
	await cutoff.fill(before === '100' ? '101' : '100');
	await page.goto(`/transfers/new?device=${id}`);
	await start(page);
	await expect(result(page)).toContainText('Complete, twice in the same way');

	await page.goto(`/gear/${id}/drawer`);
	await page.keyboard.press('c');
	await page.locator('button.cell').first().press('Enter');
	await expect(page.getByText(/Cutoff/).first()).toBeVisible();
	await expect(page.getByText(/Hz/).first()).toBeVisible();
	await page.getByRole('button', { name: /^Stop comparing/ }).click();

	// The version before, back on the instrument.
	const versions = (await (await page.request.get(`/api/v1/transfers?device=${id}`)).json()) as {
		versionId: string;
	}[];
	await page.goto(`/gear/${id}/drawer?v=${versions[1].versionId}`);
	await page.keyboard.press('r');
	await start(page);
	await expect(result(page)).toContainText('Verified');
	await page.goto(`/gear/${id}/ports`);
	await panel.getByRole('combobox', { name: 'Parameter' }).selectOption({ label: 'Cutoff' });
	await expect(panel.getByRole('slider')).toHaveValue(before);
});
