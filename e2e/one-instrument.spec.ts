import type { Page } from '@playwright/test';
import { pagesOf } from './printed';
import { device, expect, goButton, ownStudio, result, test } from './studio';
import { injectMidi, profile, standIn } from './stand-in/inject';

const studio = ownStudio(5402);
test.describe.configure({ mode: 'serial' });

/** A keyboard with a sound of its own, a module, and two keyboards without sounds that come in by one port. */
const PORTS = [
	{
		name: 'Halyard 6 Port 1',
		devices: [{ profile: profile('vellbrook-orrery'), settings: { protect: 0 }, seed: 201 }]
	},
	{
		name: 'Halyard 6 Port 2',
		devices: [{ profile: profile('tarnow-parallax'), settings: { protect: 0, deviceId: 2 }, seed: 203 }]
	},
	{ name: 'Halyard 6 Port 3', devices: [] }
];
const LOWER = 2;

const scenes = (page: Page) => page.getByRole('region', { name: 'Scenes' });
const heard = (page: Page) => page.getByRole('region', { name: 'Who plays' }).getByRole('status');
const stage = (page: Page) => page.getByRole('region', { name: 'On stage' });

/** Opens a page in the world of real ports. */
async function openOnPorts(page: Page, path: string) {
	await page.goto(path);
	await page.evaluate(() => localStorage.setItem('silent-drawer.world', 'hardware'));
	// The page that a set is run from is shown as it was kept where the server says nothing for five seconds: of what
	// instruments hold that one knows nothing, and a machine that is slow enough would always send them everything.
	await expect(async () => {
		await page.reload();
		await expect(page.locator('html')).not.toHaveAttribute('data-kept', /.*/, { timeout: 1 });
	}).toPass();
}

/** Presses the foot switch, once somebody hears it. */
async function press(page: Page) {
	await expect(
		page.getByText(/^(Press the foot switch …|Controller 80 on channel 1 goes on\.)$/)
	).toBeVisible();
	await expect(page.getByText('Sending …')).toBeHidden();
	await standIn(page, 'say', LOWER, [
		[0xb0, 80, 127],
		[0xb0, 80, 0]
	]);
}

/** A field that is kept when it is left. */
async function keep(field: ReturnType<Page['getByLabel']>, value: string) {
	await field.fill(value);
	await field.press('Tab');
}

/** Adds a zone to a player, by its keys and what it plays. */
async function addZone(
	page: Page,
	player: string,
	zone: { name: string; from: string; to: string; instrument: string; channel: number; sound: string }
) {
	await page.getByRole('button', { name: `Add a zone on ${player}` }).press('Enter');
	// It is there when it is kept; until then the one before is open.
	await expect(page.getByRole('region', { name: /^Zone Zone \d$/ })).toBeVisible();
	const form = page.getByRole('region', { name: /^Zone / });
	await keep(form.getByLabel('Zone'), zone.name);
	await expect(page.getByRole('region', { name: `Zone ${zone.name}` })).toBeVisible();
	await keep(form.getByLabel('From key'), zone.from);
	await keep(form.getByLabel('To key'), zone.to);
	await form.getByLabel('Plays').selectOption({ label: zone.instrument });
	await form.getByLabel('Channel').selectOption(String(zone.channel));
	await expect(page.getByText(new RegExp(`^${zone.instrument} ${zone.channel}\\. `))).toBeVisible();
	await keep(form.getByLabel('Sound'), zone.sound);
	await expect(form.getByLabel('Sound')).toHaveValue(zone.sound);
	return form;
}

/** Names of an instrument's sounds, as the drawers have them. */
async function soundsOf(page: Page, instrument: string): Promise<string[]> {
	const answer = await page.request.get(`/api/v1/set/sounds?instrument=${instrument}`);
	return ((await answer.json()) as { name: string }[]).map(({ name }) => name.trim());
}

