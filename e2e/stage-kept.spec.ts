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
