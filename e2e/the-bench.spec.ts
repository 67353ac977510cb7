import type { Page } from '@playwright/test';
import { addDevice, backUp, expect, flip, result, start, test } from './studio';

/** Presses the dump button once the app asks for it in this phase; the next asking may follow at once. */
async function dumpWhenAsked(page: Page, phase: string): Promise<void> {
	const progress = page.getByRole('region', { name: 'Progress' });
	await expect(progress.getByRole('heading', { level: 2 })).toHaveText(phase);
	await expect(progress.getByRole('alert')).toContainText('On the Nadir press DUMP ALL KITS.');
	await page.getByRole('button', { name: 'DUMP ALL KITS' }).click();
}

test('samples and universal messages on the bench', async ({ page }) => {
	await page.goto('/transfers/universal');
	await page.getByRole('button', { name: 'Receive it' }).click();
	await expect(page.getByText(/packets received, 0 sent again/)).toBeVisible({ timeout: 20_000 });
	await page.getByRole('button', { name: 'General MIDI on' }).click();
	await expect(page.getByText('Sent: General MIDI on, all devices.')).toBeVisible();
});

test('a dump started at the panel, and a protected device refused with the right words', async ({ page }) => {
	const { id } = await addDevice(page, 'Quillon Nadir — drum machine', 'Protected Nadir');
	await backUp(page, id, async () => {
		// Nothing hears a dump that is started before the app listens.
		await expect(page.getByRole('region', { name: 'Progress' }).getByRole('alert')).toContainText(
			'press DUMP ALL KITS.'
		);
		await page.getByRole('button', { name: 'DUMP ALL KITS' }).click();
	});
	await page.goto(`/gear/${id}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	await panel.getByRole('textbox', { name: 'Name' }).fill('TOO LATE');
	await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('TOO LATE');

	// It is on as after every power-on, though the boxes are ticked.
	await page.goto(`/gear/${id}/drawer`);
	await page.keyboard.press('r');
	await start(page);
	await dumpWhenAsked(page, 'Keeping what will be overwritten');
	await dumpWhenAsked(page, 'Reading back to compare');
	await expect(result(page)).toContainText('Refused');
	await expect(result(page)).toContainText(
		'its memory is protected, or it does not take exclusive messages now'
	);
	await expect(result(page)).toContainText('Memory protect is off. SysEx receive is on.');

	// With the switches set it takes the old kit back.
	await page.getByRole('button', { name: 'Send just this one again' }).click();
	await flip(page, /Memory protect/, false);
	await flip(page, /Exclusive/, true);
	await start(page);
	await dumpWhenAsked(page, 'Keeping what will be overwritten');
	await dumpWhenAsked(page, 'Reading back to compare');
	await expect(result(page)).toContainText('1 slot written and read back equal, 0 already there');
	// The page of the transfer says whose it is, too.
	await page.getByRole('link', { name: 'Its log, with every byte' }).click();
	await expect(page).toHaveURL(/\/transfers\/[-\w]{9}$/);
	const heading = page.getByRole('heading', { level: 1 });
	await expect(heading.getByRole('link', { name: 'Protected Nadir' })).toHaveAttribute(
		'href',
		`/gear/${id}/drawer`
	);
});

test('faults of the bench end in plain words', async ({ page }) => {
	const added = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Faulty Umbra');
	await page.goto('/transfers/bench');
	await page.getByRole('button', { name: /cable to “Faulty Umbra”/ }).click();
	await page.getByLabel('Add a fault').selectOption({ label: 'Answers with another device ID' });
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByRole('button', { name: 'Repair: wrong device ID' })).toBeVisible();
	await page.goto(`/transfers/new?device=${added.id}`);
	await start(page);
	await expect(result(page)).toContainText(
		'The Umbra on this port answers with device ID 1; the catalogue says 0.'
	);
	await page.goto('/transfers/bench');
	await page.getByRole('button', { name: /cable to “Faulty Umbra”/ }).click();
	await page.getByRole('button', { name: 'Repair: wrong device ID' }).click();
	await page.getByLabel('Add a fault').selectOption({ label: 'Adapter swallows long messages' });
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByRole('button', { name: 'Repair: drop long messages' })).toBeVisible();
	await page.goto(`/transfers/new?device=${added.id}`);
	await start(page);
	await expect(result(page)).toContainText('Refused');
	await expect(result(page)).toContainText('does not answer');
});