test('two keyboards and a module are one instrument: split, layered by velocity, dropped by a pedal, as they are played', async ({
	page,
	context
}) => {
	test.setTimeout(150_000);
	await injectMidi(context, { ports: PORTS, speed: 20 });
	await page.goto('/');
	await page.getByRole('main').getByRole('link', { name: 'Find what is plugged in' }).click();
	await page.getByRole('button', { name: 'Take all 2 into the catalogue' }).click({ timeout: 40_000 });
	await expect(page.getByRole('link', { name: /^Back up all/ })).toBeVisible();
	for (const name of ['Orrery', 'Parallax']) {
		const { id } = await device(page, name);
		await page.goto(`/transfers/new?device=${id}`);
		await goButton(page).click();
		await expect(result(page)).toContainText('Complete, checksums right', { timeout: 40_000 });
	}

	await page.goto('/control/zones');
	await page.getByRole('button', { name: 'Take them all' }).press('Enter');
	await expect(page.getByRole('region', { name: 'Orrery', exact: true })).toBeVisible();
	await page.getByRole('link', { name: 'Players and instruments' }).click();
	for (const [at, name] of ['Upper', 'Lower'].entries()) {
		await page.getByLabel('Another player').fill(name);
		await page.getByLabel('Another player').press('Enter');
		await expect(page.getByLabel('Sends on')).toHaveCount(2 + at);
		await page
			.getByLabel('Sends on')
			.last()
			.selectOption(String(3 - at));
	}
	for (const field of await page.getByLabel('Loads in, ms').all()) await keep(field, '40');
	for (const field of await page.getByLabel('First program is').all()) await field.selectOption('0');
	for (const field of await page.getByLabel('Bank select').all()) await field.selectOption('none');
	const setup = (await (await page.request.get('/api/v1/set')).json()) as {
		document: { setup: { instruments: { id: string; name: string }[] } };
	};
	const idOf = (name: string) => setup.document.setup.instruments.find((each) => each.name === name)!.id;
	const module = await soundsOf(page, idOf('Parallax'));
	const keyboard = await soundsOf(page, idOf('Orrery'));

	await page.getByRole('link', { name: 'Desk and scenes' }).click();
	const own = { instrument: 'Orrery', channel: 1 };
	await addZone(page, 'Upper', {
		name: 'Lead',
		from: 'C5',
		to: 'C7',
		instrument: 'Parallax',
		channel: 1,
		sound: module[3]
	});
	await addZone(page, 'Lower', {
		name: 'Bass',
		from: 'C1',
		to: 'B3',
		instrument: 'Parallax',
		channel: 2,
		sound: module[5]
	});
	await addZone(page, 'Lower', { name: 'Strings', from: 'C4', to: 'C7', ...own, sound: keyboard[7] });
	const drone = await addZone(page, 'Lower', {
		name: 'Drone',
		from: 'C1',
		to: 'B3',
		...own,
		sound: keyboard[7]
	});
	await keep(drone.getByLabel('Struck from'), '100');
	await keep(drone.getByLabel('Octaves'), '-1');
	await drone.getByText('How hard it sounds, pedals and wheels').click();
	await keep(drone.getByLabel('Dropped by controller'), '67');
	await expect(drone.getByLabel('while it is')).toHaveValue('down');

	// As it is played: soft, hard, and hard with the pedal down.
	await page.getByRole('button', { name: 'Listen to the keys' }).press('Enter');
	await standIn(page, 'say', LOWER, [[0x91, 40, 60]]);
	await expect(heard(page)).toContainText('played on Lower with 60');
	await expect(heard(page)).toContainText('Parallax, channel 2: E2, velocity 60');
	await expect(heard(page)).toContainText('Drone does not: it plays what is struck harder.');
	await standIn(page, 'say', LOWER, [[0x91, 64, 90]]);
	await expect(heard(page)).toContainText('Orrery, channel 1: E4, velocity 90');
	await expect(page.getByText('2 notes sound by what was heard.')).toBeVisible();
	// The desk is changed while they are held: they are followed on, to their end.
	await page.getByRole('button', { name: /^Strings/ }).click();
	const strings = page.getByRole('region', { name: 'Zone Strings' });
	await strings.getByLabel('On', { exact: true }).uncheck();
	await expect(page.getByRole('button', { name: 'Undo: Strings: off' })).toBeVisible();
	await expect(page.getByText('2 notes sound by what was heard.')).toBeVisible();
	await strings.getByLabel('On', { exact: true }).check();
	await expect(page.getByRole('button', { name: 'Undo: Strings: on' })).toBeVisible();
	await expect(page.getByText('2 notes sound by what was heard.')).toBeVisible();
	await standIn(page, 'say', LOWER, [
		[0x81, 40, 0],
		[0x81, 64, 0],
		[0x91, 41, 110]
	]);
	await expect(heard(page)).toContainText('Orrery, channel 1: F1, velocity 110');
	await standIn(page, 'say', LOWER, [
		[0x81, 41, 0],
		[0xb1, 67, 127],
		[0x91, 43, 110]
	]);
	await expect(heard(page)).toContainText('Parallax, channel 2: G2, velocity 110');
	await expect(heard(page)).not.toContainText('Orrery');
	await standIn(page, 'say', LOWER, [
		[0x81, 43, 0],
		[0xb1, 67, 0]
	]);
	await expect(page.getByText('No note is held.')).toBeVisible();

	// Sounded over the real lines: what sounds is for the ear.
	await page.getByRole('button', { name: 'Sound it' }).press('Enter');
	await expect(heard(page)).toContainText(
		'Parallax was sent it by Halyard 6 Out 2. What sounded, you heard.'
	);
});

