import type { Page } from '@playwright/test';
import { device, expect, firmwareRun, test } from './studio';

/** The panel of a unit on the bench, where faults are set and repaired. */
async function onBench(page: Page, unit: string) {
	await page.goto('/transfers/bench');
	await page
		.getByRole('region', { name: 'Units' })
		.getByRole('button', { name: new RegExp(`^${unit}`) })
		.press('Enter');
	return page.getByRole('group', { name: `Front panel of ${unit}` });
}

test('a firmware update is cut in the middle: how it stands is said, and the way back brings everything home', async ({
	page
}) => {
	test.setTimeout(90_000);
	const west = await device(page, 'Parallax west');
	await page.goto('/');
	await expect(page.getByRole('region', { name: 'Due' })).toContainText('Parallax west: Update to 1.07');
	await page.keyboard.press('6');
	await page.getByRole('link', { name: 'Service book', exact: true }).press('Enter');
	await page.getByRole('button', { name: 'Begin its procedure: Update to 1.07' }).press('Enter');
	await page.getByRole('button', { name: 'Take parallax-rack-1.07.syx' }).press('Enter');

	// The plate says that it is the other gear: the gate does not hold, whatever is pressed.
	const step = page.locator('[aria-current="step"]');
	await page.getByRole('button', { name: 'Parallax D (desktop)' }).press('Enter');
	await expect(step).toContainText('The file is for “Parallax (rack)”, and this is “Parallax D (desktop)”.');
	await step.getByRole('button', { name: 'Look again' }).press('Enter');
	await expect(page.getByRole('alert')).toContainText('The file is for “Parallax (rack)”');
	await page.getByRole('button', { name: 'Go back to Which gear is it?' }).press('Enter');
	await page.getByRole('button', { name: 'Undo: that was a slip' }).press('Enter');
	await expect(step).toContainText('The gate does not hold');
	await page.getByRole('button', { name: 'Go back to Which gear is it?' }).press('Enter');
	await page.getByRole('button', { name: 'Parallax (rack)' }).press('Enter');

	// The backup is the tray's; that it is there is seen by itself, and the gate behind it holds.
	await page.getByRole('button', { name: 'Back it up now' }).press('Enter');
	await expect(page.getByRole('button', { name: /^Back up Parallax west/ })).toBeEnabled();
	await page.keyboard.press('s');
	await step.getByRole('button', { name: 'Ask it now' }).press('Enter');
	await expect(page.locator('[data-step="kept"]')).toContainText('held');
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await expect(step).toContainText('Hold WRITE and PAGE');

	// Not in update mode, and it says so; then it is.
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await step.getByRole('button', { name: 'Ask its loader' }).press('Enter');
	await expect(step).toContainText('It does not say that it is in update mode.');
	const panel = page.getByRole('group', { name: 'Front panel of Parallax west' });
	await panel.getByRole('button', { name: 'Off, and on in update mode' }).press('Enter');
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('UPDATE MODE');
	await step.getByRole('button', { name: 'Ask its loader' }).press('Enter');
	await expect(step).toContainText('From now on do not touch anything');
	const run = page.url();

	const bench = await onBench(page, 'Parallax west');
	await bench.getByLabel('Add a fault').selectOption({ label: 'Supply fails mid-way for a moment' });
	await bench.getByLabel('On the way').selectOption('to device');
	await bench.getByRole('button', { name: 'Add', exact: true }).press('Enter');
	await expect(bench.getByRole('button', { name: 'Repair: power cut' })).toBeVisible();
	await page.goto(run);
	await step.getByRole('button', { name: 'Send parallax-rack-1.07.syx, version 1.07' }).press('Enter');
	await expect(step).toContainText(
		'Its loader says that the old system is gone and the new one is not there.',
		{
			timeout: 20_000
		}
	);
	await expect(step).toContainText('The way back: Leave it switched on, or bring it into update mode again');
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('NO SYSTEM: UPDATE');

	// Today has it first of all, with its way on; the fault of the bench is repaired meanwhile.
	await onBench(page, 'Parallax west');
	await bench.getByRole('button', { name: 'Repair: power cut' }).press('Enter');
	await expect(bench.getByRole('button', { name: 'Repair: power cut' })).toHaveCount(0);
	await page.goto('/');
	const first = page.getByRole('region', { name: 'What is at risk' }).getByRole('listitem').first();
	await expect(first).toContainText('the old system is gone');
	await first.getByRole('link', { name: 'Go on: Parallax west' }).press('Enter');
	await expect(page).toHaveURL(run);

	await step.getByRole('button', { name: /^Send parallax-rack/ }).press('Enter');
	await expect(step).toContainText('Once the display says DONE', { timeout: 20_000 });
	await panel.getByRole('button', { name: 'Power off and on' }).press('Enter');
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('Program');
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await step.getByRole('button', { name: 'Ask it now' }).press('Enter');
	await expect(page.locator('[data-step="version"]')).toContainText('held');
	await step.getByRole('button', { name: 'Put them back now' }).press('Enter');
	await page.getByRole('checkbox', { name: 'Memory protect is off (Utility, page 1).' }).press('Space');
	await page.keyboard.press('s');
	await expect(step).toContainText('Play a sound that you know', { timeout: 20_000 });
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await expect(page.getByText('Every step has ended.')).toBeVisible();
	await expect(page.getByText('Its loader says that the old system is gone')).toBeVisible();

	// What was due is done, and the fault that was seen with the version before is asked about again.
	await page.goto(`/care/service?device=${west.id}`);
	await expect(page.getByRole('row', { name: /Firmware Update to 1\.07 \(1\.07\)/ })).toBeVisible();
	await expect(page.getByRole('region', { name: 'What is due' })).toContainText('Nothing is noted.');
	await expect(page.getByText('It tells 1.07 now. Is the fault still there?')).toBeVisible();
	await page.getByRole('button', { name: /^It is gone/ }).press('Enter');
	await expect(page.getByText(/^Gone since .* with 1\.07$/)).toBeVisible();
	await page.getByRole('button', { name: /^Undo: Gone/ }).press('Enter');
	await expect(page.getByText('It tells 1.07 now. Is the fault still there?')).toBeVisible();
});

