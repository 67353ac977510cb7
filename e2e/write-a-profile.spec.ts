import { device, expect, result, start, test } from './studio';

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
	// What comes out of a file is tried on what is kept, before anything is saved; its report goes with it.
	const trial = page.getByRole('region', { name: 'What saving it would change' });
	await expect(trial).toContainText('The studio has no profile of that id');
	await expect(trial.getByRole('row', { name: /Attic box/ })).toContainText('read for the first time');
	await trial.getByRole('button', { name: 'Put this report into the profile' }).click();
	await expect(trial).toContainText(/Its file says that it was tried on .* on 1 dump/);
	await page.reload();
	await expect(page.getByRole('button', { name: 'Discard what is not saved' })).toBeVisible();
	await expect(trial).toContainText('Its file says that it was tried on');
	await page.getByRole('button', { name: 'Save, and give it to Attic box' }).click();
	await expect(page.getByRole('contentinfo')).toContainText(
		'Attic box has it now; of what was kept raw, 1 version is read by it'
	);
	await page.goto(`/gear/${made.id}/drawer`);
	await expect(page.locator('button.cell').first()).toBeVisible();
	await page.request.delete(`/api/v1/devices/${made.id}`);
});

test('a profile is changed in the workshop against a dump, and the dump read again', async ({ page }) => {
	await page.goto('/gear/workshop?profile=bessel-lantern');
	const { id } = await device(page, 'Lantern delay');
	const [version] = (await (await page.request.get(`/api/v1/transfers?device=${id}`)).json()) as {
		id: string;
	}[];
	expect(version).toBeTruthy();
	await page.getByLabel('Dump beside it').selectOption({ index: 1 });
	await expect(page.getByText('Read as “Preset dump”', { exact: false })).toBeVisible();
	const editor = page.getByRole('textbox', { name: 'Text of the profile' });
	await editor.click();
	await page.keyboard.press('Control+End');
	await page.keyboard.type('x');
	await expect(page.getByText('1 fault: ')).toBeVisible();
	await expect(page.getByText('The profile has faults')).toBeVisible();
	await page.keyboard.press('Backspace');
	await expect(page.getByText('No fault.')).toBeVisible();
	await page.getByRole('button', { name: 'Save as a new revision' }).click();
	await expect(page.getByText('revision 3 (written here)')).toBeVisible();
	await page.getByRole('button', { name: 'Read the dump again' }).click();
	await expect(page.getByText(/revision 3 \(written here\) reads 1 version/)).toBeVisible();
});

test('a device without a profile is listened to twice, kept raw, proved and sent back', async ({ page }) => {
	test.setTimeout(90_000);
	const added = await page.request.post('/api/v1/devices', {
		data: {
			name: 'Unknown drums',
			ports: [
				{ name: 'MIDI in', direction: 'in', connector: 'din' },
				{ name: 'MIDI out', direction: 'out', connector: 'din' }
			]
		}
	});
	const { id } = (await added.json()) as { id: string };
	const made = await page.request.post('/api/v1/bench/units', {
		data: { profileId: 'quillon-nadir', name: 'Strange drums' }
	});
	const unit = ((await made.json()) as { id: string }).id;
	expect((await page.request.put(`/api/v1/devices/${id}/plug`, { data: { unit } })).ok()).toBe(true);
	await page.goto(`/transfers/new?device=${id}`);
	await start(page);
	const press = page.getByRole('button', { name: 'DUMP ALL KITS' });
	await expect(page.getByRole('alert')).toContainText('Start the dump on the device’s panel');
	await press.click();
	await expect(page.getByRole('alert')).toContainText('Once more, to compare', { timeout: 20_000 });
	await press.click();
	await expect(result(page)).toBeVisible({ timeout: 20_000 });
	await expect(result(page)).toContainText('Complete, twice in the same way');
	await page.goto(`/gear/${id}/drawer`);
	await expect(page.getByText('Verified: came twice alike', { exact: true })).toBeVisible();
	await expect(page.getByText(/^\d+ raw messages$/)).toBeVisible();
	await page.keyboard.press('r');
	await expect(page.getByText('nothing can be read back, and nothing is proved')).toBeVisible();
	await start(page);
	await expect(result(page)).toContainText(/sent/i, { timeout: 20_000 });
	await page.request.delete(`/api/v1/devices/${id}`);
});
