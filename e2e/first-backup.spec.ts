import type { Locator, Page } from '@playwright/test';
import { device, expect, goButton, ownStudio, result, test } from './studio';
import { injectMidi, profile, standIn } from './stand-in/inject';

ownStudio(5395);

const at = (name: string, id: string, seed: number, settings = {}) => ({
	name,
	devices: [{ profile: profile(id), settings: { protect: 0, ...settings }, seed }]
});
/** Cables cross: what is asked at port 3 comes in at port 2. One port is dead, one leads straight back. */
const PORTS = [
	at('Halyard 6 Port 1', 'vellbrook-orrery', 201),
	{ name: 'Halyard 6 Port 2', devices: [], dead: true },
	{ ...at('Halyard 6 Port 3', 'ternhill-umbra', 202, { deviceId: 4 }), back: 1 },
	at('Halyard 6 Port 4', 'tarnow-parallax', 203, { deviceId: 2 }),
	at('Halyard 6 Port 5', 'quillon-nadir', 204, { exclusive: 1 }),
	{ name: 'Halyard 6 Port 6', devices: [], loopback: true }
];

/** Counts what a hand does: each click and each field is one action. */
function hands(page: Page) {
	let actions = 0;
	return {
		get actions() {
			return actions;
		},
		async click(what: Locator) {
			await what.click();
			actions++;
		},
		async choose(what: Locator, label: string | RegExp) {
			const options = await what.locator('option').allTextContents();
			const option = options.find((text) => (typeof label === 'string' ? text === label : label.test(text)))!;
			await what.selectOption({ label: option });
			actions++;
		},
		/** The browser's own question, which the stand-in answers. */
		allow() {
			actions++;
		},
		button: (name: string | RegExp) => page.getByRole('button', { name }),
		link: (name: string | RegExp) => page.getByRole('main').getByRole('link', { name })
	};
}

test.describe.configure({ mode: 'serial' });

test('from an empty studio to the first verified backup of a real device in six actions', async ({
	page,
	context
}) => {
	await injectMidi(context, { ports: [PORTS[0]] });
	await page.goto('/');
	const hand = hands(page);
	await hand.click(hand.link('Find what is plugged in'));
	hand.allow();
	await hand.click(hand.button('Take it into the catalogue'));
	await hand.click(hand.link('Back up Orrery'));
	await hand.click(goButton(page));
	await expect(result(page)).toContainText('Complete, checksums right', { timeout: 40_000 });
	expect(hand.actions).toBeLessThanOrEqual(6);
	// And it is what the instrument holds, over the line that the plate says.
	const { id } = await device(page, 'Orrery');
	await page.goto(`/gear/${id}`);
	await expect(page.getByRole('region', { name: 'Line' })).toContainText(
		/Hardware\s*This computer.*Halyard 6 Out 1\s\(Halyard 6 Port 1\).*Orrery.*Halyard 6 In 1/s
	);
	await expect(page.getByRole('region', { name: 'Line' })).toContainText(/Said who it is.*firmware/);
	const held = await standIn(page, 'records', 0, 0, 'programs');
	const versions = (await (await page.request.get(`/api/v1/transfers?device=${id}`)).json()) as {
		versionId: string;
		world: string;
	}[];
	expect(versions[0].world).toBe('hardware');
	const slots = (await (
		await page.request.get(`/api/v1/versions/${versions[0].versionId}/slots`)
	).json()) as { area: string; hex: string }[];
	expect(
		slots.filter(({ area }) => area === 'programs').map(({ hex }) => [...Buffer.from(hex, 'hex')].join(' '))
	).toEqual(held);
});

