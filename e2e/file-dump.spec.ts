import { readFileSync } from 'node:fs';
import { expect, test } from './studio';

test('a file is asked for, kept with an instrument, saved, begun at the panel, and sent', async ({
	page
}) => {
	await page.goto('/transfers/universal');
	const files = page.getByRole('region', { name: 'Files', exact: true });
	await files.getByLabel('Kind of file').selectOption('Text');
	await files.getByLabel('Its name on the instrument').fill('NOTES');
	await files.getByRole('button', { name: 'Ask for it' }).click();
	await expect(files.getByRole('status')).toContainText('“NOTES” came');
	await files.getByLabel('Keep it with').selectOption({ label: 'Orrery' });
	await files.getByRole('button', { name: 'Keep it', exact: true }).click();
	await expect(page.getByText('“NOTES.txt” is kept with Orrery.')).toBeVisible();
	const saved = page.waitForEvent('download');
	await files.getByRole('button', { name: 'Save to this computer' }).click();
	expect(readFileSync(await (await saved).path(), 'utf8')).toContain('The comet cue is on pad 4.');

	await files.getByRole('button', { name: 'Wait for one from its panel' }).click();
	await expect(files.getByRole('status')).toContainText('“SHOW” came');

	await files.getByLabel('Kind of file').selectOption('Anything else');
	await files.getByLabel('Send a file').setInputFiles({
		name: 'Sequence.bin',
		mimeType: 'application/octet-stream',
		buffer: Buffer.alloc(500, 0xa5)
	});
	await expect(files.getByRole('status')).toContainText('5 packets sent');
	await expect(files.getByRole('status')).toContainText('look on its display');

	await files.getByLabel('Its name on the instrument').fill('NO SUCH');
	await files.getByRole('button', { name: 'Ask for it' }).click();
	await expect(files.getByRole('alert')).toContainText('called the transfer off');
});
