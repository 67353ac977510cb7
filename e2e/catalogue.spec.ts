import { device, expect, test } from './studio';

test('forms say what is wrong and where, and lose nothing', async ({ page }) => {
	await page.goto('/gear/new');
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByText('Choose its model.')).toBeVisible();
	await expect(page.getByText('Give the device a name.')).toBeVisible();
	await page.getByRole('button', { name: 'Any other device…' }).click();
	const form = page.locator('form').last();
	await form.getByLabel('Your name for it').fill('A name of exactly forty characters, yes!');
	await form.getByLabel('Receive channel (1–16)').fill('17');
	await form.getByRole('button', { name: 'Add a port' }).click();
	await form.getByRole('button', { name: 'Add this device' }).click();
	await expect(form.getByText('Channels are 1 to 16.')).toBeVisible();
	await expect(form.getByText('Give the port the name that is printed beside it.')).toBeVisible();
	await form.getByLabel('Receive channel (1–16)').fill('16');
	await form.getByLabel('Name of port 1').fill('MIDI in');
	await form.getByRole('button', { name: 'Add this device' }).click();
	await expect(
		page.getByRole('heading', { level: 1, name: 'A name of exactly forty characters, yes!' })
	).toBeVisible();
	await expect(page.getByRole('definition').filter({ hasText: /^16$/ })).toBeVisible();
});

test('archive and undo, duplicate, note', async ({ page }) => {
	const { id } = await device(page, 'Tiles');
	await page.goto(`/gear/${id}`);
	await page.getByRole('button', { name: 'Archive' }).click();
	await expect(page.getByText('Tiles is archived; its drawer is kept.')).toBeVisible();
	await expect(
		page.getByRole('navigation', { name: 'Cabinet' }).getByRole('link', { name: /^Tiles/ })
	).toHaveCount(0);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(
		page.getByRole('navigation', { name: 'Cabinet' }).getByRole('link', { name: /^Tiles/ })
	).toHaveCount(1);
	await page.goto(`/gear/${id}`);
	await page.getByRole('button', { name: 'Duplicate' }).click();
	await expect(page.getByLabel('Your name for it')).toHaveValue('Tiles 2');
	await page.goto(`/gear/${id}/notes`);
	await page.getByLabel('What you would write').fill('Pad 7 sticks.');
	await page.getByRole('button', { name: 'Save the note' }).click();
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	await page.reload();
	await expect(page.getByLabel('What you would write')).toHaveValue('Pad 7 sticks.');
});

test('search, sort and filter the table', async ({ page }) => {
	await page.goto('/gear');
	const rows = page.locator('tbody tr:has(td)');
	await page.getByLabel('Search the gear').fill('parallax');
	await expect(rows).toHaveCount(
		2 +
			(await page
				.locator('tbody')
				.getByText(/Interrupted|Pulled/)
				.count())
	);
	await page.getByLabel('Search the gear').fill('');
	await page.getByLabel('Group by place').uncheck();
	await page.getByRole('button', { name: /^Channel/ }).click();
	await expect(page.getByRole('columnheader', { name: /Channel/ })).toHaveAttribute(
		'aria-sort',
		/ascending|descending/
	);
	await page.getByLabel('State', { exact: true }).selectOption({ label: 'At risk' });
	for (const text of await rows.allInnerTexts())
		expect(text).toMatch(/Changed|Never|Nothing kept|No verified/);
});

test('CSV in and out, with faults row by row', async ({ page }) => {
	await page.goto('/gear/import');
	const csv =
		'Name;Maker;Channel;Colour\nTide Box;Vellbrook;3;red\n;Nobody;4;blue\nOrrery;Vellbrook;1;\nBad One;X;99;\n';
	await page
		.getByLabel('CSV file')
		.setInputFiles({ name: 'gear.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
	await expect(page.getByText('Colour is not understood and left out')).toBeVisible();
	await expect(page.getByText('Name: Give the device a name.')).toBeVisible();
	await expect(page.getByText('Channel: Channels are 1 to 16.')).toBeVisible();
	await expect(page.getByText('A device of this name is in the catalogue already')).toBeVisible();
	await page.getByRole('button', { name: 'Add 1 device' }).click();
	await expect(page.getByText('1 device added.')).toBeVisible();
	const text = await (await page.request.get('/api/v1/catalogue/export')).text();
	expect(text).toContain('Tide Box,Vellbrook');
	// What is exported can be read again, column by column.
	const preview = await (await page.request.post('/api/v1/catalogue/preview', { data: { text } })).json();
	expect(preview.columns.every((column: { field: string | null }) => column.field)).toBe(true);
	expect(
		preview.rows.every((row: { faults: unknown[]; known: boolean }) => row.faults.length === 0 && row.known)
	).toBe(true);
});

test('what another window changed meanwhile is told, and not overwritten', async ({ page }) => {
	const made = await page.request.post('/api/v1/devices', { data: { name: 'Two windows', place: 'rack' } });
	const { id } = (await made.json()) as { id: string };
	const elsewhere = async (facts: object) => {
		const now = (await (await page.request.get(`/api/v1/devices/${id}`)).json()) as object;
		expect((await page.request.put(`/api/v1/devices/${id}`, { data: { ...now, ...facts } })).ok()).toBe(true);
	};
	const noted = async () =>
		(await (await page.request.get(`/api/v1/devices/${id}`)).json()) as Record<string, unknown>;
	await page.goto(`/gear/${id}/edit`);
	await page.getByLabel('Place').fill('desk');
	await elsewhere({ place: 'attic', serial: '0042' });
	await page.getByRole('button', { name: 'Save' }).click();
	await expect(page.getByRole('alert')).toContainText(
		'Meanwhile somebody changed “place” to “attic”. Nothing was overwritten.'
	);
	expect(await noted()).toMatchObject({ place: 'attic', serial: '0042' });
	// What they changed alone is here now, and what was typed still stands.
	await expect(page.getByLabel('Serial')).toHaveValue('0042');
	await expect(page.getByLabel('Place')).toHaveValue('desk');
	await page.getByRole('button', { name: 'Save' }).click();
	await expect(page).toHaveURL(new RegExp(`/gear/${id}$`));
	expect(await noted()).toMatchObject({ place: 'desk', serial: '0042' });

	await page.goto(`/gear/${id}/notes`);
	await page.getByLabel('What you would write on masking tape').fill('Mine');
	await elsewhere({ notes: 'Theirs' });
	await page.getByRole('button', { name: 'Save the note' }).click();
	await expect(page.getByRole('alert')).toContainText('Theirs');
	expect(await noted()).toMatchObject({ notes: 'Theirs' });
	await page.getByRole('button', { name: 'Save the note' }).click();
	// Not “Not saved yet”.
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	expect(await noted()).toMatchObject({ notes: 'Mine' });
	await page.request.delete(`/api/v1/devices/${id}`);
});
