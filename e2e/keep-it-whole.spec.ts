import { readFileSync, writeFileSync } from 'node:fs';
import { device, expect, test } from './studio';

test('label, tag and pin a version', async ({ page }) => {
	const { id } = await device(page, 'Umbra hall');
	await page.goto(`/gear/${id}/drawer`);
	await page.getByRole('button', { name: 'Title, note and tags' }).click();
	await page.getByLabel('Title').fill('Dome, dry');
	await page.getByLabel('Tags, with commas between').fill('dome, dry');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Dome, dry' })).toBeVisible();
	await page.getByRole('button', { name: 'Pin', exact: true }).click();
	await expect(page.getByText('pinned', { exact: true })).toBeVisible();
});

test('Today puts the riskiest first, with its reasons and one action each', async ({ page }) => {
	await page.goto('/');
	await expect(page.getByRole('heading', { level: 1 })).toContainText('at risk today');
	const points = (
		await page
			.getByRole('img', { name: /^Risk/ })
			.evaluateAll((bars) => bars.map((bar) => Number(bar.getAttribute('aria-label')!.match(/\d+/)![0])))
	).map(Number);
	expect(points.length).toBeGreaterThan(3);
	expect(points).toEqual([...points].sort((a, b) => b - a));
	await page.getByText('How the risk is counted').click();
	await expect(page.getByText('Never backed up: 60.')).toBeVisible();
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
	await expect(page.getByText(/The file is no .zip archive, or it is damaged:/)).toBeVisible();
	await page.getByRole('button', { name: 'Check everything' }).click();
	await expect(page.getByText(/Everything is whole: \d+/)).toBeVisible({ timeout: 20_000 });
	await page.getByRole('button', { name: 'See what could go' }).click();
	await expect(page.getByText(/would go|all \d+ versions stay/)).toBeVisible();
});
