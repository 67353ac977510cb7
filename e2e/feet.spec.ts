import type { Page } from '@playwright/test';
import { expect, test } from './studio';

const line = (page: Page, name: string) => page.getByRole('listitem', { name });

test('an inverted switch is mended in the menu of its box, a wrong cable by another one, and both are taken back', async ({
	page
}) => {
	await page.goto('/control/feet');
	const stomp = line(page, 'Lantern delay Foot – Grey stomp switch');
	await expect(stomp.getByText('Acts inverted')).toBeVisible();
	await expect(stomp.getByText('(second press of Glow, then Foot)').first()).toBeVisible();
	await stomp.getByRole('button', { name: /^Done Tell “Foot”/ }).press('Enter');
	await expect(stomp.getByText('Works', { exact: true })).toBeVisible();

	const twins = line(page, 'Treadle Feet A – Twin feet');
	await expect(twins.getByRole('row', { name: 'right down open closed' })).toBeVisible();
	await twins.getByRole('button', { name: /^Done Use “Red cable/ }).press('Enter');
	await expect(twins.getByText('Works', { exact: true })).toBeVisible();
	await expect(twins.getByRole('row', { name: 'right down open closed' })).toBeVisible();
	await expect(twins.getByRole('row', { name: 'up open open' })).toBeVisible();

	// A pedal whose wiper lies on the other contact changes places with one that does not mind.
	const slim = line(page, 'Treadle Sweep C – Slim sweep pedal');
	await slim
		.getByRole('button', { name: /^Done Exchange its jack with that of Old sweep pedal/ })
		.press('Enter');
	await expect(
		line(page, 'Treadle Sweep B – Slim sweep pedal').getByText('Works', { exact: true })
	).toBeVisible();
	await expect(page.getByText(/by what is noted of them all work/)).toBeVisible();

	await page.keyboard.press('Control+z');
	await expect(page.getByRole('button', { name: /^Redo: .*Exchange its jack/ })).toBeVisible();
	await expect(slim.getByText('Cannot')).toBeVisible();
	// What is complained of leads to what may be the cause.
	await slim.getByLabel('What is wrong with it?').selectOption('It jumps');
	await expect(slim.getByRole('list').getByRole('listitem').first()).toContainText('It is as noted');
});

