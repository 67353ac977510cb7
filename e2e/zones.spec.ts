import type { Page } from '@playwright/test';
import { writeNameDocument } from '../src/lib/core/drawer';
import { writeMidiFile } from '../src/lib/core/midi';
import { expect, goButton, test } from './studio';

const scenes = (page: Page) => page.getByRole('region', { name: 'Scenes' });
const zone = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) });
const form = (page: Page, name: string) => page.getByRole('region', { name: `Zone ${name}` });
const heard = (page: Page) => page.getByRole('region', { name: 'Who plays' }).getByRole('status');

test('a scene is one press: sent, and shown by what the instruments say themselves', async ({ page }) => {
	await page.goto('/control/zones');
	const list = scenes(page);
	await expect(list.getByText('On the desk: 1 Doors')).toBeVisible();
	await list.getByRole('button', { name: '3 Inner planets' }).press('Enter');
	const status = list.getByRole('status');
	await expect(status).toContainText('3 Inner planets, on the bench:');
	await expect(status).toContainText('Parallax west: Shown. it says that it plays program 5, Dim Lead.');
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');
	await expect(list.getByText('On the desk: 3 Inner planets')).toBeVisible();
	await expect(list.getByRole('button', { name: 'Send the desk' })).toBeDisabled();

	await list.getByRole('button', { name: '4 The belt' }).click();
	await expect(status).toContainText('4 The belt, on the bench:');
	await page.reload();
	// What was sent is known after a reload; the scene before comes back by undo, and is sent again.
	await expect(list.getByRole('button', { name: 'Send the desk' })).toBeDisabled();
	await page.keyboard.press('Control+z');
	await expect(list.getByText('On the desk: 3 Inner planets')).toBeVisible();
	await list.getByRole('button', { name: 'Send the desk' }).click();
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');

	// A scene that makes something much louder waits for a second press.
	await list.getByRole('button', { name: '8 Deep field' }).click();
	await expect(status).toContainText('8 Deep field, on the bench:');
	await list.getByRole('button', { name: '4 The belt' }).click();
	await expect(list.getByText(/Parallax west, channel 2, gets 12 dB louder: turn down first/)).toBeVisible();
	await expect(status).toContainText('8 Deep field');
	await list.getByRole('button', { name: 'It gets louder: send The belt' }).click();
	await expect(status).toContainText('4 The belt, on the bench:');
});

test('what a hand chooses at a panel is heard where the instrument tells it, and the desk is sent again', async ({
	page
}) => {
	// Its panel, beside a backup in the tray.
	const devices = (await (await page.request.get('/api/v1/devices')).json()) as {
		id: string;
		name: string;
	}[];
	await page.goto(`/transfers/new?device=${devices.find(({ name }) => name === 'Orrery')!.id}`);
	await expect(goButton(page)).toHaveText(/^Back up Orrery/);
	await page.goto('/control/zones');
	const list = scenes(page);
	const status = list.getByRole('status');
	await list.getByRole('button', { name: 'Send everything next time' }).click();
	await list.getByRole('button', { name: '3 Inner planets' }).press('Enter');
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');
	await expect(list.getByRole('button', { name: 'Send the desk' })).toBeDisabled();
	const panel = page.getByRole('group', { name: /^Front panel of Orrery/ });
	await expect(panel).toBeVisible();
	await panel.getByRole('button', { name: 'Next slot' }).click();
	const chosen = list.getByRole('list', { name: 'Chosen at panels' });
	await expect(chosen).toContainText(
		'Orrery, chosen at its panel: it says that it plays program 10, not 9, Dark Moon.'
	);
	await panel.getByRole('button', { name: 'Slot before' }).click();
	await expect(chosen).toContainText(
		'Orrery, chosen at its panel: it says that it plays program 9, Dark Moon.'
	);
	await panel.getByRole('button', { name: 'Next slot' }).click();
	await expect(chosen).toContainText('plays program 10, not 9');
	await list.getByRole('button', { name: 'Send the desk' }).click();
	await expect(status).toContainText('Orrery: Shown. it says that it plays program 9, Dark Moon.');
	await expect(chosen.getByRole('listitem')).toHaveCount(0);
});

