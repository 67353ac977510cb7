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
	await page.getByRole('link', { name: 'The studio as a bundle' }).click();
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

test('a bundle of a studio that grew apart: what differs is shown beside each other, and only what is chosen changes', async ({
	page
}, info) => {
	const { id } = await device(page, 'Umbra hall');
	const facts = async () =>
		(await (await page.request.get(`/api/v1/devices/${id}`)).json()) as { place: string; notes: string };
	const before = await facts();
	const { place, notes } = before;
	await page.goto('/care');
	const download = page.waitForEvent('download');
	await page.getByRole('link', { name: 'The studio as a bundle' }).click();
	const file = info.outputPath('tour.zip');
	await (await download).saveAs(file);
	// At home it is moved, and something is noted.
	await page.request.put(`/api/v1/devices/${id}`, {
		data: { ...before, place: 'Loft', notes: 'A new fuse.' }
	});
	await page.getByLabel('Import a bundle').setInputFiles(file);
	const differ = page.getByRole('region', { name: 'Where this studio and the bundle differ' });
	await expect(differ.getByText('2 things differ.')).toBeVisible();
	const moved = differ.getByRole('row').filter({ hasText: 'Umbra hall: place' });
	await expect(moved.getByRole('cell')).toHaveText(['Loft', place]);
	await expect(differ.getByRole('button', { name: 'Take from the bundle' })).toBeDisabled();
	expect(await facts()).toMatchObject({ place: 'Loft', notes: 'A new fuse.' });
	await moved.getByRole('checkbox', { name: 'Umbra hall: place' }).check();
	await differ.getByRole('button', { name: 'Take 1 thing from the bundle' }).click();
	await expect(page.getByText('Taken from the bundle: 1 thing.')).toBeVisible();
	await expect(differ.getByText('1 thing differs.')).toBeVisible();
	expect(await facts()).toMatchObject({ place, notes: 'A new fuse.' });
	await differ.getByRole('checkbox', { name: 'As in the bundle' }).check();
	await differ.getByRole('button', { name: 'Take 1 thing from the bundle' }).click();
	await expect(differ).toBeHidden();
	expect(await facts()).toMatchObject({ place, notes });
});