test.describe('a page that goes away', () => {
	test.use({ speed: 0.2 });

	test('in the midst of sending leaves the run saying so, and its loader is asked', async ({ page }) => {
		test.setTimeout(90_000);
		const east = await device(page, 'Parallax east');
		const west = await device(page, 'Parallax west');
		const [{ id: kept }] = await (await page.request.get(`/api/v1/devices/${west.id}/files`)).json();
		const file = await (await page.request.get(`/api/v1/kept-files/${kept}`)).body();
		const run = await firmwareRun(page, east.id, file);
		await run.act({ do: 'done', step: 'enter' });
		await run.act({ do: 'begin', step: 'mode' });
		await run.act({ do: 'done', step: 'mode' });

		await page.goto(`/care/procedures/${run.id}`);
		const panel = page.getByRole('group', { name: 'Front panel of Parallax east' });
		await panel.getByRole('button', { name: 'Off, and on in update mode' }).press('Enter');
		await expect(panel.getByRole('status', { name: 'Display' })).toContainText('UPDATE MODE');
		const step = page.locator('[aria-current="step"]');
		await step.getByRole('button', { name: /^Send p\.syx/ }).press('Enter');
		await expect(step).toContainText(/[4-9] of 42 messages taken/, { timeout: 20_000 });
		page.on('dialog', (dialog) => void dialog.accept());
		await page.reload();
		await expect(step).toContainText('nobody noted how it ended');
		// Another press cannot send it as if nothing had been.
		await expect(step.getByRole('button', { name: /^Send/ })).toHaveCount(0);
		await step.getByRole('button', { name: 'Ask its loader how it stands' }).press('Enter');
		await expect(step).toContainText(
			'The page went away in the midst. Its loader is in update mode; it has no system.',
			{
				timeout: 20_000
			}
		);
		await expect(step.getByRole('button', { name: /^Send p\.syx/ })).toBeEnabled();
	});
});

