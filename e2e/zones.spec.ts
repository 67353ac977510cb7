import type { Page } from '@playwright/test';
import { expect, test } from './studio';

const scenes = (page: Page) => page.getByRole('region', { name: 'Scenes' });
const zone = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) });
const form = (page: Page, name: string) => page.getByRole('region', { name: `Zone ${name}` });
const heard = (page: Page) => page.getByRole('region', { name: 'Who plays' }).getByRole('status');

test('a scene is one press: sent, and shown by what the instruments say themselves', async ({ page }) => {
	await page.goto('/control/zones');
	const list = scenes(page);
	await expect(list.getByText('On the desk: 1 Doors')).toBeVisible();
	await list.getByRole('button', { name: '3 Inner planets' }).press('Enter');
	const status = list.getByRole('status');
	await expect(status).toContainText('3 Inner planets, on the bench:');
	await expect(status).toContainText('Parallax west: Shown. it says that it plays program 5, Dim Lead.');
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');
	await expect(list.getByText('On the desk: 3 Inner planets')).toBeVisible();
	await expect(list.getByRole('button', { name: 'Send the desk' })).toBeDisabled();

	await list.getByRole('button', { name: '4 The belt' }).click();
	await expect(status).toContainText('4 The belt, on the bench:');
	await page.reload();
	// What was sent is known after a reload; the scene before comes back by undo, and is sent again.
	await expect(list.getByRole('button', { name: 'Send the desk' })).toBeDisabled();
	await page.keyboard.press('Control+z');
	await expect(list.getByText('On the desk: 3 Inner planets')).toBeVisible();
	await list.getByRole('button', { name: 'Send the desk' }).click();
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');

	// A scene that makes something much louder waits for a second press.
	await list.getByRole('button', { name: '8 Deep field' }).click();
	await expect(status).toContainText('8 Deep field, on the bench:');
	await list.getByRole('button', { name: '4 The belt' }).click();
	await expect(list.getByText(/Parallax west, channel 2, gets 12 dB louder: turn down first/)).toBeVisible();
	await expect(status).toContainText('8 Deep field');
	await list.getByRole('button', { name: 'It gets louder: send The belt' }).click();
	await expect(status).toContainText('4 The belt, on the bench:');
});

test('the desk is stored over another scene, which undo brings back; a sound that moved is taken from its new place', async ({
	page
}) => {
	await page.goto('/control/zones');
	const list = scenes(page);
	await list.getByRole('button', { name: '1 Doors' }).click();
	await expect(list.getByRole('status')).toContainText('1 Doors');
	await zone(page, 'Low drone').click();
	await form(page, 'Low drone').getByLabel('On', { exact: true }).check();
	await expect(list.getByText('On the desk: 1 Doors, changed')).toBeVisible();
	await list.getByLabel('Number').fill('9');
	await expect(list.getByText('Scene 9 holds Home: Low drone, Lead. Undo brings it back.')).toBeVisible();
	await list.getByLabel('Name').fill('Last call');
	await list.getByRole('button', { name: 'Store over Home' }).press('Enter');
	await expect(list.getByText('On the desk: 9 Last call')).toBeVisible();
	await page.getByRole('button', { name: 'Undo: Scene 9: Last call over Home' }).click();
	await expect(list.getByRole('button', { name: '9 Home' })).toBeVisible();

	const moved = page.getByRole('listitem').filter({ hasText: 'Blue Plume' });
	await expect(moved).toContainText('(Parallax west, scene 7) is in 12 now; 13 holds');
	await moved.getByRole('button', { name: /^Take it from 12\s*: Blue Plume$/ }).click();
	await expect(moved).toHaveCount(0);
	await list.getByRole('button', { name: '7 Comets' }).click();
	await list.getByRole('button', { name: 'It gets louder: send Comets' }).click();
	await expect(list.getByRole('status')).toContainText(
		'Parallax west: Shown. it says that it plays program 12, Blue Plume.'
	);
});

test('who plays a key, what is wrong with a zone, and its cure, by keyboard', async ({ page }) => {
	await page.goto('/control/zones');
	await scenes(page).getByRole('button', { name: '1 Doors' }).click();
	await expect(scenes(page).getByText('On the desk: 1 Doors', { exact: true })).toBeVisible();
	await zone(page, 'Low drone').press('Enter');
	const drone = form(page, 'Low drone');
	await drone.getByLabel('On', { exact: true }).press('Space');
	await expect(zone(page, 'Low drone')).toHaveAccessibleName('Low drone');
	const keys = page.getByRole('slider', { name: 'Keys of Span 61' });
	await keys.press('Home');
	await keys.press('Enter');
	await expect(heard(page)).toContainText('C2');
	await expect(heard(page)).toContainText('Parallax west, channel 2: C1, velocity 90');
	await page.getByRole('slider', { name: /^Struck with/ }).fill('110');
	await expect(heard(page)).toContainText('Low drone does not: it plays what is struck softer.');

	await drone.getByLabel('To key').fill('D4');
	await drone.getByLabel('To key').press('Tab');
	const wrong = page.getByRole('region', { name: 'What is wrong on the desk, or not known' });
	await expect(wrong).toContainText('Low drone and Air both play C4–D4 on one channel of one instrument.');
	await wrong.getByRole('button', { name: 'Low drone up to B3' }).press('Enter');
	await expect(wrong).not.toContainText('both play');
	await expect(drone.getByLabel('To key')).toHaveValue('B3');

	await drone.getByLabel('From key').fill('H2');
	await drone.getByLabel('From key').press('Tab');
	await expect(page.getByRole('alert')).toContainText('“H2” is no key');

	// Keys that do not arrive: the wiring says so.
	await zone(page, 'Choir of the giants').press('Enter');
	await form(page, 'Choir of the giants').getByLabel('On', { exact: true }).press('Space');
	await expect(wrong).toContainText('channel 1 of Span 61 does not arrive at Orrery.');
});
