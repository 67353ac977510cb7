import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './studio';

interface StudioRig {
	rig: {
		devices: { id: string; name: string }[];
		cables: { from: string; to: string }[];
		settings: { device: string; channel: number | null }[];
		hosts: { audio: { buffer: number } }[];
	};
	revision: number;
}
const readRig = async (page: Page) => (await (await page.request.get('/api/v1/rig')).json()) as StudioRig;
/** The planetarium as it ships. */
let first: StudioRig['rig'];

test.beforeEach(async ({ page }) => {
	first ??= (await readRig(page)).rig;
	const answer = await page.request.post('/api/v1/rig/import', {
		data: JSON.stringify(first),
		headers: { 'content-type': 'text/plain' }
	});
	expect(answer.ok()).toBe(true);
});

const channelOf = async (page: Page, name: string) => {
	const { rig } = await readRig(page);
	const id = rig.devices.find((device) => device.name === name)!.id;
	return rig.settings.find(({ device }) => device === id)?.channel;
};
const block = (page: Page, name: string) => page.locator(`[data-block]`).filter({ hasText: name });
const cell = (page: Page, row: string, channel: number) => page.locator(`[data-cell="${row} ${channel}"]`);
/** Makes a plan and waits until it is kept and shown; gives its number, since other tests keep plans, too. */
async function makePlan(page: Page): Promise<string> {
	const before = page.url();
	await page.getByRole('button', { name: 'Make a plan' }).click();
	await expect(page).toHaveURL(/plan=\d+/, { timeout: 40_000 });
	await expect(page).not.toHaveURL(before, { timeout: 40_000 });
	return new URL(page.url()).searchParams.get('plan')!;
}
const footer = (page: Page) => page.getByRole('contentinfo');

test('finds the five mistakes of the studio and cures them', async ({ page }) => {
	await page.goto('/wiring/problems');
	await expect(page.getByRole('status').first()).toContainText('5 problems');
	for (const [rule, cure] of [
		['loop', 'Switch soft thru of Orrery off'],
		['return.missing', 'Plug its out into Ferry 8 In 5'],
		['channel.clash', 'Set Umbra hall to channel 1'],
		['cable.trs-crossing', 'Put a crossing adapter on it'],
		['clock.several', 'Let the host lead']
	]) {
		await page.locator(`[data-rule="${rule}"]`).getByRole('button', { name: cure }).click();
		await expect(page.locator(`[data-rule="${rule}"]`)).toHaveCount(0);
	}
	await expect(page.getByText('Nothing is wrong with the wiring')).toBeVisible();

	// The last one comes back by its undo, and goes again.
	await footer(page).getByRole('button', { name: 'Undo' }).click();
	await expect(page.locator('[data-rule="clock.several"]')).toBeVisible();
	await footer(page).getByRole('button', { name: 'Redo' }).click();
	await expect(page.getByText('Nothing is wrong with the wiring')).toBeVisible();

	// Three steps back by the keyboard, a reload in between, and forward again.
	const steps = page.getByRole('group', { name: 'Steps of the wiring' });
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-rule="clock.several"]')).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-rule="cable.trs-crossing"]')).toBeVisible();
	await page.reload();
	await steps.getByRole('button', { name: 'Undo: Set Umbra hall to channel 1' }).click();
	await expect(page.locator('[data-rule="channel.clash"]')).toBeVisible();
	await expect(page.locator('[data-rule="return.missing"]')).toHaveCount(0);
	for (const rule of ['channel.clash', 'cable.trs-crossing', 'clock.several']) {
		await page.keyboard.press('Control+Shift+z');
		await expect(page.locator(`[data-rule="${rule}"]`)).toHaveCount(0);
	}
	await expect(page.getByText('Nothing is wrong with the wiring')).toBeVisible();
	await expect(steps.getByRole('button', { name: 'Redo' })).toHaveCount(0);
});