test('the desk is stored over another scene, which undo brings back; a sound that moved is taken from its new place', async ({
	page
}) => {
	await page.goto('/control/zones');
	const list = scenes(page);
	await list.getByRole('button', { name: '1 Doors' }).click();
	await expect(list.getByRole('status')).toContainText('1 Doors');
	await zone(page, 'Low drone').click();
	await form(page, 'Low drone').getByLabel('On', { exact: true }).check();
	await expect(list.getByText('On the desk: 1 Doors, changed')).toBeVisible();
	await list.getByLabel('Number').fill('9');
	await expect(list.getByText('Scene 9 holds Home: Low drone, Lead. Undo brings it back.')).toBeVisible();
	await list.getByLabel('Name').fill('Last call');
	await list.getByRole('button', { name: 'Store over Home' }).press('Enter');
	await expect(list.getByText('On the desk: 9 Last call')).toBeVisible();
	await list.getByRole('button', { name: 'More on scene 3' }).press('Enter');
	await expect(list.getByText(/^On the wire: Ferry 8 Out \d \d+ ms/)).toBeVisible();
	await list.getByRole('button', { name: 'More on scene 9' }).press('Enter');
	await list.getByText('What scene 9 held before').click();
	const before = list.getByRole('listitem').filter({ hasText: 'It was called Home.' }).last();
	await expect(before).toContainText('Dark Dust instead of Near Moon');
	await before.getByRole('button', { name: /^Bring it back/ }).press('Enter');
	await expect(list.getByRole('button', { name: '9 Home', exact: true })).toBeVisible();
	await page.getByRole('button', { name: 'Undo: Scene 9: Home as it was' }).click();
	await page.getByRole('button', { name: 'Undo: Scene 9: Last call over Home' }).click();
	await expect(list.getByRole('button', { name: '9 Home', exact: true })).toBeVisible();

	const moved = page.getByRole('listitem').filter({ hasText: 'Blue Plume' });
	await expect(moved).toContainText('(Parallax west, scene 7) is in 12 now; 13 holds');
	await moved.getByRole('button', { name: /^Take it from 12\s*: Blue Plume$/ }).click();
	await expect(moved).toHaveCount(0);
	await list.getByRole('button', { name: '7 Comets' }).click();
	await list.getByRole('button', { name: 'It gets louder: send Comets' }).click();
	await expect(list.getByRole('status')).toContainText(
		'Parallax west: Shown. it says that it plays program 12, Blue Plume.'
	);
});

test('who plays a key, what is wrong with a zone, and its cure, by keyboard', async ({ page }) => {
	await page.goto('/control/zones');
	await scenes(page).getByRole('button', { name: '1 Doors' }).click();
	await expect(scenes(page).getByText('On the desk: 1 Doors', { exact: true })).toBeVisible();
	await zone(page, 'Low drone').press('Enter');
	const drone = form(page, 'Low drone');
	await drone.getByLabel('On', { exact: true }).press('Space');
	await expect(zone(page, 'Low drone')).toHaveAccessibleName('Low drone');
	const keys = page.getByRole('slider', { name: 'Keys of Span 61' });
	await keys.press('Home');
	await keys.press('Enter');
	await expect(heard(page)).toContainText('C2');
	await expect(heard(page)).toContainText('Parallax west, channel 2: C1, velocity 90');
	await page.getByRole('slider', { name: /^Struck with/ }).fill('110');
	await expect(heard(page)).toContainText('Low drone does not: it plays what is struck softer.');

	await drone.getByLabel('To key').fill('D4');
	await drone.getByLabel('To key').press('Tab');
	const wrong = page.getByRole('region', { name: 'What is wrong on the desk, or not known' });
	await expect(wrong).toContainText('Low drone and Air both play C4–D4 on one channel of one instrument.');
	await wrong.getByRole('button', { name: 'Low drone up to B3' }).press('Enter');
	await expect(wrong).not.toContainText('both play');
	await expect(drone.getByLabel('To key')).toHaveValue('B3');

	await drone.getByLabel('From key').fill('H2');
	await drone.getByLabel('From key').press('Tab');
	await expect(page.getByRole('alert')).toContainText('“H2” is no key');

	// Keys that do not arrive: the wiring says so.
	await zone(page, 'Choir of the giants').press('Enter');
	await form(page, 'Choir of the giants').getByLabel('On', { exact: true }).press('Space');
	await expect(wrong).toContainText('channel 1 of Span 61 does not arrive at Orrery.');
});