test('scenes over real ports: stored over another, undone, recalled, called by number; eight songs, ready', async ({
	page,
	context
}) => {
	test.setTimeout(120_000);
	await injectMidi(context, { ports: PORTS, speed: 20 });
	await openOnPorts(page, '/control/zones');
	const list = scenes(page);
	const store = async (number: number, name: string, button: string) => {
		await list.getByLabel('Number').fill(String(number));
		await list.getByLabel('Name').fill(name);
		await list.getByRole('button', { name: button, exact: true }).press('Enter');
		await expect(list.getByText(`On the desk: ${number} ${name}`, { exact: true })).toBeVisible();
	};
	await store(1, 'Split', 'Store');
	await page.getByRole('button', { name: /^Bass/ }).click();
	await page.getByRole('region', { name: 'Zone Bass' }).getByLabel('On', { exact: true }).uncheck();
	await store(1, 'Lead alone', 'Store over Split');
	await page.getByRole('button', { name: 'Undo: Scene 1: Lead alone over Split' }).click();
	await expect(list.getByRole('button', { name: '1 Split' })).toBeVisible();
	await list.getByRole('button', { name: '1 Split' }).press('Enter');
	await expect(list.getByRole('status')).toContainText('1 Split, over real ports:');
	await expect(list.getByRole('status')).toContainText('Orrery: Shown.');
	// The browser is asked for its ports by the first of them, and the second one waits for that.
	await expect(list.getByRole('status')).toContainText('Parallax: Sent.');
	await expect(list.getByText('On the desk: 1 Split', { exact: true })).toBeVisible();

	await page.getByText('Tempo, pages, messages of your own').click();
	for (let number = 2; number <= 8; number++) {
		await keep(page.getByLabel('Tempo'), String(80 + number));
		await store(number, `Part ${number}`, 'Store');
	}
	await page.goto('/control/set');
	await page.getByRole('button', { name: 'A song for each of 8 scenes' }).press('Enter');
	const ready = page.getByRole('region', { name: 'Ready?' });
	await expect(ready.getByRole('listitem').first()).toBeVisible();
	await expect(ready.locator('[data-ready=missing], [data-ready=unknown]')).toHaveText([]);
	await expect(ready.getByRole('status')).toContainText('Ready, by what is noted');
	await expect(ready.getByRole('status')).toContainText('over real ports');
});

