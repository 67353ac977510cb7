import { mixedStudio } from '../src/lib/core/plan/mixed-studio.fixture';
import { expect, ownStudio, test } from './studio';

ownStudio(5396);

test('a large plan is there at once, gets better, and stopped it says how far it came', async ({ page }) => {
	await page.goto('/wiring/sheets');
	await page.getByLabel('Open a rig file').setInputFiles({
		name: 'ninety-six.json',
		mimeType: 'application/json',
		buffer: Buffer.from(JSON.stringify(mixedStudio(96, 32, 2)))
	});
	await page.getByRole('button', { name: 'Replace the wiring' }).click();
	await expect(page.getByText('The wiring is that of ninety-six.json')).toBeVisible();
	await page.goto('/wiring/plan');
	await page.getByLabel('Time at most, s').fill('300');
	await page.getByRole('button', { name: 'Make a plan' }).click();

	// Seen, not yet to be carried out, while it goes on.
	await expect(page.getByText('Best so far, still looking')).toBeVisible({ timeout: 60_000 });
	await expect(page.getByRole('button', { name: 'Stop planning' })).toBeVisible();
	await expect(page.getByRole('checkbox').first()).toBeDisabled();
	await expect(page.getByRole('status').filter({ hasText: 'of 6 goals proved' })).toBeVisible();

	await page.getByRole('button', { name: 'Stop planning' }).click();
	await expect(page.getByRole('button', { name: 'Make a plan' })).toBeVisible({ timeout: 30_000 });
	await expect(page.getByText('; stopped')).toBeVisible();
	await expect(page.getByText('Proved best', { exact: true })).toBeHidden();
	await expect(page.getByRole('checkbox').first()).toBeEnabled();
});
