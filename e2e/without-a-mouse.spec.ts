import type { Page } from '@playwright/test';
import { addDevice, expect, goButton, result, test, trayOf } from './studio';

test('the whole path without a mouse', async ({ page }) => {
	// Tried again, it finds its own device and not the one of the try before.
	const { repeatEachIndex, retry } = test.info();
	const name = `Keyboard Umbra ${repeatEachIndex}.${retry}`;
	const { id } = await addDevice(page, 'Ternhill Umbra — reverberation unit', name);
	await page.goto('/');

	// To the drawer: filter the cabinet, arrow down, Enter.
	await page.keyboard.press('/');
	await page.keyboard.type(name.toLowerCase());
	await page.keyboard.press('Tab');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();

	// Back up.
	await page.keyboard.press('b');
	await expect(page.getByRole('heading', { name: 'Tray', exact: true })).toBeFocused();
	await expect(goButton(page)).toBeEnabled();
	await page.keyboard.press('s');
	await expect(result(page)).toContainText('50 slots');

	// Edit at the panel, with the keys of its own controls.
	await page.keyboard.press('Control+k');
	await expect(page.getByRole('dialog', { name: 'Go to or do' })).toBeVisible();
	await page.keyboard.type(name);
	await page.keyboard.press('Enter');
	await page.waitForURL(`**/gear/${id}/drawer`);
	await page.getByRole('link', { name: 'Ports' }).focus();
	await page.keyboard.press('Enter');
	// The page that one went to is where the focus is.
	await page.waitForURL(`**/gear/${id}/ports`);
	await expect(page.getByRole('heading', { level: 1, name })).toBeFocused();
	const slider = page.getByRole('slider', { name: 'Algorithm' });
	await slider.focus();
	const before = await slider.getAttribute('aria-valuetext');
	await page.keyboard.press((await slider.inputValue()) === '0' ? 'ArrowRight' : 'ArrowLeft');
	await page.keyboard.press('Tab');
	await expect(slider).not.toHaveAttribute('aria-valuetext', before!);
	await page.keyboard.press('b');
	await expect(goButton(page)).toBeEnabled();
	await goButton(page).focus();
	await page.keyboard.press('Enter');
	await expect(result(page)).toContainText('50 slots');

	// Compare, walk to the slot that differs, choose it, restore it from the older version.
	await page.getByRole('link', { name: 'Open this version' }).focus();
	await page.keyboard.press('Enter');
	await page.waitForURL(/drawer\?v=/);
	await page.keyboard.press('c');
	await expect(page.getByText('1 slot differs: 1 edited.')).toBeVisible();
	await page.keyboard.press('c');
	await expect(page.getByText('1 slot differs: 1 edited.')).toBeHidden();
	await page.getByRole('slider', { name: 'Version that is open' }).focus();
	await page.keyboard.press('ArrowLeft');
	await expect(page.locator('.small-print', { hasText: '50 slots changed' })).toBeVisible();
	await page.locator('button.cell').nth(1).focus();
	await page.keyboard.press('ArrowLeft');
	await page.keyboard.press('Space');
	await expect(page.getByRole('button', { name: /Restore 1 chosen slot/ })).toBeVisible();
	await page.keyboard.press('r');
	await page.getByRole('checkbox', { name: /Memory protect is off/ }).focus();
	await page.keyboard.press('Space');
	await expect(goButton(page)).toHaveText(/^Overwrite \S+ of /);
	await page.keyboard.press('s');
	await expect(result(page)).toContainText('Verified');
	// Esc folds the tray away, and T brings it back.
	await trayOf(page).getByRole('button', { name: 'Close the tray' }).focus();
	await page.keyboard.press('Escape');
	await expect(trayOf(page)).toBeHidden();
	await page.keyboard.press('t');
	await expect(result(page)).toContainText('Verified');

	// Help and Esc.
	await page.keyboard.press('?');
	await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();
});

/** Calls the command field while its scripts are held back. @returns what lets them come */
async function calledEarly(page: Page): Promise<() => void> {
	let go = () => {};
	const held = new Promise<void>((free) => (go = free));
	await page.route('**/*.js', async (route) => {
		await held;
		await route.continue();
	});
	const fetched = page.waitForRequest('**/*.js');
	await page.keyboard.press('Control+k');
	await fetched;
	return go;
}

test('Esc takes back a call for the command field that is still being fetched', async ({ page }) => {
	await page.goto('/gear');
	const field = page.getByRole('dialog', { name: 'Go to or do' });
	const go = await calledEarly(page);
	await page.keyboard.press('Escape');
	go();
	await page.waitForLoadState('networkidle');
	await expect(page.locator('dialog[aria-label="Go to or do"]')).toBeAttached();
	await expect(field).toBeHidden();
	// It is there when it is asked for again, and Esc closes it.
	await page.keyboard.press('Control+k');
	await expect(field).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(field).toBeHidden();
});

test('what is typed once the command field is called is no key of the page, and is not lost', async ({
	page
}) => {
	await page.clock.install();
	await page.goto('/gear');
	const go = await calledEarly(page);
	// Today, panic, the tray: keys of every page, if it were not for the field.
	await page.keyboard.type('0.t');
	go();
	const field = page.getByRole('dialog', { name: 'Go to or do' });
	await expect(field).toBeVisible();
	await expect(page).toHaveURL(/\/gear$/);
	await expect(trayOf(page)).toBeHidden();
	await expect(page.getByText(/silenced|All notes off/)).toHaveCount(0);

	// Without the focus it takes what is typed all the same.
	await page.evaluate(() => (document.activeElement as HTMLElement).blur());
	await page.keyboard.type('orr');
	const input = field.getByPlaceholder('A device, a stage, something to do');
	await expect(input).toHaveValue('orr');
	// The cabinet is asked for again meanwhile.
	await page.clock.fastForward(11_000);
	const asked = page.waitForResponse(/__data\.json/);
	await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
	await asked;
	await page.keyboard.type('er');
	await expect(input).toHaveValue('orrer');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { level: 1, name: 'Orrery' })).toBeVisible();
});