test('the set is run by foot switch on a phone, through a reload, and printed', async ({ page, context }) => {
	test.setTimeout(90_000);
	await injectMidi(context, { ports: PORTS, speed: 20 });
	await page.setViewportSize({ width: 390, height: 800 });
	await openOnPorts(page, '/control/set/run');
	const on = stage(page);
	await on.getByRole('button', { name: 'Learn a foot switch' }).click();
	const foot = () => press(page);
	await expect(on.getByRole('button', { name: 'Press the foot switch …' })).toBeVisible();
	await foot();
	await expect(on.getByText('Controller 80 on channel 1 goes on.')).toBeVisible();
	await expect(on.getByText('Not begun')).toBeVisible();
	await foot();
	await expect(on.getByRole('heading', { name: 'Split' })).toBeVisible();
	await expect(on.getByText('1 of 8')).toBeVisible();
	await expect(on.getByText('Sending …')).toBeHidden();
	await foot();
	await expect(on.getByRole('heading', { name: 'Part 2' })).toBeVisible();
	await page.reload();
	await expect(on.getByText('2 of 8')).toBeVisible();
	await foot();
	await expect(on.getByRole('heading', { name: 'Part 3' })).toBeVisible();
	// A press while a scene is being sent counts for nothing.
	await expect(on.getByText('Sending …')).toBeHidden();
	await page.keyboard.press('ArrowLeft');
	await expect(on.getByRole('heading', { name: 'Part 2' })).toBeVisible();

	await page.goto('/control/set/sheet');
	await expect(page.getByRole('region', { name: 'Part 8' })).toContainText('Lower C1–B3');
	const printed = pagesOf(await page.pdf({ preferCSSPageSize: true }));
	expect(printed.length).toBeGreaterThan(1);
});

test('the stage opens again while no server is there, sends all of the next scene, and has it noted later', async ({
	page,
	context
}) => {
	await injectMidi(context, { ports: PORTS, speed: 20 });
	await openOnPorts(page, '/control/set/run');
	const on = stage(page);
	await on.getByRole('button', { name: 'Learn a foot switch' }).click();
	await expect(on.getByRole('button', { name: 'Press the foot switch …' })).toBeVisible();
	await press(page);
	await expect(on.getByText('Controller 80 on channel 1 goes on.')).toBeVisible();
	await press(page);
	await expect(on.getByText('1 of 8')).toBeVisible();
	await expect(on.getByRole('status')).toContainText('Nothing was to be sent.');
	await expect(on.getByText('This page is kept: it opens again without a network.')).toBeVisible();

	await studio.end();
	await page.reload();
	await expect(on.getByRole('alert')).toContainText(
		'The server did not answer, or failed: this is the page as it was kept just now'
	);
	await expect(on.getByText('1 of 8')).toBeVisible();
	await press(page);
	await expect(on.getByRole('heading', { name: 'Part 2' })).toBeVisible();
	// Its only difference from the one before is the tempo; what is not known is sent all the same.
	await expect(on.getByRole('status')).toContainText('Orrery: Shown.');
	await expect(on.getByRole('status')).toContainText('Parallax: Sent.');
	await expect(on.getByRole('status')).toContainText('Sent. It is not noted yet:');
	await page.reload();
	await expect(on.getByText('2 of 8')).toBeVisible();

	await studio.start();
	// Somebody else works on the set meanwhile: the page is the one that was kept until it speaks to the server again.
	const { revision, document } = await (await page.request.get('/api/v1/set')).json();
	const at = document.songs.findIndex(({ name }: { name: string }) => name === 'Part 3');
	const edits = [{ path: ['songs', at, 'notes'], value: 'The bass enters late.' }];
	const edited = await page.request.post('/api/v1/set/edits', {
		data: { revision, says: 'A note', edits }
	});
	expect(edited.status()).toBe(200);
	await expect(on.getByRole('alert')).toBeVisible();
	await press(page);
	await expect(on.getByRole('heading', { name: 'Part 3' })).toBeVisible();
	await expect(on.getByText('The bass enters late.')).toBeVisible();
	await expect(on.getByText('Sending …')).toBeHidden();
	await expect(on.getByRole('status')).not.toContainText('not noted yet');
	await expect(on.getByRole('alert')).toBeHidden();
	// What it holds by now is known: only the tempo, which a hand sets, is left.
	await press(page);
	await expect(on.getByRole('heading', { name: 'Part 4' })).toBeVisible();
	await expect(on.getByRole('status')).toContainText('Nothing was to be sent.');
});
