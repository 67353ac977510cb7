import type { Page } from '@playwright/test';
import { makeFirmware, seededRandom } from '../src/lib/core/bench';
import { device, expect, firmwareRun, ownStudio, test } from './studio';
import { injectMidi, profile, standIn } from './stand-in/inject';

ownStudio(5398);
test.describe.configure({ mode: 'serial' });

const PORTS = [
	{
		name: 'Halyard 6 Port 1',
		devices: [{ profile: profile('tarnow-parallax'), settings: { protect: 0, deviceId: 2 }, seed: 203 }]
	},
	{ name: 'Halyard 6 Port 2', devices: [], loopback: true }
];

const system = () =>
	Buffer.from(makeFirmware(0x34, { variant: 0, version: [1, 7], blocks: 12, random: seededRandom(107) }));

/** A computer that runs on its battery until somebody plugs it in. */
const battery = (page: Page) =>
	page.addInitScript(() => {
		const state = Object.assign(new EventTarget(), { charging: false, level: 0.43 });
		Object.assign(navigator, { getBattery: () => Promise.resolve(state) });
		Object.assign(window, {
			plugIn: () => {
				state.charging = true;
				state.dispatchEvent(new Event('chargingchange'));
			}
		});
	});

test('a new system goes over real ports: the loader is asked, sent to, and the unit tells its version', async ({
	page,
	context
}) => {
	test.setTimeout(90_000);
	await injectMidi(context, { ports: PORTS, speed: 20 });
	await battery(page);
	await page.goto('/');
	await page.getByRole('main').getByRole('link', { name: 'Find what is plugged in' }).press('Enter');
	await page.getByRole('button', { name: 'Take it into the catalogue' }).press('Enter');
	await expect(page.getByRole('link', { name: /^Back up / })).toBeVisible();
	const { id } = await device(page, 'Parallax');
	const run = await firmwareRun(page, id, system());

	await page.goto(`/care/procedures/${run.id}`);
	const step = page.locator('[aria-current="step"]');
	await expect(step).toContainText('Hold WRITE and PAGE');
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	// It was left in its usual mode: it says nothing, and nothing is sent.
	await step.getByRole('button', { name: 'Ask its loader' }).press('Enter');
	await expect(step).toContainText('It does not say that it is in update mode.', { timeout: 20_000 });
	await standIn(page, 'switchOn', 0, 0, true);
	await step.getByRole('button', { name: 'Ask its loader' }).press('Enter');
	await expect(step).toContainText('From now on do not touch anything');
	const computer = step.getByRole('status', { name: 'This computer' });
	await expect(computer).toContainText('This computer runs on its battery, 43 % left, as its browser says.');
	await page.evaluate(() => (window as unknown as { plugIn(): void }).plugIn());
	await expect(computer).toContainText('This computer hangs on the mains, or has no battery');
	await step.getByRole('button', { name: /^Send p\.syx/ }).press('Enter');
	await expect(step).toContainText('Once the display says DONE', { timeout: 40_000 });
	expect((await standIn(page, 'panel', 0, 0)).display[0]).toBe('DONE: SWITCH OFF');
	await standIn(page, 'switchOn', 0, 0, false);
	await step.getByRole('button', { name: 'It is so' }).press('Enter');
	await step.getByRole('button', { name: 'Ask it now' }).press('Enter');
	await expect(page.locator('[data-step="version"]')).toContainText('held');
});

test('a message of the power-on list is proved by what is answered, and not ticked by another answer', async ({
	page,
	context
}) => {
	await injectMidi(context, { ports: PORTS, speed: 20 });
	await page.goto('/care/switching');
	const form = page.getByRole('form', { name: 'Add something to the list' });
	const add = async (what: string, answer: string) => {
		await form.getByLabel('Device').selectOption({ label: 'Parallax' });
		await form.getByLabel('each time').selectOption('send');
		await form.getByLabel('What is to be so').fill(what);
		await form.getByLabel('Messages in hexadecimal, one a line').fill('C1 04');
		await form.getByLabel('A question afterwards (may be empty)').fill('F0 7E 7F 06 01 F7');
		await form.getByLabel(/^and the answer that shows it/).fill(answer);
		await form.getByRole('button', { name: 'Add it' }).press('Enter');
		await expect(form.getByLabel('What is to be so')).toHaveValue('');
	};
	await add('Program 5', `F0 7E .. 06 02${' ..'.repeat(9)} F7`);
	await add('Program 6', `F0 7E .. 06 02 00 00 00${' ..'.repeat(6)} F7`);
	await page.getByRole('button', { name: 'Switch it on' }).press('Enter');
	await page.getByRole('button', { name: 'Ask who is on, and send' }).press('Enter');
	const items = page.getByRole('list', { name: 'What is ticked' });
	const row = (what: string) => items.getByRole('listitem').filter({ hasText: what });
	await expect(row('Program 5')).toContainText('sent, and it answers as it should', { timeout: 20_000 });
	await expect(row('Program 6')).toContainText('answered something else than what was wanted');
	await expect(row('Program 6').getByRole('checkbox')).not.toBeChecked();
});
