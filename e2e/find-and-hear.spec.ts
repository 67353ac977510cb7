import type { Page } from '@playwright/test';
import { injectMidi, standIn, useHardware } from './stand-in/inject';
import { device, expect, result, start, test } from './studio';

const hear = (page: Page) => page.getByRole('region', { name: 'Hear it' });
const cell = (page: Page, label: string) =>
	page
		.locator('button.cell')
		.filter({ hasText: new RegExp(`^\\s*${label}`) })
		.first();
const memoryOf = async (page: Page, unit: string) =>
	((await (await page.request.get(`/api/v1/bench/units/${unit}`)).json()) as { memory: string }).memory;

test('a sound is found in spite of a slip, made a favourite, and put into a bank', async ({ page }) => {
	await page.goto('/sounds');
	const field = page.getByLabel('Find a sound by its name, or part of it');
	await field.fill('slow eclpise');
	await expect(page.getByRole('status').first()).toContainText(
		'No sound is called “slow eclpise”. Nearly so:'
	);
	const row = page
		.getByRole('row')
		.filter({ has: page.getByRole('link', { name: /^Slow Eclipse$/i }) })
		.first();
	const star = row.getByRole('button', { name: /^Favourite: Slow Eclipse/i });
	await star.click();
	await expect(star).toHaveAttribute('aria-pressed', 'true');
	await page.getByRole('link', { name: 'Favourites', exact: true }).click();
	await expect(page).toHaveURL(/favourites/);
	await page.reload();
	await expect(star).toHaveAttribute('aria-pressed', 'true');

	await row.getByRole('button', { name: /^Add to a bank/ }).click();
	const bank = row.getByRole('button', { name: 'Night of the comets' });
	await bank.click();
	const footer = page.getByRole('contentinfo');
	await expect(footer).toContainText(/is in Night of the comets, \d+/);
	await footer.getByRole('button', { name: 'Undo' }).click();
	await expect(footer).toContainText('out of Night of the comets again');

	// What is written on banks and versions is found, too.
	await page.goto('/sounds?q=comets');
	await page.getByRole('link', { name: 'Bank: Night of the comets' }).click();
	await expect(page).toHaveURL(/\/sounds\/banks\//);
});

test('find a sound by name, with where it is and where it was', async ({ page }) => {
	await page.goto('/');
	await page.getByRole('searchbox', { name: 'Find a sound' }).fill('slow ÉCLIPSE');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { name: 'In a device now' })).toBeVisible();
	const now = page.locator('table').first();
	await expect(now).toContainText('Slow Eclipse');
	await now.getByRole('link', { name: /Slow Eclipse in Orrery, slot 12/ }).click();
	await expect(page.getByRole('heading', { name: 'Première bank' })).toBeVisible();
});

test('the life of a sound, and look-alikes', async ({ page }) => {
	await page.goto('/sounds?q=slow+eclipse');
	await page.getByRole('link', { name: 'Slow Eclipse' }).first().click();
	await expect(page.getByRole('heading', { name: 'Its life' })).toBeVisible();
	await expect(page.getByText(/first seen/)).toBeVisible();
	await page
		.getByRole('button', { name: /^Go back to this/ })
		.first()
		.click();
	await page.getByLabel('Slot', { exact: true }).selectOption({ index: 2 });
	await page.getByRole('button', { name: 'Look at it first' }).click();
	await expect(page.getByRole('region', { name: 'Before it starts' })).toContainText('from one sound');
	await page.goto('/sounds/look-alikes');
	await expect(page.getByText(/families of look-alikes|family of look-alikes/)).toBeVisible();
});