test('keys of the rulers are those of simulated keyboards while the bench is listened to, with their pedals', async ({
	page
}) => {
	await page.goto('/control/zones');
	await page.getByRole('button', { name: 'Listen to the keys' }).press('Enter');
	await zone(page, 'Lead').press('Enter');
	const on = form(page, 'Lead').getByLabel('On', { exact: true });
	if (!(await on.isChecked())) await on.press('Space');
	await expect(zone(page, 'Lead')).toHaveAccessibleName('Lead');
	const keys = page.getByRole('slider', { name: 'Keys of Span 61' });
	await keys.press('End');
	await expect(page.getByText('No note is held.')).toBeVisible();
	await page.keyboard.down('Enter');
	await expect(heard(page)).toContainText('played on Span 61 with 90');
	await expect(heard(page)).toContainText('Parallax west, channel 2: C7, velocity 90');
	await expect(page.getByText(/notes? sounds? by what was heard/)).toBeVisible();
	await page.keyboard.up('Enter');
	await expect(page.getByText('No note is held.')).toBeVisible();

	// The hold pedal keeps it, by pointer too, until it comes up.
	const hold = page.getByRole('button', { name: 'Hold pedal of Span 61' });
	await hold.press('Enter');
	await keys.click();
	await expect(page.getByText(/notes? sounds? by what was heard/)).toBeVisible();
	await hold.press('Enter');
	await expect(page.getByText('No note is held.')).toBeVisible();

	// Its own pedal drops the lead.
	await page.getByRole('button', { name: 'Pedal 67 of Span 61' }).press('Enter');
	await keys.press('End');
	await page.keyboard.down('Enter');
	await expect(heard(page)).not.toContainText('Lead');
	await page.keyboard.up('Enter');
	await page.getByRole('button', { name: 'Pedal 67 of Span 61' }).press('Enter');
	await keys.press('Enter');
	await expect(page.getByText('No note is held.')).toBeVisible();
});

test('a struck key sounds on the bench; a MIDI file is played through, says what it expects, and its program is put on the desk', async ({
	page
}) => {
	await page.goto('/control/zones');
	await scenes(page).getByRole('button', { name: '1 Doors' }).click();
	await expect(scenes(page).getByRole('status')).toContainText('1 Doors');
	await page.getByRole('slider', { name: 'Keys of Span 61' }).press('Enter');
	await expect(heard(page)).toContainText(
		/Parallax west, channel 2: C4, velocity 90, \d+\.\d ms late at least/
	);
	await page.getByRole('button', { name: 'Sound it' }).press('Enter');
	await expect(heard(page)).toContainText('Parallax west sounded C4, by its simulated panel.');

	const file = (name: string, messages: [number, ...number[]][]) => ({
		name,
		mimeType: 'audio/midi',
		buffer: Buffer.from(
			writeMidiFile([
				{
					messages: messages.map(([atMs, ...bytes]) => ({ atMs, bytes: Uint8Array.from(bytes) })),
					untilMs: 2000
				}
			])
		)
	});
	const take = page.getByLabel('Play a MIDI file through');
	await take.setInputFiles({ name: 'no.mid', mimeType: 'audio/midi', buffer: Buffer.from('no tune') });
	await expect(page.getByRole('alert')).toContainText('no');
	await take.setInputFiles(
		file('tune.mid', [
			[0, 0xc1, 5],
			[10, 0x91, 62, 80],
			[20, 0x91, 65, 90],
			[30, 0x91, 20, 90],
			[500, 0x81, 62, 0],
			[500, 0x81, 65, 0],
			[600, 0xb1, 0, 3],
			[601, 0xc1, 6]
		])
	);
	const tune = page.getByRole('region', { name: 'tune.mid, played through' });
	await expect(tune).toContainText('Parallax west, channel 2: 2 notes, D4–F4, velocity 80–90, 2 at once');
	await expect(tune).toContainText('1 key that no zone has which is on.');
	await expect(tune).toContainText('It selects banks on channel 2: General MIDI has one.');
	await tune.getByRole('button', { name: 'Put its first programs on the desk' }).press('Enter');
	await zone(page, 'Air').click();
	await expect(form(page, 'Air').getByLabel('Sound')).toHaveValue('Electric Piano 2');
	await page.getByRole('button', { name: 'Undo: Programs of tune.mid' }).click();
	await expect(form(page, 'Air').getByLabel('Sound')).toHaveValue('Near Moon');
});

