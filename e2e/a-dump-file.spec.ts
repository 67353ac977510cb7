import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { device, dropFile, expect, test } from './studio';

async function exported(page: Page, name: string, as: 'syx' | 'mid'): Promise<Buffer> {
	const { id } = await device(page, name);
	await page.goto(`/gear/${id}/drawer`);
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('link', { name: `Export .${as}` }).click()
	]);
	return readFileSync(await download.path());
}

const dialog = (page: Page) => page.getByRole('dialog', { name: /^Dump file/ });

test.describe('dump files', () => {
	for (const as of ['syx', 'mid'] as const)
		test(`an exported .${as} comes back byte for byte`, async ({ page }) => {
			const bytes = await exported(page, 'Umbra hall', as);
			const syx = as === 'syx' ? bytes : await exported(page, 'Umbra hall', 'syx');
			await dropFile(page, `umbra.${as}`, bytes);
			await expect(dialog(page)).toContainText('It is a dump of a Ternhill Umbra');
			await expect(
				dialog(page).getByRole('region', { name: 'Slots in the file' }).getByRole('listitem')
			).toHaveCount(50);
			await expect(dialog(page)).toContainText('May 3, 2021');
			await dialog(page).getByLabel('Note').fill('from the test');
			await dialog(page).getByRole('button', { name: 'Keep it' }).click();
			await expect(page.getByRole('heading', { name: `umbra.${as}`, exact: true })).toBeVisible();
			await expect(page.getByText('Not verified', { exact: true })).toBeVisible();
			const version = new URL(page.url()).searchParams.get('v');
			const again = await (await page.request.get(`/api/v1/versions/${version}/export?as=syx`)).body();
			expect(again.equals(syx)).toBe(true);
		});

	test('a truncated file is refused', async ({ page }) => {
		const bytes = await exported(page, 'Orrery', 'syx');
		await dropFile(page, 'cut.syx', bytes.subarray(0, 6000));
		await expect(dialog(page)).toContainText('truncated: it has 6000 bytes and no end');
		await dialog(page).getByLabel('Keep it in the drawer of').selectOption({ label: 'Orrery (same model)' });
		await dialog(page).getByRole('button', { name: 'Keep it' }).click();
		await expect(dialog(page).getByRole('alert')).toContainText(
			'“cut.syx” is truncated: the message at byte 0 has no end. Part of the dump is missing.'.slice(0, 58)
		);
	});

	test('a file of another model is refused', async ({ page }) => {
		const bytes = await exported(page, 'Orrery', 'syx');
		await dropFile(page, 'orrery.syx', bytes);
		await dialog(page)
			.getByLabel('Keep it in the drawer of')
			.selectOption({ label: 'Umbra hall (is another model)' });
		await dialog(page).getByRole('button', { name: 'Keep it' }).click();
		await expect(dialog(page).getByRole('alert')).toContainText(
			'is a dump of a Vellbrook Orrery; “Umbra hall” is a Ternhill Umbra'
		);
	});

	test('of twins that nothing in the file tells apart, somebody says which', async ({ page }) => {
		const hall = await device(page, 'Umbra hall');
		const made = await page.request.post(`/api/v1/devices/${hall.id}/duplicate`);
		const twin = (await made.json()) as { id: string };
		try {
			const bytes = await exported(page, 'Umbra hall', 'syx');
			await page.goto('/');
			await dropFile(page, 'umbra.syx', bytes);
			await expect(dialog(page)).toContainText('fit equally: choose the one that it came from');
			const choice = dialog(page).getByLabel('Keep it in the drawer of');
			await expect(choice).toHaveValue('');
			await expect(dialog(page).getByRole('button', { name: 'Keep it' })).toBeDisabled();
			await choice.selectOption({ label: 'Umbra hall 2 (same model)' });
			await expect(dialog(page)).not.toContainText('fit equally');
			await dialog(page).getByRole('button', { name: 'Keep it' }).click();
			await expect(page).toHaveURL(new RegExp(`/gear/${twin.id}/drawer`));
			// In the drawer of one of them it is meant for that one.
			await page.goto(`/gear/${hall.id}/drawer`);
			await dropFile(page, 'umbra.syx', bytes);
			await expect(choice).toHaveValue(hall.id);
		} finally {
			await page.request.delete(`/api/v1/devices/${twin.id}`);
		}
	});

	test('a damaged file is refused, and says which message', async ({ page }) => {
		const bytes = Buffer.from(await exported(page, 'Orrery', 'syx'));
		bytes[2000] ^= 1;
		await dropFile(page, 'damaged.syx', bytes);
		await expect(dialog(page)).toContainText('Message 1 is damaged: checksum');
		await dialog(page).getByRole('button', { name: 'Keep it' }).click();
		await expect(dialog(page).getByRole('alert')).toContainText('Message 1 of “damaged.syx” is damaged');
	});

	test('an unknown dump is kept raw by a device without a profile, and compared as bytes', async ({
		page
	}) => {
		await page.goto('/gear');
		for (const last of [5, 6]) {
			await dropFile(page, `reed-${last}.syx`, Buffer.from([0xf0, 0x7d, 0x01, 0x02, 0x03, last, 0xf7]));
			await expect(dialog(page)).toContainText('No profile knows it');
			await dialog(page)
				.getByLabel('Keep it in the drawer of')
				.selectOption({ label: 'Halloran Reed (kept raw)' });
			await dialog(page).getByRole('button', { name: 'Keep it' }).click();
			await expect(page.getByRole('heading', { name: `reed-${last}.syx`, exact: true })).toBeVisible();
			await expect(page.getByText('1 raw message')).toBeVisible();
		}
		await page.keyboard.press('c');
		await expect(page.getByRole('region', { name: 'Bytes of message 1' })).toContainText('f0');
		await expect(page.locator('.text-rust.underline')).toHaveText(['05', '06']);
	});

	test('what is no dump at all is said to be none', async ({ page }) => {
		await page.goto('/');
		await dropFile(page, 'holiday.txt', Buffer.from('dear diary'));
		await expect(dialog(page).getByRole('alert')).toContainText(
			'There is no system exclusive message in “holiday.txt”.'
		);
		await page.keyboard.press('Escape');
		await expect(dialog(page)).toBeHidden();
		await dropFile(page, 'empty.syx', Buffer.alloc(0));
		await expect(dialog(page).getByRole('alert')).toContainText('“empty.syx” is empty.');
	});
});