test('a slot is heard on the bench, and a kept sound tried without storing it', async ({ page }) => {
	const orrery = await device(page, 'Orrery');
	await page.goto(`/gear/${orrery.id}/drawer`);
	const before = await memoryOf(page, orrery.benchUnit!);
	await cell(page, '13').click();
	await expect(hear(page)).toContainText('Orrery selects 13 by program change 2 (counted from 0)');
	await hear(page).getByRole('button', { name: 'Select it and play a note' }).click();
	await expect(hear(page).getByRole('status')).toContainText('Program 13');
	await expect(hear(page).getByRole('status')).toContainText('note 60 sounded');

	await cell(page, '22').click();
	await page.getByRole('button', { name: 'Look-alikes' }).click();
	const alike = page.getByRole('region', { name: 'Look-alikes' });
	await expect(alike.getByRole('listitem').first()).toContainText('Orrery 22 (was)');
	await expect(alike.getByRole('listitem').first()).toContainText('→');

	// A sound of the oldest version is not the one that the device holds today: the sheet says so, and it can be heard.
	const handle = page.getByRole('slider', { name: 'Version that is open' });
	await handle.press('Home');
	await expect(page).toHaveURL(/v=/);
	const oldest = page.url();
	await handle.press('ArrowRight');
	await expect(page).not.toHaveURL(oldest);
	await page.keyboard.press('c');
	await expect(page.getByText(/slots? differs?/)).toBeVisible();
	const differs = page.locator('.slot.differs button.cell').first();
	await differs.click();
	await expect(page.getByRole('region', { name: /^Changes of/ })).toBeVisible();
	const sheet = page.getByRole('region', { name: /^Slot / });
	const name = (await sheet.getByRole('heading', { level: 3 }).innerText()).split(/\s+/).slice(1).join(' ');
	await hear(page).getByRole('button', { name: 'Try this program without storing it' }).click();
	await expect(hear(page).getByRole('status')).toContainText(name);
	await expect(hear(page).getByRole('status')).toContainText('EDIT BUFFER');
	expect(await memoryOf(page, orrery.benchUnit!)).toBe(before);

	await page.keyboard.press('.');
	await expect(page.getByRole('contentinfo')).toContainText(
		'All notes off was sent to one device on the bench'
	);
});

test.describe('while a dump passes', () => {
	test.use({ speed: 0.2 });

	test('no note breaks into it, and panic leaves it alone', async ({ page }) => {
		test.setTimeout(90_000);
		const orrery = await device(page, 'Orrery');
		await page.goto(`/transfers/new?device=${orrery.id}`);
		await start(page);
		await expect(page.getByText('On the wire')).toBeVisible();
		await page
			.getByRole('navigation', { name: 'Cabinet' })
			.getByRole('link', { name: /^Orrery/ })
			.click();
		await page.getByRole('button', { name: 'Close the tray' }).first().click();
		await cell(page, '13').click();
		await hear(page).getByRole('button', { name: 'Select it and play a note' }).click();
		await expect(hear(page).getByRole('alert')).toContainText('A dump passes the line');
		await page.keyboard.press('.');
		await expect(page.getByRole('contentinfo')).toContainText('Nothing was silenced');
		await page.getByRole('banner').locator('a[href="/transfers/bench"]').click();
		await page.getByLabel('Speed of the line').selectOption({ label: '20 × wire speed' });
		await page.keyboard.press('t');
		await expect(result(page)).toContainText('Complete, checksums right', { timeout: 40_000 });
	});
});

test('over real ports a note ends with its time, with the page, and by panic', async ({ page, context }) => {
	await injectMidi(context, { speed: 1 });
	await useHardware(page);
	const { id } = await device(page, 'Orrery');
	await page.goto(`/gear/${id}/drawer`);
	await cell(page, '22').click();
	await expect(hear(page)).toContainText('Turn the volume down first');
	const play = hear(page).getByRole('button', { name: 'Select it and play a note' });
	const sounding = async () => (await standIn(page, 'panel', 0, 0)).sounding;
	await play.click();
	await expect.poll(sounding).toEqual([60]);
	await expect.poll(sounding).toEqual([]);
	expect((await standIn(page, 'panel', 0, 0)).program.label).toBe('22');
	// It says that it was sent, and not what was heard.
	await expect(hear(page).getByRole('status')).toContainText('sent to Ferry 8 Out 1');

	// The page goes away while it sounds.
	await play.click();
	await expect.poll(sounding).toEqual([60]);
	const began = Date.now();
	await page.evaluate(() => dispatchEvent(new Event('pagehide')));
	await expect.poll(sounding, { intervals: [20] }).toEqual([]);
	expect(Date.now() - began).toBeLessThan(600);
	await expect(play).toBeEnabled();

	// Something else left a note hanging.
	await page.evaluate(async () => {
		const access = await (
			navigator as unknown as {
				requestMIDIAccess(): Promise<{ outputs: Map<string, { send(bytes: number[]): void }> }>;
			}
		).requestMIDIAccess();
		access.outputs.get('out-0')!.send([0x93, 64, 100]);
	});
	await expect.poll(sounding).toEqual([64]);
	await page.keyboard.press('.');
	await expect.poll(sounding).toEqual([]);
	await expect(page.getByRole('contentinfo')).toContainText('All notes off was sent to 5 outs.');
});
