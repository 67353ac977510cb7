import { readFileSync, writeFileSync } from 'node:fs';
import { addDevice, backUp, device, expect, goButton, result, start, test, trayOf } from './studio';

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
	const row = (name: string) => rows.getByRole('button', { name: new RegExp(`^${name}`) });
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

test('bundle out and in, check, and a copy', async ({ page }, info) => {
	await page.goto('/care');
	const download = page.waitForEvent('download');
	await page.getByRole('link', { name: 'All drawers as a bundle' }).click();
	const file = info.outputPath('bundle.zip');
	await (await download).saveAs(file);
	await page.getByLabel('Import a bundle').setInputFiles(file);
	await expect(
		page.getByText(/^0 versions taken over, 0 devices added, \d+ were here already\.$/)
	).toBeVisible();
	const broken = readFileSync(file);
	const damaged = info.outputPath('damaged.zip');
	writeFileSync(damaged, broken.subarray(0, 5000));
	await page.getByLabel('Import a bundle').setInputFiles(damaged);
	await expect(page.getByText('The file is no .zip archive, or it is damaged.')).toBeVisible();
	await page.getByRole('button', { name: 'Check everything' }).click();
	await expect(page.getByText(/Everything is whole: \d+/)).toBeVisible({ timeout: 20_000 });
	await page.getByRole('button', { name: 'See what could go' }).click();
	await expect(page.getByText(/would go|all \d+ versions stay/)).toBeVisible();
});

test('the life of a sound, and look-alikes', async ({ page }) => {
	await page.goto('/sounds?q=slow+eclipse');
	await page.getByRole('link', { name: 'Slow Eclipse' }).first().click();
	await expect(page.getByRole('heading', { name: 'Its life' })).toBeVisible();
	await expect(page.getByText(/first seen/)).toBeVisible();
	await page
		.getByRole('button', { name: /^Go back to this/ })
		.first()
		.click();
	await page.getByLabel('Slot', { exact: true }).selectOption({ index: 2 });
	await page.getByRole('button', { name: 'Look at it first' }).click();
	await expect(page.getByRole('region', { name: 'Before it starts' })).toContainText('from one sound');
	await page.goto('/sounds/look-alikes');
	await expect(page.getByText(/families of look-alikes|family of look-alikes/)).toBeVisible();
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

test('samples and universal messages on the bench', async ({ page }) => {
	await page.goto('/transfers/universal');
	await page.getByRole('button', { name: 'Receive it' }).click();
	await expect(page.getByText(/packets received, 0 sent again/)).toBeVisible({ timeout: 20_000 });
	await page.getByRole('button', { name: 'General MIDI on' }).click();
	await expect(page.getByText('Sent: General MIDI on, all devices.')).toBeVisible();
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
