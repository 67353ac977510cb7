import { device, expect, result, start, test } from './studio';
import { injectMidi, standIn, useHardware } from './stand-in/inject';

test('permission refused: said gracefully, and the bench goes on', async ({ page, context }) => {
	await injectMidi(context, { refuse: true });
	await page.goto('/transfers/ports');
	await page.getByRole('radio', { name: /Hardware/ }).click();
	await expect(page.getByText('The browser may not use MIDI ports')).toBeVisible();
	await expect(page.getByText('Allow MIDI for this page')).toBeVisible();
	await page.goto('/gear/find');
	await page.getByRole('button', { name: 'Look on this computer’s MIDI ports instead' }).click();
	await expect(page.getByRole('alert')).toContainText('The browser may not use MIDI ports');
	await page.getByRole('button', { name: 'Find it' }).click();
	await expect(page.getByText(/devices answered on/)).toBeVisible({ timeout: 20_000 });
});

test('what is plugged in, over real ports: as noted, elsewhere with another ID, silent', async ({
	page,
	context
}) => {
	await injectMidi(context);
	await useHardware(page);
	await page.goto('/gear/find?now');
	const answered = page.getByRole('region', { name: 'What answered' });
	await expect(answered.getByText('This is your Orrery, noted just so.')).toBeVisible({ timeout: 40_000 });
	await expect(answered.getByText('This is your Parallax west, noted just so.')).toBeVisible();
	// An Umbra answers where the drum machine is noted, with another ID.
	await expect(
		answered.getByText(/This is your Umbra hall, but the plan has it on Ferry 8 Out 5/)
	).toBeVisible();
	await expect(answered.getByText('Taking it notes its cables and its device ID.')).toBeVisible();
});

test('backup, unplugged in mid-restore, plugged in under other names, goes on and is verified', async ({
	page,
	context
}) => {
	test.setTimeout(90_000);
	await injectMidi(context);
	await useHardware(page);
	const { id } = await device(page, 'Parallax west');
	await page.getByRole('link', { name: 'Log', exact: true }).click();
	await page.getByRole('link', { name: 'Parallax west', exact: true }).first().click();
	await start(page);
	await expect(result(page)).toContainText('Complete, checksums right', { timeout: 30_000 });
	await page
		.getByRole('navigation', { name: 'Cabinet' })
		.getByRole('link', { name: /^Parallax west/ })
		.click();
	// An older version differs in many slots: it is brought back.
	await page.getByRole('slider', { name: 'Version that is open' }).press('Home');
	await expect(page).toHaveURL(/v=/);
	await page.keyboard.press('r');
	await expect(page.getByRole('heading', { name: 'Restore Parallax west' })).toBeVisible();
	await start(page);
	await expect(page.getByRole('heading', { name: 'Sending' })).toBeVisible({ timeout: 20_000 });
	await standIn(page, 'unplug');
	await page.waitForTimeout(700);
	await standIn(page, 'plug');
	await expect(result(page)).toContainText('Verified', { timeout: 40_000 });
	// And that is what it holds.
	const held = await standIn(page, 'records', 1, 0, 'programs');
	const versions = (await (await page.request.get(`/api/v1/transfers?device=${id}`)).json()) as {
		id: string;
		direction: string;
	}[];
	const { slots } = (await (
		await page.request.get(
			`/api/v1/transfers/${versions.find(({ direction }) => direction === 'restore')!.id}/wanted`
		)
	).json()) as { slots: { area: string; index: number; hex: string }[] };
	expect(slots.length).toBeGreaterThan(20);
	for (const { area, index, hex } of slots)
		if (area === 'programs') expect(held[index]).toBe([...Buffer.from(hex, 'hex')].join(' '));
});

test('two tabs that want one port: the second says who has it', async ({ page, context }) => {
	// Slow enough that the first tab still has the port when the second asks for it.
	await injectMidi(context, { speed: 0.2 });
	await useHardware(page);
	const other = await context.newPage();
	await other.goto('/transfers/ports');
	await expect(other.getByRole('heading', { name: 'Which port is which' })).toBeVisible();
	const { id } = await device(page, 'Orrery');
	await page.getByRole('link', { name: 'Log', exact: true }).click();
	await page.getByRole('link', { name: 'Orrery', exact: true }).first().click();
	await start(page);
	// It follows what the first one does; who wants the same ports is told who has them, and since when.
	await expect(other.getByRole('contentinfo')).toContainText('Backing up Orrery');
	await other.goto(`/gear/${id}`);
	const line = other.getByRole('region', { name: 'Line' });
	await line.getByRole('button', { name: /^Ask/ }).click();
	await expect(line.getByRole('alert')).toContainText(/in use: backup of Orrery, since \d\d:\d\d/);
	await page.getByRole('button', { name: 'Cancel', exact: true }).click();
	await expect(page.getByText(/You cancelled it|is incomplete/).first()).toBeVisible({ timeout: 15_000 });
	expect(id).toBeTruthy();
});

