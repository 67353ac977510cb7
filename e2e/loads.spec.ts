import type { Page } from '@playwright/test';
import { soundSchema, type ShowSet } from '../src/lib/core/scene';
import { expect, result, start, test } from './studio';

const ready = (page: Page) => page.getByRole('region', { name: 'Ready?' });

interface Kept {
	name: string | null;
	hash: string;
}

/** A sound of a Parallax that is kept, and that Parallax west does not hold now. */
async function lostSound(page: Page, document: ShowSet): Promise<Kept> {
	const told = async <T>(path: string) => (await (await page.request.get(`/api/v1${path}`)).json()) as T;
	const { device } = document.setup.instruments.find(({ id }) => id === 'west')!;
	const { profileId } = await told<{ profileId: string }>(`/devices/${device}`);
	const now = new Set(
		(await told<{ record: string | null }[]>('/set/sounds?instrument=west')).map(({ record }) => record)
	);
	const all = await told<Kept[]>(`/sounds?profile=${profileId}&area=programs&q=`);
	const lost = all.find(({ hash, name }) => name && !now.has(hash));
	if (lost) return lost;
	throw new Error('Every sound of Parallax west is still there.');
}

test('a sound that is lost is loaded before the show, two that share a slot between their songs, from the set itself', async ({
	page
}) => {
	test.setTimeout(90_000);
	const { revision, document } = (await (await page.request.get('/api/v1/set')).json()) as {
		revision: number;
		document: ShowSet;
	};
	const { name, hash: record } = await lostSound(page, document);
	// The scene of the second station wants it in the slot that the first one has its own sound in.
	const first = document.scenes[0].parts[0].sound!;
	const sound = soundSchema.parse({ ...first, name, kept: { ...first.kept!, record } });
	const edits = [{ path: ['scenes', 1, 'parts', 0, 'sound'], value: sound }];
	await page.request.post('/api/v1/set/edits', { data: { revision, says: 'Another sound', edits } });

	const west = page.getByRole('listitem').filter({ has: page.getByText('Parallax west of Gear') });
	await page.goto('/control/zones/gear');
	await west.getByText('A set may write the slots that its scenes name').click();
	await west.getByLabel('From', { exact: true }).selectOption({ index: 1 });
	await expect(west.getByText('A set may write 1 slot')).toBeVisible();
	await page.goto('/control/set');
	const between = ready(page).getByRole('listitem').filter({ hasText: 'Before Moonrise' });
	await expect(between).toContainText(
		`By hand: Before Moonrise: load ${name} into 00 (over ${first.name}) of Parallax west, about`
	);
	await expect(page.getByRole('listitem').filter({ hasText: /^\s*2\s+Moonrise:/ })).toContainText(
		`by hand: Load ${name} into 00`
	);
	await page.goto('/control/set/run');
	await page.keyboard.press('PageDown');
	await expect(page.getByText(`By hand: Load ${name} into 00`)).toBeVisible();
	await page.getByRole('button', { name: 'Put it in the tray' }).press('Enter');
	const card = page.getByRole('region', { name: 'Before it starts' });
	await expect(card).toContainText('from the bank “Before Moonrise”');
	await start(page);
	await expect(result(page)).toContainText('Verified', { timeout: 30_000 });
	// It lies there now: the stage asks for nothing any more.
	await expect(page.getByText(`By hand: Load ${name}`)).toHaveCount(0);

	// Where another slot may be written, the one that gave way is loaded there before the show, and its scene takes the number.
	await page.goto('/control/zones/gear');
	await west.getByText('A set may write 1 slot').click();
	await west.getByLabel('To', { exact: true }).selectOption({ index: 1 });
	await expect(west.getByText('A set may write 2 slots')).toBeVisible();
	await page.goto('/control/set');
	await expect(between).toHaveCount(0);
	const load = ready(page).getByRole('listitem').filter({ hasText: 'lacks a sound of its drawer' });
	await expect(load).toContainText(`load ${first.name} into 01`);
	const numbers = ready(page).getByRole('button', { name: 'Take the numbers of those slots' });
	await numbers.press('Enter');
	await expect(numbers).toHaveCount(0);
	await expect(load).toContainText(`load ${first.name} into 01`);
	await load.getByRole('button', { name: 'Put the load of Parallax west in the tray' }).press('Enter');
	await expect(card).toContainText('from the bank “For the show: Nine stations”');
	await card.getByText('The slot that is written').click();
	await expect(card.getByRole('list', { name: 'Slots that are written' })).toContainText(first.name);
	await start(page);
	await expect(result(page)).toContainText('Verified', { timeout: 30_000 });
	await expect(load).toHaveCount(0);

	// It lies elsewhere on the instrument now: a scene with the old number says so, and is mended in one step.
	await page.getByRole('button', { name: 'Undo: Take the numbers of those slots' }).click();
	const moved = ready(page)
		.getByRole('listitem')
		.filter({ hasText: `${first.name} (Parallax west) is in 01 now.` });
	await moved.getByRole('button', { name: 'Take it from 01' }).press('Enter');
	await expect(moved).toHaveCount(0);
	await page.goto('/control/zones');
	await expect(
		page.getByRole('listitem').filter({ hasText: new RegExp(`(${name}|${first.name}) \\(Parallax west`) })
	).toHaveCount(0);
});