test('plans, proves, explains, and what is ticked becomes the wiring', async ({ page }) => {
	await page.goto('/wiring/plan');
	const shared = await makePlan(page);
	await expect(page.getByText('Proved best')).toBeVisible({ timeout: 30_000 });
	await page.getByRole('button', { name: 'Why is Umbra hall there?' }).click();
	await expect(page.getByText(/Umbra hall (moves|goes) to Ferry/)).toBeVisible();

	// A second school beside it.
	await page.getByLabel('Port per instrument').check();
	await makePlan(page);
	await expect(page.getByRole('heading', { name: 'Two plans side by side' })).toBeVisible({
		timeout: 30_000
	});
	await expect(page.getByRole('row', { name: /latest note of ten-note chords/ })).not.toContainText('…');
	await page
		.getByRole('navigation', { name: 'Plans that are kept' })
		.locator(`a[href$="plan=${shared}"]`)
		.click();

	// Step by step: what is ticked is noted, comes back by undo, and the plan goes on standing.
	await expect(page.getByText('that is the only cable of Treadle')).toBeVisible();
	const steps = page.getByRole('list').filter({ hasText: 'Pull the cable' }).getByRole('checkbox');
	await expect(steps.first()).not.toBeChecked();
	const count = await steps.count();
	await steps.first().click();
	await expect(steps.first()).toBeChecked();
	await expect(page.getByText(`1 of ${count} steps noted as done`)).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(steps.first()).not.toBeChecked();
	await steps.first().click();
	await expect(steps.first()).toBeChecked();
	await page.reload();
	await expect(steps.first()).toBeChecked();
	await expect(page.getByText('was changed besides this plan')).toHaveCount(0);
	await page.getByRole('button', { name: `The other ${count - 1} are done, too` }).click();
	await expect(footer(page)).toContainText('of the plan done');
	await expect(page.getByText(`${count} of ${count} steps noted as done`)).toBeVisible();

	// Clash and missing return are gone; loop and clocks are no matter of cabling. The foot controller keeps its only cable,
	// as the plan said, and with it the wrong TRS type.
	await page.getByRole('link', { name: /^Problems/ }).click();
	await expect(page.getByRole('status').first()).toContainText('3 problems');
	await expect(page.locator('[data-rule="cable.trs-crossing"]')).toContainText('Treadle');
	await expect(page.locator('[data-rule="loop"]')).toBeVisible();
	await expect(page.locator('[data-rule="clock.several"]')).toBeVisible();
});

test('a plan is ticked from the phone while the map is open in another window', async ({ page, browser }) => {
	await page.goto('/wiring/plan');
	await makePlan(page);
	await expect(page.getByText('Proved best')).toBeVisible({ timeout: 30_000 });
	// Power is not drawn.
	const cables = (await readRig(page)).rig.cables.filter(({ to }) => !to.endsWith(':power')).length;
	await page.getByRole('link', { name: 'Map' }).click();
	await expect(page.locator('[data-cable]')).toHaveCount(cables);

	const phone = await browser.newPage({
		baseURL: new URL(page.url()).origin,
		viewport: { width: 390, height: 780 },
		hasTouch: true
	});
	await phone.goto('/wiring/plan');
	const pull = phone
		.getByRole('listitem')
		.filter({ hasText: /^\s*Pull the cable/ })
		.first();
	const box = (await pull.locator('label').boundingBox())!;
	expect(box.height).toBeGreaterThanOrEqual(44);
	await pull.locator('label').tap();
	await expect(pull.getByRole('checkbox')).toBeChecked();
	// The map has one cable fewer, and says on which step it could be taken back.
	await expect(page.locator('[data-cable]')).toHaveCount(cables - 1);
	await expect(page.getByRole('button', { name: /^Undo: Pull the cable/ })).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-cable]')).toHaveCount(cables);
	await expect(pull.getByRole('checkbox')).not.toBeChecked();
	await phone.close();
});

test('says what would give a place to what has none', async ({ page }) => {
	await page.goto('/wiring/plan');
	await page.getByLabel('Studio-wide channels').check();
	for (let i = 0; i < 2; i++) {
		await page.getByLabel('Name of a supposed instrument').fill(`Choir ${i + 1}`);
		await page.getByLabel('Its parts').fill('8');
		await page.getByRole('button', { name: 'Suppose it' }).click();
	}
	await makePlan(page);
	await expect(
		page.getByText(/^(Proved best|Best found, not proved), \d devices? without a place$/)
	).toBeVisible({
		timeout: 40_000
	});
	await expect(page.locator('[data-unplaced]').first()).not.toBeEmpty();
	await expect(page.getByText('This plan supposes Choir 1, Choir 2')).toBeVisible();
	expect((await readRig(page)).rig.devices.some(({ name }) => name.startsWith('Choir'))).toBe(false);
});