test('the studio is switched on: what answers is ticked by itself, everything else by Enter; then off', async ({
	page
}) => {
	await page.goto('/care');
	await page.getByRole('link', { name: 'On and off', exact: true }).press('Enter');
	await page.getByRole('button', { name: 'Switch it on' }).press('Enter');
	const items = page.getByRole('list', { name: 'What is ticked' });
	await expect(items.getByRole('checkbox').first()).toBeVisible();
	const total = await items.getByRole('checkbox').count();
	await expect(items.getByRole('listitem').last()).toContainText('Dome speakers');
	await page.getByRole('button', { name: 'Ask who is on, and send' }).press('Enter');
	await expect(items.getByText('sent, look at the display')).toBeVisible({ timeout: 20_000 });
	for (const name of ['Orrery', 'Parallax west', 'Umbra hall'])
		await expect(items.getByRole('listitem').filter({ hasText: `${name}: Switch it on` })).toContainText(
			'it answered'
		);
	await expect(page.getByText(/^Sending to|^Asking/)).toHaveCount(0);
	const ticked = async () => items.getByRole('checkbox', { checked: true }).count();
	const before = await ticked();
	expect(before).toBeGreaterThan(3);

	// Out of turn is what a hand did: it is noted, and can be taken back.
	const speakers = items.getByRole('checkbox', { name: /^Dome speakers/ });
	await speakers.press('Space');
	await expect(items.getByRole('listitem').last()).toContainText('ticked by hand');
	await expect(items.getByRole('listitem').last()).toContainText('· before');
	await speakers.press('Space');
	await expect(speakers).not.toBeChecked();
	await expect(items.getByRole('listitem').last()).not.toContainText('ticked by hand');
	await page.reload();
	expect(await ticked()).toBe(before);

	const done = page.getByRole('button', { name: 'It is done' });
	await done.focus();
	for (let n = before; n < total; n++) {
		await page.keyboard.press('Enter');
		await expect(items.getByRole('checkbox', { checked: true })).toHaveCount(n + 1);
		if (n + 1 < total) await expect(done).toBeFocused();
	}
	await expect(page.getByText('Switching the studio on: everything is ticked')).toBeVisible();
	await page.getByRole('button', { name: 'Close the list' }).press('Enter');
	await expect(page.getByText(`${total} of ${total} ticked`)).toBeVisible();

	// Off: what would be lost first, then what is loud.
	await page.getByRole('button', { name: 'Switch it off' }).press('Enter');
	await expect(items.getByRole('listitem').nth(1)).toContainText('Back it up first, or leave it');
	const offs = (await items.getByRole('listitem').allTextContents()).filter((text) =>
		text.includes('Switch it off')
	);
	expect(offs[0]).toContain('Dome speakers');
	await page.getByRole('button', { name: 'Leave it as it is' }).press('Enter');
	await expect(page.getByRole('button', { name: 'Switch it on' })).toBeVisible();
	await page.emulateMedia({ media: 'print' });
	await expect(page.getByRole('list', { name: 'Order of switching on' })).toBeVisible();
	await expect(page.getByRole('button', { name: 'Switch it on' })).toBeHidden();
});

