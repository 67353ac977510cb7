import type { Page } from '@playwright/test';
import { backUp, device, expect, goButton, ownStudio, result, start, test, trayOf } from './studio';

const UMBRA = 'Ternhill Umbra — reverberation unit';

ownStudio(5394);

// A studio of one's own goes over real ports by itself; here it is tried on the bench.
test.beforeEach(({ page }) => page.addInitScript(() => localStorage.setItem('silent-drawer.world', 'bench')));

/** The instrument of this studio: what a test before has added, or a new one where this test is the first to run. */
async function myUmbra(page: Page): Promise<{ id: string }> {
	const there = (await (await page.request.get('/api/v1/devices')).json()) as { id: string; name: string }[];
	const umbra = there.find(({ name }) => name === 'My Umbra');
	if (umbra) return umbra;
	const data = { name: 'My Umbra', profileId: 'ternhill-umbra' };
	return (await (await page.request.post('/api/v1/devices', { data })).json()) as { id: string };
}

test('an empty studio says what to do first, and leads there', async ({ page }) => {
	await page.goto('/');
	await expect(page.getByRole('heading', { level: 1, name: 'The cabinet is empty' })).toBeVisible();
	// Old addresses lead on.
	for (const path of ['/gear', '/transfers', '/find', '/bench', '/transfers/keeping']) {
		await page.goto(path);
		await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
	}
	for (const [path, says] of [
		['', 'there is no interface yet'],
		['/map', 'No cable is noted yet'],
		['/trace', 'Nothing here sends anything yet'],
		['/problems', 'Nothing is wrong with the wiring'],
		['/plan', 'The planner gives every device'],
		['/returns', 'no audio interface'],
		['/sheets', 'Nothing yet.']
	]) {
		await page.goto(`/wiring${path}`);
		await expect(page.getByText(says).first()).toBeVisible();
	}
	await page.goto('/wiring/plan');
	await page.getByRole('button', { name: 'Make a plan' }).click();
	await expect(page.getByRole('alert')).toContainText('There is no interface with a MIDI out');
	await page.getByRole('button', { name: 'Play it through' }).click();
	await expect(page.getByText('Nothing is played')).toBeVisible();
	await page.goto('/transfers');
	await expect(page.getByText('No device of the catalogue can be asked for its memory yet.')).toBeVisible();
	await page.goto('/sounds?q=anything');
	await expect(page.getByText('No sound in any drawer is called “anything”, or nearly so.')).toBeVisible();
	await page.goto('/');
	await expect(page.getByRole('main').getByRole('link', { name: 'Find what is plugged in' })).toBeVisible();
	await page.getByRole('main').getByRole('link', { name: 'Add a device by hand' }).click();
	await expect(page.getByRole('heading', { level: 1, name: 'Add a device' })).toBeVisible();
});

test('a first instrument: the bench proves nothing about it, and says so', async ({ page }) => {
	await page.goto('/gear/new');
	await page.getByLabel('Model', { exact: true }).selectOption({ label: UMBRA });
	await page.getByLabel('Your name for it').first().fill('My Umbra');
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByText('This drawer is empty')).toBeVisible();
	// Nothing of a musician's own is plugged in to the bench by itself.
	const added = await device(page, 'My Umbra');
	expect(added.benchUnit).toBeNull();
	await page.goto('/');
	await expect(page.getByRole('heading', { level: 1 })).toContainText('1 instrument at risk today');
	await expect(page.getByRole('main')).toContainText('Never backed up');
	await page.goto(`/gear/${added.id}/ports`);
	await page.getByLabel('Unit on the bench').selectOption({ label: 'Umbra on the bench' });
	await expect(page.getByRole('group', { name: /^Front panel/ })).toBeVisible();
	await page.goto('/');
	await page.getByRole('link', { name: 'Back up: My Umbra' }).click();
	await start(page);
	await expect(result(page)).toContainText('50 slots');
	await page.getByRole('link', { name: 'Open this version' }).click();
	await expect(page.getByText('Bench (simulated)', { exact: true })).toBeVisible();
	await page.goto('/');
	await expect(page.getByRole('heading', { level: 1 })).toContainText('1 instrument at risk today');
	await expect(page.getByRole('main')).toContainText('Never backed up: only on the bench');
	await page.goto('/sounds?q=a');
	await expect(page.getByRole('table').first()).toContainText('Bench (simulated)');
});