test('a worn pedal is calibrated by foot: ends, noise and the place that it leaps over', async ({ page }) => {
	await page.goto('/control/feet');
	const old = line(page, 'Treadle Sweep B – Old sweep pedal');
	await old.getByRole('button', { name: /^Calibrate/ }).press('Enter');
	await expect(old.getByRole('status')).toHaveText('Move the pedal from heel to toe.');
	await old.getByRole('button', { name: 'Go through it twice' }).press('Enter');
	await expect(old.getByText(/controller 11 on channel 16/)).toBeVisible();
	await expect(old.getByText('the track is likely worn there')).toBeVisible({
		timeout: 20_000
	});
	await expect(old.getByRole('status')).toHaveText(/Both ends were heard/);
	await old.getByLabel('What reads the pedal').selectOption('Dusk: Delay mix');
	await expect(old.getByText('By what was heard it would have been engaged from')).toBeVisible();
	await old.getByRole('button', { name: 'Keep it' }).press('Enter');
	await expect(old.getByRole('button', { name: /^Calibrate again/ })).toBeVisible();
	await expect(old.getByText(/calibrated .* on the bench/)).toBeVisible();
	await expect(old.getByText('Works, looks worn')).toBeVisible();
	await old.getByLabel('What reads the pedal').selectOption('Dusk: Delay mix');
	await expect(old.getByRole('img', { name: /^Dusk: Delay mix: 20 %/ })).toBeVisible();

	// It is kept: with the ends that its pot has, 0.02 + 0.91 · (0.04 … 0.9) of 127 by its own arithmetic.
	const { document } = await (await page.request.get('/api/v1/floor')).json();
	const [kept] = document.calibrations;
	expect(kept).toMatchObject({ line: 'old', controller: 11, channel: 16, world: 'bench' });
	expect(Math.abs(kept.heel - 7.16)).toBeLessThan(1.5);
	expect(Math.abs(kept.toe - 106.55)).toBeLessThan(1.5);
	expect(kept.worn.length).toBeGreaterThan(0);
	await page.reload();
	await expect(old.getByText(/calibrated .* on the bench/)).toBeVisible();

	// A recording says it, too: a second at 10, up by ones, and a second at 120 that only its end shows (192 ticks a second).
	const steps = Array.from({ length: 111 }, (_, i) => [
		i === 0 ? 0 : i === 1 ? 120 : 3,
		0xb2,
		7,
		10 + i
	]).flat();
	const track = [...steps, 0x81, 0x40, 0xff, 0x01, 0, 0, 0xff, 0x2f, 0];
	const file = Buffer.from([
		...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
		...[0x4d, 0x54, 0x72, 0x6b, 0, 0, track.length >> 8, track.length & 255],
		...track
	]);
	const recording = old.getByLabel('From a recording');
	await recording.setInputFiles({ name: 'foot.mid', mimeType: 'audio/midi', buffer: Buffer.from('no midi') });
	await expect(page.getByText(/is not a Standard MIDI File|not a MIDI file/i)).toBeVisible();
	await recording.setInputFiles({ name: 'foot.mid', mimeType: 'audio/midi', buffer: file });
	await expect(old.getByText('foot.mid: controller 7 on channel 3, now')).toBeVisible();
	await expect(old.getByText('Noted is controller 11 on channel 16: is this the pedal?')).toBeVisible();
	await old.getByRole('button', { name: 'Keep it' }).press('Enter');
	await expect(old.getByText(/calibrated .* from a file/)).toBeVisible();
});

test('a studio of its own: box, jack, pedal and cable, plugged in and judged before', async ({ page }) => {
	await page.goto('/control/feet/shelf');
	await page.getByLabel('Box', { exact: true }).fill('Span 61');
	await page.keyboard.press('Enter');
	await expect(page.getByText('Span 61 is on the floor')).toBeVisible();
	await page.getByText('One more jack of Span 61').press('Enter');
	const jack = page.getByRole('form', { name: 'Add a jack to Span 61' });
	await jack.getByLabel('As the box calls it').fill('Hold');
	await jack.getByLabel('Takes').selectOption('One switch');
	await jack.getByRole('button').press('Enter');
	await expect(page.getByText('Hold: one switch').last()).toBeVisible();
	const pedal = page.getByRole('form', { name: 'Add a pedal' });
	await pedal.getByLabel('Name').fill('Left thing');
	await pedal.getByLabel('Kind').selectOption('Foot switch, normally closed, own TS plug');
	await pedal.getByRole('button').press('Enter');
	await expect(page.getByText('Left thing', { exact: true }).first()).toBeVisible();

	await page.getByRole('link', { name: 'Lines' }).press('Enter');
	const plug = page.getByRole('form', { name: 'Plug in' });
	await plug.getByLabel('Jack').selectOption('Span 61 · Hold');
	await plug.getByLabel('Pedal').selectOption('Left thing');
	await expect(plug.getByRole('status')).toContainText('Not as it is: It acts when it is let go');
	await plug.getByRole('button').press('Enter');
	await expect(line(page, 'Span 61 Hold – Left thing').getByText('Acts inverted')).toBeVisible();
	await page.getByRole('link', { name: 'All pairings' }).press('Enter');
	await expect(page.getByRole('row', { name: /^Span 61 · Hold/ })).toContainText('inverted');

	// What its buttons do is written down, and a spare stands in for one of them.
	await page.getByRole('link', { name: 'What there is' }).press('Enter');
	await page.locator('summary', { hasText: 'menus of Span 61' }).press('Enter');
	const words = page.getByRole('form', { name: 'Pages, spare switches and menus of Span 61' });
	const keep = words.getByRole('button', { name: 'Keep it' });
	await words.getByLabel('Pages').fill('Live\nA: Organ only | Everything\nB: Strings\n\nLate = Life');
	await words.getByLabel('Spare switches').fill('Left thing');
	await words.getByLabel('Where its menus have what').fill('Hold, which way: Global › Foot');
	await keep.press('Enter');
	await expect(page.getByRole('alert')).toContainText('Line 5: there is no page “Life” for Late to show.');
	await words.getByLabel('Pages').fill('Live\nA: Organ only | Everything\nB: Strings\n\nLate = Live');
	await keep.press('Enter');
	await expect(page.getByRole('button', { name: /^Undo: Span 61: pages/ })).toBeVisible();
	await expect(keep).toBeDisabled();
	await page.getByRole('link', { name: 'Deputies' }).press('Enter');
	const own = page.getByRole('region', { name: 'Span 61' });
	await own.getByLabel('Left thing').selectOption({ label: 'Live A: Organ only / Everything' });
	await expect(own.getByText('short: Organ only · long: Everything')).toBeVisible();
	await own.getByRole('button', { name: 'Hold Left thing' }).press('Enter');
	await expect(own.getByText('Everything, as Live A does, with Live showing.')).toBeVisible();
	await page.getByLabel('A word of the setting').fill('which way');
	await expect(page.getByText('Span 61 · Hold, which way: Global › Foot')).toBeVisible();
});