test('the adapter test finds the longest message, to the byte, and its verdict is kept', async ({
	page,
	context
}) => {
	test.setTimeout(120_000);
	await injectMidi(context, { speed: 20 });
	await useHardware(page);
	await standIn(page, 'fault', 4, [{ kind: 'drop long messages', longerThan: 100, way: 'to device' }]);
	const panel = page.getByRole('region', { name: 'Adapter test' });
	await panel.getByLabel('Out', { exact: true }).selectOption({ label: 'Ferry 8 Out 5' });
	await panel.getByLabel('In', { exact: true }).selectOption({ label: 'Ferry 8 In 5' });
	await panel.getByRole('button', { name: 'Test' }).click();
	await expect(panel.getByText('100 bytes is the longest message that survives')).toBeVisible({
		timeout: 90_000
	});
	// Allowed once, a reload asks nobody.
	await page.reload();
	await expect(panel.getByText('100 bytes is the longest message that survives')).toBeVisible();
});

test('the monitor keeps up with 3,000 messages a second', async ({ page, context }) => {
	await injectMidi(context);
	await useHardware(page);
	await page.getByRole('link', { name: 'Monitor' }).click();
	await expect(page.getByText('Every in of the computer is heard')).toBeVisible();
	const sent = await standIn(page, 'flood', 4, 3000, 3);
	await expect(page.getByText(`${sent.toLocaleString('en')} messages`)).toBeVisible();
	await page.getByRole('checkbox', { name: 'Notes' }).uncheck();
	await expect(page.getByText(`0 messages of ${sent.toLocaleString('en')}`)).toBeVisible();
	await page.getByRole('checkbox', { name: 'Notes' }).check();
	await page.getByLabel('Meaning contains').fill('Note on 60 velocity');
	await expect(page.getByRole('log').getByText('Note on 60 velocity 64, channel 1').first()).toBeVisible();
	await page.getByRole('log').getByText('Note on 60 velocity 64, channel 1').first().click();
	await expect(page.getByRole('region', { name: 'Bytes' })).toContainText('90 3c 40');
});

test('a pedal is calibrated by what it says over a real port', async ({ page, context }) => {
	await injectMidi(context);
	await useHardware(page);
	await page
		.getByRole('link', { name: /Control/ })
		.first()
		.click();
	await page.getByRole('link', { name: 'Feet', exact: true }).click();
	const row = page.getByRole('listitem', { name: 'Treadle Sweep B – Old sweep pedal' });
	await row.getByRole('button', { name: /^Calibrate/ }).press('Enter');
	await expect(row.getByRole('status')).toHaveText('Move the pedal from heel to toe.');
	// The heel rests at 9, the toe at 104; at rest it says nothing.
	const way = Array.from({ length: 95 }, (_, i) => [0xbf, 11, 10 + i]);
	await standIn(page, 'say', 2, [
		[0xbf, 11, 10],
		[0xbf, 11, 9]
	]);
	await page.waitForTimeout(1000);
	await standIn(page, 'say', 2, way);
	await expect(row.getByText(/Ferry 8 Port 3.*controller 11 on channel 16, now 104/)).toBeVisible();
	await page.waitForTimeout(1000);
	await standIn(page, 'say', 2, way.toReversed());
	await expect(row.getByRole('status')).toHaveText(/Both ends were heard/, { timeout: 10_000 });
	await row.getByRole('button', { name: 'Keep it' }).press('Enter');
	await expect(row.getByRole('button', { name: /^Calibrate again/ })).toBeVisible();
	const { document } = await (await page.request.get('/api/v1/floor')).json();
	const [kept] = document.calibrations;
	expect(kept).toMatchObject({ line: 'old', controller: 11, channel: 16, world: 'hardware', noise: 1 });
	expect(kept.toe).toBe(104);
	expect(kept.heel).toBeCloseTo(9, 0);
	// What was heard on the bench is another world’s: it is not said here.
	await expect(row.getByText(/calibrated .* on the bench/)).toHaveCount(0);
});

test('an answer that comes late is one to its question; what a hand chose at the panel is told apart from it', async ({
	page,
	context
}) => {
	await injectMidi(context);
	await useHardware(page);
	await page.goto('/control/zones');
	const list = page.getByRole('region', { name: 'Scenes' });
	const status = list.getByRole('status');
	const chosen = list.getByRole('list', { name: 'Chosen at panels' });
	await list.getByRole('button', { name: 'Send everything next time' }).click();
	// Four times as fast as the clock of the page: it answers after four seconds, where it is given one.
	await standIn(page, 'fault', 0, [{ kind: 'slow answers', addMs: 16_000 }]);
	await list.getByRole('button', { name: '3 Inner planets' }).press('Enter');
	await expect(status).toContainText('Orrery: Sent. sent; it did not say what it plays.', {
		timeout: 20_000
	});
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');
	await expect(chosen.getByRole('listitem')).toHaveCount(0);

	await standIn(page, 'fault', 0, []);
	await standIn(page, 'turn', 0, 0, 10);
	await expect(chosen).toContainText(
		'Orrery, chosen at its panel: it says that it plays program 10, not 9, Dark Moon.'
	);
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');
});
