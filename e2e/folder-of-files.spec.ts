import type { Page } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import { expect, ownStudio, test } from './studio';

ownStudio(5397);
test.describe.configure({ mode: 'serial' });

/** Fourteen files of all kinds, as a folder of ten years holds them. */
async function folder(page: Page, studio: string) {
	const demo = `${studio}/api/v1`;
	const bytesOf = async (of: Page, path: string) =>
		Buffer.from(await (await of.request.get(`${demo}${path}`)).body());
	const devices = (await (await page.request.get(`${demo}/devices`)).json()) as {
		id: string;
		name: string;
	}[];
	const newest = async (name: string) => {
		const { id } = devices.find((device) => device.name === name)!;
		const transfers = (await (await page.request.get(`${demo}/transfers?device=${id}`)).json()) as {
			versionId: string | null;
			direction: string;
			status: string;
		}[];
		return transfers.find(
			({ versionId, direction, status }) => versionId && direction === 'capture' && status === 'complete'
		)!.versionId!;
	};
	const [orrery, umbra] = [await newest('Orrery'), await newest('Umbra hall')];
	const syx = await bytesOf(page, `/versions/${orrery}/export?as=syx`);
	const hall = await bytesOf(page, `/versions/${umbra}/export?as=syx`);
	const damaged = Buffer.from(syx);
	damaged[200] ^= 1;
	const profile = JSON.parse((await bytesOf(page, '/profiles/ternhill-umbra')).toString('utf8')) as object;
	const text = (words: string) => Buffer.from(words);
	const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer });
	return [
		file('dump3_final.syx', syx),
		file('dump3 (copy).mid', await bytesOf(page, `/versions/${orrery}/export?as=mid`)),
		file('cut.syx', syx.subarray(0, 900)),
		file('flipped.syx', damaged),
		file('stranger.syx', Buffer.from('f00029112233445566f7', 'hex')),
		file('gear.csv', text('Name;Maker;Model\nTiles;Brammer;Tiles 16\nSpan 61;Brammer;Span 61\n')),
		file('umbra.json', text(JSON.stringify({ ...profile, id: 'my-umbra', model: 'Umbra mine' }))),
		file('studio.json', await bytesOf(page, '/rig/export')),
		file('orrery.midnam', await bytesOf(page, `/versions/${orrery}/export?as=midnam`)),
		file('readme.txt', text('These are the good ones.')),
		file('nothing.syx', Buffer.alloc(0)),
		file('umbra-2019.zip', Buffer.from(zipSync({ 'live/hall.syx': hall, 'live/notes.txt': text('x') }))),
		file('broken.zip', Buffer.concat([text('PK'), Buffer.alloc(40, 7)])),
		file('picture.jpg', Buffer.from([0xff, 0xd8, 0xff, 0, 1, 2]))
	];
}

test('a folder of fourteen mixed files is looked at in one table and taken over in one step, with its undo', async ({
	page,
	demoStudio
}) => {
	test.setTimeout(90_000);
	const files = await folder(page, demoStudio);
	expect(files).toHaveLength(14);
	await page.goto('/gear/new');
	await page.getByLabel('Name of the interface').fill('Ferry 8');
	await page.getByRole('button', { name: 'Add the interface' }).click();
	await expect(page.getByRole('heading', { level: 1, name: 'Ferry 8' })).toBeVisible();
	await page.goto('/');
	await page.getByLabel('Open files').setInputFiles(files);
	const sheet = page.getByRole('dialog', { name: 'Files to take over' });
	await expect(sheet.getByRole('status')).toContainText('15 files. What they are');
	const row = (name: string) =>
		sheet.getByRole('row', { name: new RegExp(`^${name.replace(/[.()]/g, '\\$&')}`) });
	for (const [name, says] of [
		['dump3_final.syx', 'A dump of a Vellbrook Orrery, 65 slots'],
		['dump3 (copy).mid', 'A dump of a Vellbrook Orrery, 65 slots'],
		['cut.syx', 'Truncated: the message at byte 0 has no end.'],
		['flipped.syx', 'is damaged'],
		['stranger.syx', 'A dump that no profile knows, 1 message'],
		['gear.csv', 'A list of 2 devices: 2 new'],
		['umbra.json', 'A profile'],
		['studio.json', 'import it under Wiring, Sheets'],
		['orrery.midnam', 'Names go to a version'],
		['readme.txt', 'No dump, list, profile or bundle.'],
		['nothing.syx', 'There is nothing in it.'],
		['hall.syx', 'in umbra-2019.zip/live'],
		['notes.txt', 'No dump, list, profile or bundle.'],
		['broken.zip', 'The archive is damaged'],
		['picture.jpg', 'No dump, list, profile or bundle.']
	])
		await expect(row(name)).toContainText(says);
	// Where no device fits, one is added for it; the copy of a dump goes to the same one.
	await expect(sheet.getByLabel('Where dump3_final.syx goes')).toHaveValue(/^new vellbrook-orrery/);
	await sheet.getByRole('button', { name: 'Take 5 files over' }).click();
	for (const name of ['dump3_final.syx', 'dump3 (copy).mid', 'hall.syx'])
		await expect(row(name)).toContainText('kept');
	await expect(row('gear.csv')).toContainText('2 devices added');
	await expect(row('umbra.json')).toContainText('kept as revision');
	await sheet.getByRole('button', { name: 'Done' }).click();
	const cabinet = page.getByRole('navigation', { name: 'Cabinet' });
	await expect(cabinet.getByRole('link', { name: /^Orrery/ })).toHaveCount(1);
	await cabinet.getByRole('link', { name: /^Umbra/ }).click();
	await expect(page.getByText('From umbra-2019.zip/live')).toBeVisible();

	// Brought once more, what is there already is not kept twice.
	await page.goto('/');
	await page.getByLabel('Open files').setInputFiles(files.slice(0, 3));
	await expect(row('dump3_final.syx')).toContainText('Kept already in Orrery');
	await expect(sheet.getByLabel('Where dump3_final.syx goes')).toHaveValue('');
	await sheet.getByRole('button', { name: 'Done' }).click();
});