test('something of one’s own on the power-on list, the walk turned round, and both taken back', async ({
	page
}) => {
	await page.goto('/care/switching');
	const list = page.getByRole('list', { name: 'Order of switching on' });
	const form = page.getByRole('form', { name: 'Add something to the list' });
	await form.getByLabel('Device').selectOption({ label: 'Umbra hall' });
	await form.getByLabel('What is to be so').fill('Wet level 40 %');
	await form.getByRole('button', { name: 'Add it' }).press('Enter');
	await expect(list.getByText('Wet level 40 %')).toBeVisible();
	// A message that is none is refused in words, and what was typed stays.
	await form.getByLabel('each time').selectOption('send');
	await form.getByLabel('What is to be so').fill('Room 3');
	await form.getByLabel('Messages in hexadecimal, one a line').fill('C3 2');
	await form.getByRole('button', { name: 'Add it' }).press('Enter');
	await expect(page.getByRole('alert')).toContainText('Write bytes as in “C0 0B”.');
	await expect(form.getByLabel('What is to be so')).toHaveValue('Room 3');
	const places = list.getByRole('listitem', { name: /^Place: / });
	await expect(places.first()).toHaveText('Floor');
	await page.getByRole('button', { name: 'Floor later' }).press('Enter');
	await expect(places.first()).toHaveText('Rack');
	await page.keyboard.press('Control+z');
	await expect(places.first()).toHaveText('Floor');
	await page.keyboard.press('Control+z');
	await expect(list.getByText('Wet level 40 %')).toHaveCount(0);
});

test('the service book: noted, due, done; a worn key is shown before the transfer that needs it', async ({
	page
}) => {
	const orrery = await device(page, 'Orrery');
	await page.goto(`/care/service?device=${orrery.id}`);
	const form = page.getByRole('form', { name: 'Note something' });
	await form.getByRole('button', { name: 'Due', exact: true }).press('Enter');
	await form.getByLabel('What is to be done').fill('Tune the filters');
	await form.getByLabel('Kind').selectOption('Calibration');
	await form.getByLabel('On', { exact: true }).fill('2026-01-10');
	await form.getByLabel('Every so many months (may be empty)').fill('12');
	await form.getByRole('button', { name: 'Note it' }).press('Enter');
	const due = page.getByRole('region', { name: 'What is due' });
	await expect(due.getByText(/Tune the filters/)).toBeVisible();
	await expect(due.getByText(/overdue · every 12 months/)).toBeVisible();
	await page.goto('/');
	await expect(page.getByText(/Overdue: Tune the filters/)).toBeVisible();
	await page.goto(`/care/service?device=${orrery.id}`);
	await page.getByRole('button', { name: 'Done today: Tune the filters, Orrery' }).press('Enter');
	await expect(due.getByText(/overdue/)).toHaveCount(0);
	await expect(page.getByRole('row', { name: /Calibration Tune the filters/ })).toBeVisible();

	await form.getByRole('button', { name: 'Worn control' }).press('Enter');
	await form.getByLabel('The control').fill('The key SYSTEM 2');
	await form.getByRole('button', { name: 'Dead', exact: true }).press('Enter');
	await form.getByRole('checkbox', { name: 'to send its dumps' }).press('Space');
	await form.getByRole('button', { name: 'Note it' }).press('Enter');
	await expect(page.getByText('The key SYSTEM 2 is dead')).toBeVisible();
	await page.goto(`/transfers/new?device=${orrery.id}`);
	await expect(page.getByText('It needs this: The key SYSTEM 2 is dead')).toBeVisible();

	// A document is kept byte for byte, and taken away with a way back.
	await page.goto(`/care/service?device=${orrery.id}`);
	await page.getByLabel('Attach a file').setInputFiles({
		name: 'bill.pdf',
		mimeType: 'application/pdf',
		buffer: Buffer.from('%PDF-1.4 made up')
	});
	await expect(page.getByText('“bill.pdf” is kept.')).toBeVisible();
	await expect(page.getByRole('link', { name: /^Save bill\.pdf/ })).toBeVisible();
});