test('a device that is plugged in to nothing cannot be backed up, and says where to plug it', async ({
	page
}) => {
	const { id } = await myUmbra(page);
	await page.goto(`/gear/${id}/ports`);
	await page.getByLabel('Unit on the bench').selectOption({ label: 'Nothing' });
	await expect(page.getByRole('group', { name: /^Front panel/ })).toBeHidden();
	await page.goto(`/transfers/new?device=${id}`);
	await expect(trayOf(page).getByText('It is plugged in to nothing on the bench.').first()).toBeVisible();
	await expect(goButton(page)).toBeDisabled();
	await page.getByRole('link', { name: 'Choose a bench unit' }).click();
	await page.getByLabel('Unit on the bench').selectOption({ label: 'Umbra on the bench' });
	await expect(page.getByRole('group', { name: /^Front panel/ })).toBeVisible();
});

test('the wrong unit on the cable is found out before anything happens', async ({ page }) => {
	const { id } = await myUmbra(page);
	await page.goto(`/gear/${id}/ports`);
	await page.getByLabel('Unit on the bench').selectOption({ label: 'Parallax on the bench' });
	await expect(page.getByRole('group', { name: 'Front panel of Parallax on the bench' })).toBeVisible();
	await page.goto(`/transfers/new?device=${id}`);
	await start(page);
	await expect(result(page)).toContainText(
		'Something else answered on this port: it is not the Ternhill Umbra.'
	);
	await page.goto(`/gear/${id}/ports`);
	await page.getByLabel('Unit on the bench').selectOption({ label: 'Umbra on the bench' });
	await expect(page.getByRole('group', { name: 'Front panel of Umbra on the bench' })).toBeVisible();
	await backUp(page, id);
});

test('the bench remembers over a reload, and power-off forgets what the real one forgets', async ({
	page
}) => {
	await page.goto('/transfers/bench');
	await page.getByRole('button', { name: /^Nadir on the bench/ }).click();
	const panel = page.getByRole('group', { name: 'Front panel of Nadir on the bench' });
	await panel.getByRole('textbox', { name: 'Name' }).fill('KEPT');
	await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
	await panel.getByRole('switch', { name: /Exclusive/ }).check();
	await expect(panel.getByText('Exclusive on')).toBeVisible();
	await page.reload();
	await page.getByRole('button', { name: /^Nadir on the bench/ }).click();
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('KEPT');
	await expect(panel.getByRole('switch', { name: /Exclusive/ })).toBeChecked();
	await panel.getByRole('button', { name: 'Power off and on' }).click();
	await expect(panel.getByRole('switch', { name: /Exclusive/ })).not.toBeChecked();
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('KEPT');
	await panel.getByRole('textbox', { name: 'Name' }).fill('lower case');
	await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
	await expect(panel.getByRole('alert')).toContainText('8');
});

test('addresses that lead nowhere say so', async ({ page }) => {
	for (const [path, words] of [
		['/nowhere', 'There is no such page.'],
		['/gear/none', 'There is no device “none” in the catalogue.'],
		['/transfers/none', 'There is no transfer “none”.'],
		['/transfers/new', 'Which device is it about?'],
		['/transfers/new?version=none', 'There is no version “none”.']
	]) {
		await page.goto(path);
		await expect(page.getByRole('heading', { level: 1 })).toHaveText(words);
		await expect(page.getByRole('link', { name: 'Go to Today' })).toBeVisible();
	}
});

test('a note that is not saved is not lost by a slip', async ({ page }) => {
	const { id } = await myUmbra(page);
	await page.goto(`/gear/${id}/notes`);
	await page.getByLabel('What you would write').fill('Hums at 50 Hz.');
	await page.getByRole('link', { name: 'Facts' }).click();
	await expect(page.getByRole('button', { name: 'Duplicate' })).toBeVisible();
	await page.getByRole('link', { name: 'Notes' }).click();
	await expect(page.getByLabel('What you would write')).toHaveValue('Hums at 50 Hz.');
	await page.getByRole('button', { name: 'Save the note' }).click();
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	await page.getByRole('link', { name: 'Facts' }).click();
	await expect(page.getByRole('button', { name: 'Duplicate' })).toBeVisible();
});

test('lamplight is remembered', async ({ page }) => {
	await page.goto('/');
	await page.getByRole('button', { name: 'Switch to lamplight' }).click();
	await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamplight');
	await page.reload();
	await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamplight');
});