test('a block is dragged into a clash and out again', async ({ page }) => {
	await page.goto('/wiring');
	const reason = page.getByText('Halloran Reed and Parallax west both answer to channel 4');
	await expect(reason).toHaveCount(0);
	const drag = (name: string, row: string, channel: number) =>
		block(page, name).dragTo(cell(page, row, channel), { sourcePosition: { x: 12, y: 10 } });
	/** Once a move is stored and shown, its block has the focus. */
	const settled = () => expect(block(page, 'Parallax west')).toBeFocused();
	await drag('Parallax west', 'Ferry 8 Out 5', 4);
	await expect(footer(page)).toContainText('Parallax west is on Ferry 8 Out 5, channel 4');
	await settled();
	await expect(reason).toBeVisible();
	await expect(block(page, 'Parallax west')).toHaveAccessibleName(/3 deep in the chain, clash/);
	await drag('Parallax west', 'Ferry 8 Out 5', 9);
	await expect(footer(page)).toContainText('channel 9');
	await settled();
	await expect(reason).toHaveCount(0);
	expect(await channelOf(page, 'Parallax west')).toBe(9);

	// A pedal without a thru socket lets nothing hang behind it.
	await drag('Parallax west', 'Ferry 2 Out 1', 9);
	await expect(footer(page)).toContainText('no free thru socket behind Lantern delay');
	expect(await channelOf(page, 'Parallax west')).toBe(9);
});

test('traces a silent device to its cause', async ({ page }) => {
	await page.goto('/wiring/trace');
	await page.getByLabel('From', { exact: true }).selectOption({ label: 'Span 61' });
	await expect(page.locator('[data-reached="Parallax west"]')).toBeVisible();
	const east = page.locator('[data-silent="Parallax east"]');
	await expect(east).toContainText('The track “East” does not echo what comes in.');
	await east.getByRole('button').click();
	await expect(page.getByRole('heading', { name: 'Why don’t I hear Parallax east?' })).toBeVisible();
	await expect(page.getByText('one thing would have to change')).not.toHaveCount(0);

	await page.getByRole('link', { name: 'Ins and outs' }).click();
	await page.getByLabel('Track East echoes').check();
	await expect(footer(page)).toContainText('echo on');
	await page.getByLabel('Keys that are played').selectOption({ label: 'Span 61' });
	await expect(page.getByText('Channel 1:')).toContainText('Parallax east');
});

test('notes what the computer takes, and where its keys go', async ({ page }) => {
	await page.goto('/wiring/host');
	await expect(page.getByText('no audio buffer is noted, so none is counted')).toBeVisible();
	const buffer = page.getByLabel('Audio buffer, samples');
	await buffer.fill('480');
	await buffer.press('Tab');
	await expect(footer(page)).toContainText('Audio buffer noted');
	await expect(
		page.getByText('A software instrument is heard 13.0 ms after its message came in.')
	).toBeVisible();
	await page.getByLabel('Keys go to').selectOption('selected');
	await expect(footer(page)).toContainText('Keys go to the selected track');
	await page.reload();
	await expect(page.getByLabel('Keys go to')).toHaveValue('selected');
	await expect(buffer).toHaveValue('480');
	// More than there can be is not stored.
	await buffer.fill('90000');
	await buffer.press('Tab');
	expect((await readRig(page)).rig.hosts[0].audio.buffer).toBe(480);
});

test('a tablet gets an interface and an instrument, and the plan keeps to them', async ({ page }) => {
	await page.goto('/wiring/host');
	const another = page.getByLabel('Name of another computer or tablet');
	await another.fill('Slate tablet');
	await another.press('Enter');
	await expect(footer(page)).toContainText('Slate tablet added');
	await expect(page.getByRole('link', { name: 'Slate tablet' })).toHaveAttribute('aria-current', 'page');
	await page.getByLabel('Take over from another host').selectOption({ label: 'Ferry 2' });
	await expect(footer(page)).toContainText('Ferry 2 is on Slate tablet now');
	const out = page.getByRole('listitem').filter({ hasText: /^\s*\d+\s+Ferry 2 Out 1/ });
	await expect(out).toContainText('For playing');
	await out.locator('summary').click();
	await expect(out.getByRole('checkbox', { name: 'For playing' })).toBeChecked();
	await page.reload();
	await expect(page.getByRole('heading', { name: 'Outputs' })).toBeVisible();
	await expect(page.getByText('Slate tablet leads the tempo')).toBeVisible();

	// What it plays is said where the device's channel is.
	await page.goto('/wiring');
	await block(page, 'Umbra hall').first().click();
	await page.getByLabel('Played by').selectOption({ label: 'Slate tablet' });
	await expect(footer(page)).toContainText('played by Slate tablet');
	await page.goto('/wiring/plan');
	await makePlan(page);
	await expect(page.getByText('Proved best')).toBeVisible({ timeout: 30_000 });
	await expect(page.getByText(/Plug Ferry 2 Out \d into Umbra hall/)).toBeVisible();

	// The last host cannot be removed; this one can, and what it played is free again.
	await page.goto('/wiring/host');
	await page.getByRole('link', { name: 'Slate tablet' }).click();
	await page.getByRole('button', { name: 'Remove Slate tablet' }).click();
	await expect(page.getByRole('navigation', { name: 'Hosts' })).toHaveCount(0);
	await expect(page.getByRole('button', { name: /^Remove Computer/ })).toHaveCount(0);
});

