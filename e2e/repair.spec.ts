import { cpSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { template } from './prepare';
import { serve, type Served } from './server-process';
import { expect, test } from './studio';

const PORT = 5407;
const data = mkdtempSync(join(tmpdir(), 'drawer-repair-'));
let server: Served;
test.use({ baseURL: `http://127.0.0.1:${PORT}` });

/** Has the file say that a slot of one device holds nothing any more. */
const damage = () =>
	new Promise<void>((done, failed) => {
		const database = new sqlite3.Database(join(data, 'studio.sqlite'));
		database.run(
			`UPDATE slot_runs SET current = 0 WHERE slot = 7 AND current = 1
			 AND device = (SELECT device FROM slot_runs WHERE current = 1 ORDER BY id LIMIT 1)`,
			(error: Error | null) => database.close(() => (error ? failed(error) : done()))
		);
	});

test.beforeAll(async () => {
	cpSync(template, data, { recursive: true });
	await damage();
	server = await serve(PORT, data, {}, true);
});
test.afterAll(async () => {
	await server.kill();
	rmSync(data, { recursive: true, force: true });
});

test('what is wrongly said of a slot is named by the check and rebuilt from the messages, with a copy first', async ({
	page
}) => {
	await page.goto('/care');
	await page.getByRole('button', { name: 'Check everything' }).click();
	await expect(page.getByText('1 fault found.')).toBeVisible({ timeout: 20_000 });
	await expect(page.getByText(/one slot is said to hold something else than the version/)).toBeVisible();
	// There is nothing to be set aside.
	await expect(page.getByRole('button', { name: 'Set what is damaged aside' })).toBeHidden();
	await page.getByRole('button', { name: 'Rebuild from the messages' }).click();
	await expect(page.getByText(/Everything is whole: \d+/)).toBeVisible({ timeout: 20_000 });
	await expect(page.getByText(/As it was before, it is in .*studio\.sqlite\.before-repair-/)).toBeVisible();
	expect(readdirSync(data).filter((name) => name.includes('.before-repair-'))).toHaveLength(1);
});