test('a procedure of one’s own is written, run, and passed with a reason that stays on record', async ({
	page
}) => {
	await page.goto('/care/procedures');
	await page.getByRole('link', { name: 'Write on it: Before a show' }).press('Enter');
	const text = page.getByRole('textbox', { name: 'Text of the procedure' });
	await expect(text).toBeVisible();
	await text.press('Control+a');
	const own = {
		id: 'load-in',
		title: 'Load in',
		about: 'studio',
		back: 'Out again.',
		steps: [
			{ by: 'hand', id: 'doors', title: 'Doors', says: 'Open them.', see: 'They are open.' },
			{
				by: 'gate',
				id: 'two',
				title: 'Two looked',
				says: 'Both have looked.',
				holds: { is: 'people', count: 2 }
			},
			{ by: 'wait', id: 'rest', title: 'Rest', says: 'Nothing is touched.', seconds: 1 }
		]
	};
	await page.keyboard.insertText(JSON.stringify(own, null, '\t'));
	await expect(page.getByRole('status').filter({ hasText: 'No fault.' })).toBeVisible();
	await page.getByRole('button', { name: 'Keep it' }).press('Enter');
	await page.getByRole('button', { name: 'Begin: Load in' }).press('Enter');
	const step = page.locator('[aria-current="step"]');
	await step.getByRole('button', { name: 'It is not so' }).press('Enter');
	await expect(step).toContainText('Not so the last time: Not seen: They are open.');
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await step.getByLabel('Who has looked: 2 names, with commas').fill('Ilse, ilse');
	await step.getByRole('button', { name: 'They have looked' }).press('Enter');
	await expect(page.getByRole('alert')).toContainText('1 of 2 people have looked.');
	await page.reload();
	await step.getByText('Go on without it …').press('Enter');
	await step.getByLabel(/^Why, in at least 12 characters/).fill('Alone in the house tonight.');
	await step.getByRole('button', { name: 'Go on without it' }).press('Enter');
	await step.getByRole('button', { name: /^Begin to wait/ }).press('Enter');
	await expect(page.getByText('Every step has ended.')).toBeVisible({ timeout: 10_000 });
	await expect(page.getByText('because: Alone in the house tonight.')).toBeVisible();
	await page.goto('/care/procedures');
	await expect(page.getByText('1 gate passed with a reason')).toBeVisible();
	await page.getByRole('button', { name: 'Take away: Load in' }).press('Enter');
	await expect(page.getByRole('button', { name: 'Begin: Load in' })).toHaveCount(0);
	await page.getByRole('button', { name: 'Undo', exact: true }).press('Enter');
	await expect(page.getByRole('button', { name: 'Begin: Load in' })).toBeVisible();
});

test('an adapter test and a clock check: the app’s part counts once it is shown', async ({ page }) => {
	await page.goto('/care/procedures');
	await page.getByLabel('About which device').selectOption({ label: 'Parallax west' });
	await page.getByRole('button', { name: 'Begin: Adapter test' }).press('Enter');
	const step = page.locator('[aria-current="step"]');
	await step.getByRole('button', { name: 'Done', exact: true }).press('Enter');
	const run = page.url();
	await step.getByRole('link', { name: 'Test it on Ports' }).press('Enter');
	const panel = page.getByRole('region', { name: 'Adapter test' });
	await panel.getByLabel('Device', { exact: true }).selectOption({ label: 'Parallax west' });
	// Another tab shows that nothing was tested yet.
	const other = await page.context().newPage();
	await other.goto(run);
	await expect(other.locator('[aria-current="step"]')).toContainText('Test it');
	await panel.getByRole('button', { name: 'Test' }).press('Enter');
	await expect(panel.getByText(/bytes is the longest|survive/).first()).toBeVisible({ timeout: 40_000 });
	await expect(other.locator('[aria-current="step"]')).toContainText('Is that enough?');
	await other.close();

	await page.goto('/care/procedures');
	await page.getByRole('button', { name: 'Begin: Clock check' }).press('Enter');
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await step.getByRole('button', { name: 'Done', exact: true }).press('Enter');
	const all = step.getByRole('button', { name: 'They all followed' });
	const followers = step.getByRole('group', { name: 'Who followed' }).getByRole('checkbox');
	await expect(all).toBeVisible();
	await expect(followers).not.toHaveCount(0);
	// Nobody is taken to follow who was not confirmed.
	for (const each of await followers.all()) {
		await expect(all).toBeDisabled();
		await each.press('Space');
	}
	await all.press('Enter');
	await expect(step).toContainText('Every follower stops.');
});