test('a take-over is undone: versions are let go, and devices that were added for them archived', async ({
	page,
	demoStudio
}) => {
	const files = (await folder(page, demoStudio)).filter(({ name }) => name === 'umbra-2019.zip');
	await page.goto('/');
	await page.getByLabel('Open files').setInputFiles(files);
	const sheet = page.getByRole('dialog', { name: 'Files to take over' });
	// It is kept already, from the test before: a new drawer of its own is asked for by hand.
	await sheet.getByLabel('Where hall.syx goes').selectOption({ label: 'A new Ternhill Umbra' });
	await sheet.getByRole('button', { name: 'Take 1 file over' }).click();
	await sheet.getByRole('button', { name: 'Done' }).click();
	const cabinet = page.getByRole('navigation', { name: 'Cabinet' });
	await expect(cabinet.getByRole('link', { name: /^Umbra/ })).toHaveCount(2);
	await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('Undone: 1 version let go, 1 device archived.');
	await expect(cabinet.getByRole('link', { name: /^Umbra/ })).toHaveCount(1);
});

test('a file of several devices has a row for each part; a damaged part is left out, and the rest undone together', async ({
	page,
	demoStudio
}) => {
	const files = await folder(page, demoStudio);
	const named = (wanted: string) => files.find(({ name }) => name === wanted)!.buffer;
	const hall = unzipSync(named('umbra-2019.zip'))['live/hall.syx'];
	const sheet = page.getByRole('dialog', { name: 'Files to take over' });
	const part = (n: number) => sheet.getByRole('row', { name: new RegExp(`^rig\\.syx part ${n} of 2`) });
	const bring = (buffer: Buffer) =>
		page
			.getByLabel('Open files')
			.setInputFiles({ name: 'rig.syx', mimeType: 'application/octet-stream', buffer });

	await page.goto('/');
	await bring(Buffer.concat([hall, named('flipped.syx')]));
	await expect(sheet.getByRole('status')).toContainText('1 file.');
	await expect(part(1)).toContainText('A dump of a Ternhill Umbra');
	await expect(part(2)).toContainText('A dump of a Vellbrook Orrery');
	await expect(part(2)).toContainText('is damaged');
	await expect(part(2)).toContainText('left out');
	await sheet.getByRole('button', { name: 'Done' }).click();

	await bring(Buffer.concat([hall, named('dump3_final.syx')]));
	// Both are kept already, from the tests before: new drawers are asked for by hand.
	await sheet.getByLabel('Where rig.syx, part 1 of 2 goes').selectOption({ label: 'A new Ternhill Umbra' });
	await sheet.getByLabel('Where rig.syx, part 2 of 2 goes').selectOption({ label: 'A new Vellbrook Orrery' });
	await sheet.getByRole('button', { name: 'Take 2 files and parts over' }).click();
	for (const n of [1, 2]) await expect(part(n)).toContainText('kept');
	await sheet.getByRole('button', { name: 'Done' }).click();
	const cabinet = page.getByRole('navigation', { name: 'Cabinet' });
	const before = await cabinet.getByRole('link', { name: /^(Umbra|Orrery)/ }).count();
	// The undo outlives a reload.
	await page.reload();
	await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('Undone: 2 versions let go, 2 devices archived.');
	await expect(cabinet.getByRole('link', { name: /^(Umbra|Orrery)/ })).toHaveCount(before - 2);
});
