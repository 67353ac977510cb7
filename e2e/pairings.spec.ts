import { readFileSync } from 'node:fs';
import { expect, test } from './studio';

test('what of mine can do it is asked, noted, taken out as CSV and brought back, and told where cables are planned', async ({
	page
}) => {
	await page.goto('/gear/pairings');
	await page.getByLabel('What', { exact: true }).first().selectOption('tap tempo');
	await page.getByLabel('on', { exact: true }).selectOption('Lantern delay');
	const answers = page.getByRole('status').filter({ hasText: 'Treadle' });
	await expect(answers).toContainText('Treadle: works. Works by DIN, tried on 2026-04-12.');
	await expect(answers).toContainText('mode: Glow held at power-on, then Tempo: see to it');
	await expect(page.getByText('Nobody has tried or read it.').first()).toBeHidden();

	// Tried just now, and it does not.
	const form = page.getByRole('form', { name: 'Note a pairing' });
	await form.getByLabel('Sends').selectOption('Treadle');
	await form.getByLabel('Is told').selectOption('Lantern swell');
	await form.getByLabel('What').fill('tap tempo');
	await form.getByLabel('Result').selectOption('does not work');
	await form.getByRole('button', { name: 'Note it' }).press('Enter');
	await expect(
		page.getByRole('row', { name: /Treadle 6 Bessel Lantern tap tempo does not work DIN tried on/ })
	).toBeVisible();

	const saved = page.waitForEvent('download');
	await page.getByRole('link', { name: 'Save as CSV' }).press('Enter');
	const text = readFileSync((await (await saved).path())!, 'utf8');
	expect(text.trim().split('\n')).toHaveLength(6);
	await page.getByRole('button', { name: /^Take away .*Halloran Reed 2, reading back/ }).press('Enter');
	await expect(page.getByText('Halloran Reed 2', { exact: true })).toHaveCount(0);
	const bring = (body: string) =>
		page
			.getByLabel('Add from CSV')
			.setInputFiles({ name: 'pairs.csv', mimeType: 'text/csv', buffer: Buffer.from(body) });
	await bring('From model,To model,Way,Does,Result\nA,B,smoke,x,works');
	await expect(page.getByText(/^Line 2: way/)).toBeVisible();
	const lines = text.trim().split('\n');
	await bring([lines[0], lines.find((line) => line.includes('reading back'))].join('\n'));
	await expect(page.getByRole('cell', { name: 'Halloran Reed 2', exact: true })).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.getByRole('cell', { name: 'Halloran Reed 2', exact: true })).toHaveCount(0);

	// The cable between the two says so, and so does a plan that keeps it.
	await page.goto('/wiring/problems');
	const notes = page.getByRole('region', { name: 'What these pairs are known not to do' });
	await expect(notes).toContainText('Treadle with Lantern swell: tap tempo does not work by DIN');
});