test('what a scene holds beside zones is written, stored and sent; scenes go by number, and all off is one press', async ({
	page
}) => {
	await page.goto('/control/zones');
	const list = scenes(page);
	await list.getByLabel('Scene', { exact: true }).fill('77');
	await list.getByLabel('Scene', { exact: true }).press('Enter');
	await expect(list.getByText('There is no scene 77.')).toBeVisible();
	await list.getByLabel('Scene', { exact: true }).fill('2');
	await list.getByLabel('Scene', { exact: true }).press('Enter');
	await expect(list.getByText('On the desk: 2 Moonrise')).toBeVisible();

	await page.getByText('Tempo, pages, messages of your own').click();
	await page.getByLabel('Tempo').fill('84');
	await page.getByLabel('Tempo').press('Tab');
	const own = page.getByRole('form', { name: 'A message of your own' });
	await own.getByLabel('What it does').fill('Damp');
	await own.getByLabel('Message, in hexadecimal').fill('B0 5B');
	await own.getByRole('button', { name: 'Add the message' }).press('Enter');
	await expect(page.getByRole('alert')).toContainText('One whole message');
	await own.getByLabel('Message, in hexadecimal').fill('B0 5B 40');
	await own.getByRole('button', { name: 'Add the message' }).press('Enter');
	await expect(page.getByText('Damp: B0 5B 40 to')).toBeVisible();
	const shown = page.getByRole('form', { name: 'A page of a controller' });
	await shown.getByLabel('Controller').fill('Star show, faders');
	await shown.getByLabel('shows the page').fill('No such page');
	await shown.getByLabel('shows the page').press('Enter');
	await expect(page.getByText('Star show, faders shows No such page Take away')).toBeVisible();
	await expect(list.getByText('On the desk: 2 Moonrise, changed')).toBeVisible();
	await list.getByLabel('Number').fill('2');
	await list.getByRole('button', { name: 'Store over Moonrise' }).press('Enter');
	await expect(list.getByText('On the desk: 2 Moonrise', { exact: true })).toBeVisible();

	await list.getByRole('button', { name: 'All off' }).press('Enter');
	await expect(list.getByRole('status')).toContainText('All off, on the bench:');
	await page.goto('/control/set');
	await expect(page.getByRole('region', { name: 'Ready?' })).toContainText(
		'Star show, faders has no page No such page.'
	);
	await page.goto('/control/zones');
	for (let i = 0; i < 4; i++) {
		const undo = page.getByRole('button', { name: /^Undo: (Scene 2|A message|Tempo|Star show)/ });
		const says = await undo.textContent();
		await undo.click();
		await expect(page.getByRole('button', { name: says!.trim() })).toHaveCount(0);
	}
	await expect(list.getByText('On the desk: 2 Moonrise', { exact: true })).toBeVisible();
});

test('names of a name document are chosen from, and a key picks a sound that is heard at once', async ({
	page
}) => {
	await page.goto('/control/zones/gear');
	const names = page.getByLabel('Instrument', { exact: true });
	const at = (await names.evaluateAll((all) => all.map((each) => (each as HTMLInputElement).value))).indexOf(
		'Parallax west'
	);
	const row = page.getByRole('region', { name: 'What sounds' }).getByRole('listitem').nth(at);
	await row.getByLabel('Names from a .midnam').setInputFiles({
		name: 'no.midnam',
		mimeType: 'text/xml',
		buffer: Buffer.from('<Names>')
	});
	await expect(row.getByRole('alert')).toContainText('no well-formed XML');
	const patch = (name: string, programChange: number) => ({
		number: String(programChange),
		name,
		programChange
	});
	await row.getByLabel('Names from a .midnam').setInputFiles({
		name: 'west.midnam',
		mimeType: 'text/xml',
		buffer: Buffer.from(
			writeNameDocument({
				author: '',
				manufacturer: 'Tarnow',
				model: 'Parallax',
				banks: [{ name: 'B', bankSelect: { high: 9, low: null }, patches: [patch('Listed Bell', 64)] }]
			})
		)
	});
	await expect(row.getByText('1 name of west.midnam.')).toBeVisible();

	await page.getByRole('link', { name: 'Desk and scenes' }).click();
	await zone(page, 'Air').click();
	const air = form(page, 'Air');
	await air.getByLabel('Sound').fill('listed bell');
	await air.getByLabel('Sound').press('Tab');
	await expect(air.getByLabel('Sound')).toHaveValue('Listed Bell');
	await expect(air.getByLabel('Program')).toHaveValue('64');
	await air.getByRole('button', { name: 'Pick by key' }).press('Enter');
	const ruler = page.getByRole('slider', { name: 'Keys of Span 61' });
	await ruler.press('Home');
	await ruler.press('Enter');
	await expect(air.getByLabel('Program')).toHaveValue('36');
	await expect(heard(page)).toContainText(/Parallax west sounded C4, by its simulated panel/);
	await air.getByRole('button', { name: 'Pick by key' }).press('Enter');
	await ruler.press('Enter');
	await expect(heard(page)).toContainText('C2');
	await expect(air.getByLabel('Program')).toHaveValue('36');
});