test('six devices catalogued and cabled in twenty-five actions, crossed cables and a dead port among them', async ({
	page,
	context
}) => {
	await injectMidi(context, { ports: PORTS });
	await page.goto('/');
	const hand = hands(page);
	await hand.click(page.getByRole('link', { name: /Gear/ }).first());
	await hand.click(hand.link('Find what is plugged in'));
	hand.allow();
	const answered = page.getByRole('region', { name: 'What answered' });
	await expect(answered).toContainText('Ternhill Umbra', { timeout: 40_000 });
	await expect(answered.getByRole('row')).toHaveCount(4);
	// One failing port costs only itself, and a cable that leads back is named.
	const left = page.getByRole('region', { name: 'What was not reached' });
	await expect(left).toContainText('Halyard 6 Port 2 (out) was left out.');
	await expect(left).toContainText('Halyard 6 Port 6 (out) comes straight back at Halyard 6 Port 6 (in)');
	await hand.click(hand.button(/^Take all \d into the catalogue/));
	await expect(hand.link(/^Back up all/)).toBeVisible();
	// What says nothing when asked is known by a key that is pressed on it.
	await expect(page.getByText('ins are being listened to')).toBeVisible();
	await standIn(page, 'press', 1);
	const signs = page.getByRole('region', { name: 'What does not answer' });
	await expect(signs).toContainText('Note on 60 velocity 100, channel 3');
	await hand.choose(
		signs.getByLabel('What is at Halyard 6 In 2', { exact: true }),
		'A model without a profile'
	);
	await hand.click(signs.getByRole('button', { name: 'Take what is at Halyard 6 In 2' }));
	await expect(
		page.getByText(/^In the catalogue, with cables and ports: Unknown on Halyard 6/)
	).toBeVisible();
	// And one that sends its dump by that.
	await standIn(page, 'dump', 4, 0);
	await expect(signs).toContainText('a dump of a Quillon Nadir', { timeout: 20_000 });
	await hand.choose(
		signs.getByLabel('The out that leads to what is at Halyard 6 In 5', { exact: true }),
		'Halyard 6 Out 5'
	);
	await hand.click(signs.getByRole('button', { name: 'Take what is at Halyard 6 In 5' }));
	await expect(page.getByText('In the catalogue, with cables and ports: Nadir.')).toBeVisible();
	const { id } = await device(page, 'Umbra');
	expect(hand.actions).toBeLessThanOrEqual(25);
	const all = (await (await page.request.get('/api/v1/devices')).json()) as { name: string }[];
	expect(all.map(({ name }) => name).sort()).toEqual([
		'Halyard 6',
		'Nadir',
		'Orrery',
		'Parallax',
		'Umbra',
		'Unknown on Halyard 6'
	]);
	const way = (await (await page.request.get(`/api/v1/devices/${id}/way`)).json()) as {
		out: { name: string };
		in: { name: string };
	};
	expect([way.out.name, way.in.name]).toEqual(['Halyard 6 Out 3', 'Halyard 6 In 2']);
});

test('a device that answers elsewhere: the plate says so, and its one action notes the way; undo brings it back', async ({
	page,
	context
}) => {
	// The Umbra was plugged over from port 3 to port 4 of the interface.
	await injectMidi(context, {
		ports: [PORTS[0], PORTS[1], { name: 'Halyard 6 Port 3', devices: [] }, PORTS[2], PORTS[4], PORTS[5]].map(
			(port, i) => ({ ...port, back: undefined, name: `Halyard 6 Port ${i + 1}` })
		)
	});
	await page.goto('/gear/find?now');
	const answered = page.getByRole('region', { name: 'What answered' });
	await expect(answered).toContainText('This is your Umbra, but the plan has it on Halyard 6 Out 3', {
		timeout: 40_000
	});
	const { id } = await device(page, 'Umbra');
	await page.goto(`/gear/${id}`);
	const line = page.getByRole('region', { name: 'Line' });
	await expect(line).toContainText('It answered at Halyard 6 Port 4; the wiring says Halyard 6 Out 3');
	await line.getByRole('button', { name: 'Note the way it answered on' }).click();
	await expect(line).toContainText('Halyard 6 Out 4');
	await expect(line.getByRole('button', { name: 'Note the way it answered on' })).toBeHidden();
	await line.getByRole('button', { name: 'Ask again' }).click();
	await expect(line.getByRole('button', { name: 'Ask again' })).toBeEnabled({ timeout: 20_000 });
	await expect(line.getByRole('alert')).toBeHidden();
	await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
	await expect(line).toContainText('the wiring says Halyard 6 Out 3');
});

test('a take is one change, and its undo takes back devices, cables and ports', async ({ page, context }) => {
	await injectMidi(context, {
		ports: [{ ...at('Strand 2 Port 1', 'ternhill-umbra', 301, { deviceId: 7 }), unit: 'strand-' }]
	});
	const before = await (await page.request.get('/api/v1/rig')).json();
	await page.goto('/gear/find?now');
	// It has the model of one that is known, and may be another unit of it.
	await page.getByLabel(/^Which one answered at Strand 2/).selectOption({ label: 'another one, new' });
	await page.getByLabel('Name', { exact: true }).fill('A name of forty characters and a bit more');
	await page.getByRole('button', { name: 'Take it into the catalogue' }).click();
	await expect(page.getByText('with Strand 2')).toBeVisible();
	await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByText('Undone: 1 device as before.')).toBeVisible();
	const after = await (await page.request.get('/api/v1/rig')).json();
	expect({ ...after, revision: 0 }).toEqual({ ...before, revision: 0 });
});
