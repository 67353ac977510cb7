import { addDevice, expect, goButton, result, rowOf, start, test, trayOf } from './studio';

test('what waits in the tray is still there where a link is quicker than the app’s own code', async ({
	page
}) => {
	const { id: first } = await addDevice(page, 'Vellbrook Orrery — synthesiser', 'Early Orrery');
	const { id: second } = await addDevice(page, 'Vellbrook Orrery — synthesiser', 'Late Orrery');
	await page.goto(`/transfers/new?device=${first}`);
	await expect(goButton(page)).toHaveText(/^Back up Early Orrery/);
	// What is fetched later, such as the reader of kept rows, comes after the server's answers.
	await page.route('**/*.js', async (route) => {
		await new Promise((later) => setTimeout(later, 700));
		await route.continue();
	});
	await page.goto(`/transfers/new?device=${second}`);
	await expect(rowOf(page, 'Late Orrery')).toBeVisible();
	await expect(rowOf(page, 'Early Orrery')).toBeVisible();
});

test('another choice begins nothing before it was looked at', async ({ page }) => {
	const { id } = await addDevice(page, 'Vellbrook Orrery — synthesiser', 'Chosen Orrery');
	await page.goto(`/transfers/new?device=${id}`);
	await expect(goButton(page)).toBeEnabled();
	let answer = () => {};
	const held = new Promise<void>((go) => (answer = go));
	await page.route(/transfers\/check.*area=/, async (route) => {
		await held;
		await route.continue();
	});
	const areas = trayOf(page).getByRole('radio', { name: / only$/ });
	await areas.first().check();
	await expect(goButton(page)).toBeDisabled();
	await expect(trayOf(page)).toContainText('It is being looked at.');
	// The first choice is answered last: it is not what is wanted any more.
	await trayOf(page).getByRole('radio', { name: 'Everything it can send' }).check();
	await expect(goButton(page)).toBeEnabled();
	const late = page.waitForResponse(/transfers\/check.*area=/);
	answer();
	await late;
	await expect(trayOf(page).getByRole('radio', { name: 'Everything it can send' })).toBeChecked();
	await start(page);
	await expect(result(page)).toContainText('65 slots', { timeout: 30_000 });
});

test('what happened is a history, each with its undo', async ({ page }) => {
	const { id } = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Archived Umbra');
	await page.goto(`/gear/${id}`);
	await page.getByRole('button', { name: 'Archive' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('Archived Umbra is archived');
	await page.keyboard.press('t');
	await trayOf(page).getByRole('button', { name: 'What happened' }).click();
	const history = trayOf(page).getByRole('list', { name: 'What happened' });
	await history.getByRole('button', { name: /^Undo: Archived Umbra is archived/ }).click();
	await expect(history).toContainText('undone');
	await expect(page.getByRole('navigation', { name: 'Cabinet' })).toContainText('Archived Umbra');

	// It is told after a reload, too, and opened from the line that says the last of it.
	await page.reload();
	await page.keyboard.press('t');
	await page.getByRole('contentinfo').getByRole('button', { name: 'History' }).click();
	await expect(history).toContainText('Archived Umbra is archived');
	await expect(history.getByRole('button')).toHaveCount(0);

	// What was not undone before a reload still can be; once undone, a second reload offers it no more.
	await page.goto(`/gear/${id}`);
	await page.getByRole('button', { name: 'Archive' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('Archived Umbra is archived');
	await page.reload();
	const cabinet = page.getByRole('navigation', { name: 'Cabinet' });
	await expect(cabinet).not.toContainText('Archived Umbra');
	await page.getByRole('contentinfo').getByRole('button', { name: 'History' }).click();
	await history.getByRole('button', { name: /^Undo: Archived Umbra is archived/ }).click();
	await expect(cabinet).toContainText('Archived Umbra');
	await page.reload();
	await page.getByRole('contentinfo').getByRole('button', { name: 'History' }).click();
	await expect(history).toContainText('Archived Umbra is back in the cabinet');
	await expect(history.getByRole('button')).toHaveCount(0);
});

test('an undo that no longer fits says so, stays, and is no second time under way', async ({ page }) => {
	const { id } = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Gone Umbra');
	await page.goto(`/gear/${id}`);
	await page.getByRole('button', { name: 'Archive' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('Gone Umbra is archived');
	// The server goes away in the moment of the undo.
	await page.route('**/unarchive', (route) => route.abort());
	await page.keyboard.press('t');
	await trayOf(page).getByRole('button', { name: 'What happened' }).click();
	const history = trayOf(page).getByRole('list', { name: 'What happened' });
	const undo = history.getByRole('button', { name: /^Undo: Gone Umbra is archived/ });
	await undo.click();
	await expect(history).toContainText('it could not be undone');
	await expect(history).toContainText('The server does not answer.');
	await page.unroute('**/unarchive');
	await undo.click();
	await expect(page.getByRole('navigation', { name: 'Cabinet' })).toContainText('Gone Umbra');
	await expect(undo).toHaveCount(0);
});
