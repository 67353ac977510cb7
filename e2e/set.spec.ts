import type { Page } from '@playwright/test';
import { expect, test } from './studio';

const ready = (page: Page) => page.getByRole('region', { name: 'Ready?' });
const stage = (page: Page) => page.getByRole('region', { name: 'On stage' });

test('the set says what it lacks, each with one thing to do; songs are moved, written and taken back', async ({
	page
}) => {
	await page.goto('/control/set');
	await expect(ready(page).getByRole('status')).toHaveText(
		/^Not ready: 2 things\s+are missing or not known\.$/
	);
	await ready(page).getByRole('button', { name: 'Take it from 12' }).press('Enter');
	await expect(ready(page).getByRole('status')).toHaveText(
		/^Not ready: 1 thing\s+is missing or not known\.$/
	);
	await expect(ready(page)).toContainText('channel 1 of Span 61 does not arrive at Orrery.');

	// Station five without its choir is left out: then the show is ready, by what is noted.
	const scenes = page.getByLabel('Scenes, by number').nth(4);
	await scenes.fill('four');
	await scenes.press('Tab');
	await expect(page.getByRole('alert').filter({ hasText: 'Scenes are their numbers' })).toBeVisible();
	await scenes.fill('4');
	await scenes.press('Tab');
	await expect(ready(page).getByRole('status')).toContainText(
		'Ready, by what is noted; the oldest reading of its sounds, on the bench, is from'
	);
	await expect(
		page.getByRole('listitem').filter({ hasText: /^\s*4\s+The belt: nothing to send/ })
	).toBeVisible();

	await page.getByRole('button', { name: 'Home earlier' }).press('Enter');
	await expect(page.getByLabel('Song', { exact: true }).nth(7)).toHaveValue('Home');
	// By pointer: from the last place up to the seventh.
	await page.getByTitle('Drag Deep field').scrollIntoViewIfNeeded();
	const [from, to] = await Promise.all(
		['Drag Deep field', 'Drag Comets'].map((title) => page.getByTitle(title).boundingBox())
	);
	await page.mouse.move(from!.x + 5, from!.y + 5);
	await page.mouse.down();
	await page.mouse.move(from!.x + 5, from!.y - 10, { steps: 4 });
	await page.mouse.move(to!.x + 5, to!.y - 10, { steps: 12 });
	await page.mouse.up();
	await expect(page.getByRole('button', { name: /^Undo: Deep field to place/ })).toBeVisible();
	await page.getByRole('button', { name: /^Undo: Deep field to place/ }).click();
	await expect(page.getByRole('button', { name: /^Redo: Deep field to place/ })).toBeVisible();
	await page.getByLabel('Another song').fill('Encore');
	await page.getByLabel('Another song').press('Enter');
	await expect(ready(page)).toContainText('Encore has no scene.');
	for (const step of ['Encore is in the set', 'Home earlier', 'Giants: scenes']) {
		await page.getByRole('button', { name: `Undo: ${step}` }).click();
		await expect(page.getByRole('button', { name: `Redo: ${step}` })).toBeVisible();
	}
	await expect(ready(page)).toContainText('does not arrive at Orrery.');
});

test('the set is run by keyboard, through a reload and while nothing can be noted', async ({ page }) => {
	await page.setViewportSize({ width: 390, height: 800 });
	await page.goto('/control/set/run');
	const on = stage(page);
	await expect(on.getByText('Not begun')).toBeVisible();
	await expect(on.getByText('Next: Doors, 1 Doors')).toBeVisible();
	await page.keyboard.press('PageDown');
	await expect(on.getByRole('status')).toContainText(
		'Parallax west: Shown. it says that it plays program 0, Near Moon.'
	);
	await page.keyboard.press('ArrowRight');
	await expect(on.getByRole('heading', { name: 'Moonrise' })).toBeVisible();
	await expect(on.getByRole('status')).toContainText(
		'Orrery: Shown. it says that it plays program 4, Corona Pad.'
	);
	await expect(on.getByText('By hand: Tempo 96.')).toBeVisible();
	await expect(on.getByText('5 messages', { exact: false })).toBeVisible();

	await page.reload();
	await expect(on.getByText('2 of 9')).toBeVisible();
	// What was sent is known still: no more messages than before.
	await expect(on.getByText('5 messages', { exact: false })).toBeVisible();
	await page.keyboard.press('Space');
	await expect(on.getByRole('status')).toContainText(
		'Parallax west: Shown. it says that it plays program 5, Dim Lead.'
	);

	// The bench's own units stand on the server; what is noted of a scene need not reach it.
	await page.route('**/api/v1/set/sent', (route) => route.abort());
	await page.keyboard.press('Space');
	await expect(on.getByRole('status')).toContainText(
		'Orrery: Shown. it says that it plays program 12, Iron Echo.'
	);
	await expect(on.getByRole('status')).toContainText('Sent. It is not noted yet:');
	await page.keyboard.press('ArrowLeft');
	await expect(on.getByRole('status')).toContainText(
		'Orrery: Shown. it says that it plays program 9, Dark Moon.'
	);
	await page.unroute('**/api/v1/set/sent');
	await page.keyboard.press('ArrowRight');
	await expect(on.getByRole('status')).toContainText(
		'Orrery: Shown. it says that it plays program 12, Iron Echo.'
	);
	await expect(on.getByText('It is not noted yet')).toHaveCount(0);
	await page.reload();
	await expect(on.getByText('4 of 9')).toBeVisible();

	await on.getByRole('button', { name: 'Learn a foot switch' }).click();
	const foot = on.getByRole('button', { name: 'Press the simulated foot switch' });
	await foot.click();
	await expect(on.getByText('Controller 80 on channel 1 goes on.')).toBeVisible();
	await foot.click();
	await expect(on.getByText('5 of 9')).toBeVisible();
});