test('slots, presets and deputies: what a change costs, what a spare does, what conflicts', async ({
	page
}) => {
	await page.goto('/control/feet/slots');
	await expect(page.getByText(/1 slot and 2 parameters of 2 presets to set anew/)).toBeVisible();
	await page.getByRole('button', { name: /^Have them read a slot Treadle Sweep C/ }).press('Enter');
	await expect(page.getByText(/Sweep C – Slim sweep pedal: 1 slot to set anew/)).toBeVisible();
	const form = page.getByRole('form', { name: 'Have a parameter read a pedal' });
	await form.getByLabel('Preset').fill('Night');
	await form.getByLabel('Parameter').fill('Shimmer');
	await form.getByLabel('Reads').selectOption('Treadle, slot 4');
	await form.getByLabel('At the heel').fill('-18');
	await form.getByLabel('At the toe').fill('loud');
	await expect(form.getByRole('button')).toBeDisabled();
	await form.getByLabel('At the toe').fill('-6');
	await form.getByRole('button').press('Enter');
	await expect(page.getByText('Slot 4 of Treadle is read by Night, and no pedal feeds it.')).toBeVisible();

	await page.getByRole('link', { name: 'Deputies' }).press('Enter');
	await page.getByRole('button', { name: 'Press left foot of Feet A' }).press('Enter');
	await expect(page.getByText('Stop all notes, as Doors 2 does, with Show showing.')).toBeVisible();
	// Another box of the floor may have pages, too.
	const treadle = page.getByRole('region', { name: 'Treadle' });
	await treadle.getByLabel('Find a function').fill('tap');
	await page.getByLabel('right foot of Feet A').selectOption({ label: 'Show 3: Tap tempo / Tempo to 60' });
	await expect(page.getByText(/Show is followed by Encore/)).toBeVisible();
	await treadle.getByLabel('Page that is showing').selectOption('Doors');
	await page.getByRole('button', { name: 'Hold right foot of Feet A' }).press('Enter');
	await expect(page.getByText('Tempo to 60, as Show 3 does, with Doors showing.')).toBeVisible();
	await page.getByLabel('A word of the setting').fill('long');
	await expect(
		page.getByText('Lantern delay · Long press, how long: second press of Glow, then Hold')
	).toBeVisible();

	await page.getByRole('link', { name: 'Sheet' }).press('Enter');
	await page.emulateMedia({ media: 'print' });
	await expect(
		page.getByRole('row', { name: /^Show 3 Tap tempo Tempo to 60 right foot of Feet A/ })
	).toBeVisible();
	await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
});
