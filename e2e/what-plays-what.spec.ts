import { addDevice, backUp, expect, result, start, test } from './studio';
import type { Page } from '@playwright/test';

interface Slot {
	plays: { label: string; index: number; sound: string | null }[];
}

/** The newest version of a device. */
async function newest(page: Page, deviceId: string): Promise<string> {
	const transfers = (await (await page.request.get(`/api/v1/transfers?device=${deviceId}`)).json()) as {
		versionId: string;
	}[];
	return transfers[0].versionId;
}

/** What each part of a performance plays, by a version. */
async function plays(page: Page, version: string, performance: number): Promise<Slot['plays']> {
	const route = `/api/v1/versions/${version}/slots/performances:${performance}`;
	return ((await (await page.request.get(route)).json()) as Slot).plays;
}

/** The names of all tones that the first performances play, by the newest version. */
async function played(page: Page, deviceId: string): Promise<(string | null)[][]> {
	const version = await newest(page, deviceId);
	const all = await Promise.all(Array.from({ length: 32 }, (_, i) => plays(page, version, i)));
	return all.map((parts) => parts.map(({ sound }) => sound));
}

test('a bank is put in another order, and every performance goes on playing what it played', async ({
	page
}) => {
	test.setTimeout(150_000);
	const { id } = await addDevice(page, 'Harbeck Cairn — sample player', 'Ordered Cairn');
	await backUp(page, id);
	const before = await played(page, id);

	await page.goto(`/gear/${id}/drawer`);
	await page.getByRole('button', { name: 'Begin a bank with it' }).click();
	const slot = (n: number) => page.locator(`[data-slot="${n}"]`);
	const name = async (n: number) => (await slot(n).innerText()).trim().split('\n').at(-1);
	const moved = await name(3);
	await slot(3).focus();
	for (let i = 0; i < 5; i++) await page.keyboard.press('Alt+ArrowRight');
	await expect(slot(8)).toBeFocused();
	expect(await name(8)).toBe(moved);
	await expect(page.getByText('Saved.')).toBeVisible();
	await page.keyboard.press('r');

	const card = page.getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText('6 of 64 slots differ');
	const keep = card.getByRole('checkbox', { name: /^Keep what \d+ performances play/ });
	await expect(card).toContainText('they play something else');
	await keep.check();
	await expect(card).not.toContainText('they play something else');
	await expect(keep).toBeChecked();
	await card.getByText('Which, one by one').click();
	await expect(
		card.getByRole('list', { name: 'What names what is moved' }).getByRole('listitem').first()
	).toContainText('tone:');
	await start(page);
	await expect(result(page)).toContainText('Verified');

	// Read anew from the instrument, not from what was planned.
	await backUp(page, id);
	expect(await played(page, id)).toEqual(before);
});

test('one sees what a performance plays, who plays that, and brings a performance back with its tones', async ({
	page
}) => {
	test.setTimeout(150_000);
	const { id } = await addDevice(page, 'Harbeck Cairn — sample player', 'Older Cairn');
	await backUp(page, id);
	const before = await played(page, id);
	const old = await newest(page, id);
	const [first] = await plays(page, old, 0);

	// Somebody makes the first tone of the first performance anew, at the panel.
	await page.goto(`/gear/${id}/ports`);
	const panel = page.getByRole('group', { name: /^Front panel/ });
	for (let i = 0; i < first.index; i++) await panel.getByRole('button', { name: 'Next slot' }).click();
	// What is typed before the panel has switched over belongs to the slot before.
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText(`Tone ${first.label}`);
	await panel.getByRole('textbox', { name: 'Name' }).fill('Made Anew');
	await panel.getByRole('textbox', { name: 'Name' }).press('Enter');
	await expect(panel.getByRole('status', { name: 'Display' })).toContainText('Made Anew');
	await backUp(page, id);
	expect((await played(page, id))[0][0]).toBe('Made Anew');

	await page.goto(`/gear/${id}/drawer?v=${old}`);
	await page.locator('button.cell').filter({ hasText: 'P01' }).first().press('Enter');
	const sheet = page.getByRole('region', { name: 'Slot P01' });
	const parts = sheet.getByRole('list', { name: 'What it plays' });
	await expect(parts.getByRole('listitem')).toHaveCount(8);
	await parts
		.getByRole('button', { name: new RegExp(`^${first.label}`) })
		.first()
		.click();
	const tone = page.getByRole('region', { name: `Slot ${first.label}` });
	await tone.getByRole('list', { name: 'What plays it' }).getByRole('button', { name: /^P01/ }).click();
	await sheet.getByRole('button', { name: 'Check it in the tray' }).click();

	const card = page.getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText('its sound will be in no slot that was read');
	await card.getByRole('checkbox', { name: /^Bring 1 tone along/ }).check();
	await expect(card).not.toContainText('its sound will be in no slot');
	await start(page);
	await expect(result(page)).toContainText('Verified');
	await backUp(page, id);
	expect((await played(page, id))[0]).toEqual(before[0]);
});