test('plays patterns and a MIDI file through the wiring, today and planned', async ({ page }) => {
	await page.goto('/wiring/plan');
	await makePlan(page);
	await expect(page.getByText('Proved best')).toBeVisible({ timeout: 30_000 });
	await page.getByRole('link', { name: 'How late notes arrive' }).click();
	const timing = page.getByRole('region', { name: /^How late notes arrive/ });
	await timing.getByRole('button', { name: 'Play it through' }).click();
	// Over USB the interface's ports wait for one another too.
	await expect(
		timing
			.getByRole('row', { name: /^Umbra hall/ })
			.getByRole('cell')
			.nth(3)
	).not.toHaveText('13.12');
	await page.getByLabel('With the way over USB').uncheck();
	await page.getByRole('button', { name: 'Play it through' }).click();
	// Behind the Reed a chord waits for another chord; on its own port it does not.
	const hall = timing.getByRole('row', { name: /^Umbra hall/ }).getByRole('cell');
	await expect(hall.nth(3)).toHaveText('13.12');
	await expect(hall.nth(8)).toHaveText('6.72');
	await page
		.getByLabel('or a MIDI file')
		.setInputFiles({ name: 'wrong.mid', mimeType: 'audio/midi', buffer: Buffer.from('no midi at all') });
	await page.getByRole('button', { name: 'Play it through' }).click();
	await expect(page.getByRole('alert')).toContainText('not a MIDI file');
	// Its old address leads to the same place.
	await page.goto('/wiring/timing?from=before');
	await expect(page).toHaveURL(/\/wiring\/plan\?from=before#timing$/);
	await expect(
		page.getByRole('heading', { name: /^How late notes arrive, today and by plan/ })
	).toBeInViewport();
});

test('the map lights a device’s way, and a cable is judged before it is plugged in', async ({ page }) => {
	await page.goto('/wiring/map');
	const map = page.getByRole('group', { name: 'Map of the studio' });
	await expect(map.getByText('⟳ loop').first()).toBeVisible();
	await expect(map.getByText('✕ does not fit')).toBeVisible();
	await map.getByRole('button', { name: 'Parallax west' }).click();
	await expect(map.getByRole('button', { name: 'Parallax west' })).toHaveAttribute('aria-pressed', 'true');
	await expect(map.locator('.cable.lit')).toHaveCount(4);
	await page.getByLabel('Socket of Parallax west').selectOption({ label: 'MIDI thru (thru, 5-pin DIN)' });
	await page.getByLabel('goes to').selectOption({ label: 'In 6 (in, 5-pin DIN)' });
	await expect(page.getByText('DIN cable.')).toBeVisible();
	await page.getByLabel('goes to').selectOption({ label: 'Out 6 (out, 5-pin DIN)' });
	await expect(page.getByText('Both ends send')).toBeVisible();
});

test('a malformed rig file names its faults, and nothing is taken over', async ({ page }) => {
	await page.goto('/wiring/sheets');
	const before = (await readRig(page)).revision;
	const open = (text: string) =>
		page
			.getByLabel('Open a rig file')
			.setInputFiles({ name: 'rig.json', mimeType: 'application/json', buffer: Buffer.from(text) });
	await open(JSON.stringify({ ...first, cables: [{ from: 'nowhere', to: 'nobody' }] }));
	await expect(page.getByRole('alert')).toContainText(
		'cables[0].from: expected the id of a port, but none is called “nowhere”'
	);
	await open('{"format":"silent-drawer.rig","version":1,"devices":[{"id":"a"}]}');
	await expect(page.getByRole('alert')).toContainText('devices[0].name: expected string, nothing is there');
	await open('no json');
	await expect(page.getByRole('alert')).toContainText('not JSON');
	expect((await readRig(page)).revision).toBe(before);

	// What was exported comes back.
	const download = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Rig file (JSON)' }).click();
	await open(readFileSync((await (await download).path())!, 'utf8'));
	await page.getByRole('button', { name: 'Replace the wiring' }).click();
	await expect(footer(page)).toContainText('The wiring is that of rig.json');
	expect((await readRig(page)).rig.cables).toHaveLength(first.cables.length);
});

test('a change in another tab is not overwritten', async ({ page, context }) => {
	await page.goto('/wiring/problems');
	// It has not looked at the server since: a page that has is no older than what it shows.
	await page.route('**/api/v1/rig/state', (route) => route.abort());
	const other = await context.newPage();
	await other.goto('/wiring/problems');
	await other
		.locator('[data-rule="clock.several"]')
		.getByRole('button', { name: 'Let the host lead' })
		.click();
	await expect(other.locator('[data-rule="clock.several"]')).toHaveCount(0);
	await page
		.locator('[data-rule="loop"]')
		.getByRole('button', { name: 'Switch soft thru of Orrery off' })
		.click();
	await expect(footer(page)).toContainText('changed in another tab');
	await expect(page.locator('[data-rule="clock.several"]')).toHaveCount(0);
	await expect(page.locator('[data-rule="loop"]')).toBeVisible();
});

test('the whole stage without a mouse', async ({ page }) => {
	await page.goto('/');
	await page.keyboard.press('2');
	await expect(page.getByRole('heading', { level: 1, name: 'Wiring' })).toBeVisible();

	// A block is picked up, walks into a clash and is put back; then out of one, and put down.
	await block(page, 'Umbra hall').focus();
	await page.keyboard.press(' ');
	await page.keyboard.press('ArrowRight');
	await expect(page.getByText('Umbra hall → Ferry 8 Out 5, channel 5')).toBeVisible();
	await expect(page.getByText('both answer to channel 4')).toHaveCount(0);
	await page.keyboard.press('Escape');
	await expect(page.getByText('both answer to channel 4')).toBeVisible();
	await page.keyboard.press(' ');
	await page.keyboard.press('ArrowDown');
	await page.keyboard.press('Enter');
	await expect(footer(page)).toContainText('Umbra hall is on Ferry 8 Out 6, channel 4');

	// The move is stored and the block put down before the next key.
	await expect(page.getByRole('status').filter({ hasText: 'Umbra hall →' })).toHaveCount(0);
	await expect(block(page, 'Umbra hall')).toBeFocused();

	// A problem is cured.
	await page.getByRole('link', { name: /^Problems/ }).focus();
	await page.keyboard.press('Enter');
	await page.getByRole('button', { name: 'Let the host lead' }).focus();
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-rule="clock.several"]')).toHaveCount(0);

	// A silent device is traced.
	await page.getByLabel('From', { exact: true }).focus();
	for (const key of ['ArrowDown', 'ArrowDown', 'Enter']) await page.keyboard.press(key);
	await page.getByRole('button', { name: 'Why not Lantern swell?' }).focus();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { name: 'Why don’t I hear Lantern swell?' })).toBeVisible();

	// A plan is made and followed.
	await page.getByRole('link', { name: 'Plan and timing', exact: true }).focus();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('button', { name: 'Make a plan' })).toBeVisible();
	await page.keyboard.press('p');
	await expect(page).toHaveURL(/plan=\d+/, { timeout: 30_000 });
	await expect(page.getByText('Proved best')).toBeVisible();
	await page.getByRole('button', { name: /^All \d+ are done$/ }).focus();
	await page.keyboard.press('Enter');
	await expect(footer(page)).toContainText('of the plan done');

	// The map is walked.
	await page.getByRole('link', { name: 'Map' }).focus();
	await page.keyboard.press('Enter');
	await page
		.getByRole('group', { name: 'Map of the studio' })
		.getByRole('button', { name: 'Nadir drums' })
		.focus();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { name: 'Cables of Nadir drums' })).toBeVisible();
});
