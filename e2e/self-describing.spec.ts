import { expect, flip, ownStudio, renameNextSlot, result, start, test, trayOf } from './studio';

ownStudio(5404);
test.describe.configure({ mode: 'serial' });

/** An instrument that no profile knows, and that says itself what it is and what it keeps (MIDI-CI). */
const NAME = 'Own-word Marl';
let home = '';

// A studio of one's own speaks to real ports until somebody says otherwise.
test.beforeEach(({ page }) => page.addInitScript(() => localStorage.setItem('silent-drawer.world', 'bench')));

test('first met, it says itself what it is, and is backed up whole', async ({ page }) => {
	test.setTimeout(120_000);
	await page.goto('/gear/find?now');
	const row = page.getByRole('row', { name: /Marl on the bench/ });
	await expect(row).toContainText('Can say itself what it is', { timeout: 90_000 });
	await row.getByRole('textbox', { name: 'Name' }).fill(NAME);
	await row.getByRole('button', { name: /^Take what answered/ }).click();
	await expect(row).toContainText(`This is your ${NAME}, noted just so.`);
	await expect(row).toContainText('Selden Works Marl');
	await row.getByRole('link', { name: `Open ${NAME}` }).click();
	await expect(page.getByRole('heading', { level: 1, name: NAME })).toBeVisible();
	home = new URL(page.url()).pathname;

	await page.keyboard.press('b');
	const card = trayOf(page).getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText('it is read twice');
	await start(page);
	await expect(result(page)).toContainText('Complete, twice in the same way');
});

test('what was changed at its panel is brought back, and shown to be there', async ({ page }) => {
	test.setTimeout(120_000);
	await page.goto(`${home}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	const display = panel.getByRole('status', { name: 'Display' });
	const before = await renameNextSlot(page, 'Gone');

	await page.goto(`${home}/drawer`);
	await expect(page.getByRole('main')).toContainText(before);
	await page.keyboard.press('r');
	await expect(page.getByRole('heading', { name: `Restore ${NAME}` })).toBeVisible();
	await start(page);
	await expect(result(page)).toContainText('Verified');
	await expect(result(page)).toContainText('1 slot written and read back equal, 32 already there');

	await page.goto(`${home}/ports`);
	await panel.getByRole('button', { name: 'Next slot' }).click();
	await expect(display).toContainText(before);

	// A sound of its is found by the name that its list gives it.
	await page.goto(`/sounds?q=${encodeURIComponent(before)}`);
	await expect(
		page.getByRole('link', { name: new RegExp(`${before} in ${NAME}, slot 02`) }).first()
	).toBeVisible();
	// Of this bench it is known since when, and of no end: the studio speaks of real instruments.
	await expect(page.getByRole('main')).not.toContainText('years ago');
});

test('protected, it says so itself; asked again what it is, it says the same', async ({ page }) => {
	test.setTimeout(120_000);
	await page.goto(`${home}/ports`);
	await renameNextSlot(page, 'Kept Out');
	await flip(page, /Memory protect/, true);
	await page.goto(`${home}/drawer`);
	await page.keyboard.press('r');
	await start(page);
	await expect(result(page)).toContainText('its memory is protected');

	await page.goto(`${home}/profile`);
	await expect(page.getByRole('main')).toContainText('Each program is a property of the instrument');
	await page.getByRole('button', { name: 'Ask it what it is now' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('It says the same of itself as before.');
	await page.goto(`${home}/ports`);
	await flip(page, /MIDI-CI/, false);
	await page.goto(`${home}/profile`);
	await page.getByRole('button', { name: 'Ask it what it is now' }).click();
	await expect(page.getByRole('main')).toContainText('Nothing on this line speaks MIDI-CI.');
});
