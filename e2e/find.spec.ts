import { expect, test } from './studio';

test('a sound is found in spite of a slip, made a favourite, and put into a bank', async ({ page }) => {
	await page.goto('/sounds');
	const field = page.getByLabel('Find a sound by its name, or part of it');
	await field.fill('slow eclpise');
	await expect(page.getByRole('status').first()).toContainText(
		'No sound is called “slow eclpise”. Nearly so:'
	);
	const row = page
		.getByRole('row')
		.filter({ has: page.getByRole('link', { name: /^Slow Eclipse$/i }) })
		.first();
	const star = row.getByRole('button', { name: /^Favourite: Slow Eclipse/i });
	await star.click();
	await expect(star).toHaveAttribute('aria-pressed', 'true');
	await page.getByRole('link', { name: 'Favourites', exact: true }).click();
	await expect(page).toHaveURL(/favourites/);
	await page.reload();
	await expect(star).toHaveAttribute('aria-pressed', 'true');

	await row.getByRole('button', { name: /^Add to a bank/ }).click();
	const bank = row.getByRole('button', { name: 'Night of the comets' });
	await bank.click();
	const footer = page.getByRole('contentinfo');
	await expect(footer).toContainText(/is in Night of the comets, \d+/);
	await footer.getByRole('button', { name: 'Undo' }).click();
	await expect(footer).toContainText('out of Night of the comets again');

	// What is written on banks and versions is found, too.
	await page.goto('/sounds?q=comets');
	await page.getByRole('link', { name: 'Bank: Night of the comets' }).click();
	await expect(page).toHaveURL(/\/sounds\/banks\//);
});

test('a profile that is written for a device is given to it, and reads what was kept raw', async ({
	page
}) => {
	const profile = (await (await page.request.get('/api/v1/profiles/ternhill-umbra')).json()) as object;
	const [umbra] = (
		(await (await page.request.get('/api/v1/devices')).json()) as { id: string; name: string }[]
	).filter(({ name }) => name === 'Umbra hall');
	const versions = await page.request.get(`/gear/${umbra.id}/drawer`);
	expect(versions.ok()).toBe(true);
	const made = (await (
		await page.request.post('/api/v1/devices', { data: { name: 'Attic box' } })
	).json()) as { id: string };
	const found = (await (await page.request.get('/api/v1/find?q=a')).json()) as {
		found: { deviceId: string; versionId: string }[];
	};
	const { versionId } = found.found.find(({ deviceId }) => deviceId === umbra.id)!;
	const file = await page.request.get(`/api/v1/versions/${versionId}/export?as=syx`);
	await page.request.post('/api/v1/files/store', {
		multipart: {
			deviceId: made.id,
			note: 'from the attic',
			file: { name: 'attic.syx', mimeType: 'application/octet-stream', buffer: await file.body() }
		}
	});
	await page.goto(`/gear/${made.id}/profile`);
	await page.getByRole('link', { name: 'write one' }).click();
	await expect(page.getByText(/Message 1 of \d+/)).toBeVisible();

	// What is written and not saved is there after a reload; it can be discarded.
	await page.getByLabel('Open a file').setInputFiles({
		name: 'own.json',
		mimeType: 'application/json',
		buffer: Buffer.from(JSON.stringify({ ...profile, id: 'attic-umbra', model: 'Attic' }))
	});
	await expect(page.getByText('No fault.')).toBeVisible();
	await page.reload();
	await expect(page.getByRole('button', { name: 'Discard what is not saved' })).toBeVisible();
	await page.getByRole('button', { name: 'Save, and give it to Attic box' }).click();
	await expect(page.getByRole('contentinfo')).toContainText(
		'Attic box has it now; of what was kept raw, 1 version is read by it'
	);
	await page.goto(`/gear/${made.id}/drawer`);
	await expect(page.locator('button.cell').first()).toBeVisible();
	await page.request.delete(`/api/v1/devices/${made.id}`);
});
