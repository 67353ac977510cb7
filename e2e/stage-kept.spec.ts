import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './studio';
import { serve } from './server-process';

const PORT = 5403;
test.use({ baseURL: `http://127.0.0.1:${PORT}` });

test('the stage that is kept is forgotten where the server asks for the passphrase instead', async ({
	page,
	context
}) => {
	const data = mkdtempSync(join(tmpdir(), 'drawer-kept-'));
	const server = await serve(PORT, data, { DRAWER_PASSPHRASE: 'perihelion' });
	try {
		await page.goto('/control/set/run');
		await page.getByLabel('Passphrase').fill('perihelion');
		await page.getByLabel('Passphrase').press('Enter');
		await expect(page.getByText('This page is kept: it opens again without a network.')).toBeVisible();
		const names = () => page.evaluate(() => caches.keys());
		expect(await names()).toHaveLength(1);

		await context.clearCookies();
		await page.goto('/control/set/run');
		await expect(page.getByLabel('Passphrase')).toBeVisible();
		await expect.poll(names).toEqual([]);
		await server.kill();
		await expect(page.goto('/control/set/run')).rejects.toThrow();
	} finally {
		await server.kill();
		rmSync(data, { recursive: true, force: true });
	}
});

test('a page that was kept is not said to be one any more once its reader has been elsewhere', async ({
	page
}) => {
	const data = mkdtempSync(join(tmpdir(), 'drawer-kept-'));
	let server = await serve(PORT, data);
	try {
		await page.goto('/control/set/run');
		await expect(page.getByText('This page is kept: it opens again without a network.')).toBeVisible();
		await server.kill();
		await page.reload();
		const kept = page.getByRole('alert').filter({ hasText: 'this is the page as it was kept' });
		await expect(kept).toBeVisible();
		server = await serve(PORT, data);
		await expect(kept).toBeVisible();
		await page.getByRole('link', { name: 'Gear', exact: true }).click();
		await expect(page.getByRole('heading', { level: 1, name: 'Gear' })).toBeVisible();
		await page.goBack();
		await expect(page.getByRole('region', { name: 'On stage' })).toBeVisible();
		await expect(page.getByText('This page is kept: it opens again without a network.')).toBeVisible();
		await expect(kept).toBeHidden();
	} finally {
		await server.kill();
		rmSync(data, { recursive: true, force: true });
	}
});
