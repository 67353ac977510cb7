import { backUp, expect, ownStudio, result, start, test, trayOf } from './studio';

ownStudio(5406);

// A studio of one's own speaks to real ports until somebody says otherwise.
test.beforeEach(({ page }) => page.addInitScript(() => localStorage.setItem('silent-drawer.world', 'bench')));

test('an instrument with a new system is refused, found as what it is now, and takes its old sounds as far as they fit', async ({
	page
}) => {
	test.setTimeout(150_000);
	const added = await page.request.post('/api/v1/devices', {
		data: { name: 'Hall Sconce', profileId: 'averill-sconce', deviceId: 0 }
	});
	const { id } = (await added.json()) as { id: string };
	const plug = async (model: string) => {
		const made = await page.request.post('/api/v1/bench/units', {
			data: { profileId: model, name: `Hall unit ${model}` }
		});
		const unit = ((await made.json()) as { id: string }).id;
		expect((await page.request.put(`/api/v1/devices/${id}/plug`, { data: { unit } })).ok()).toBe(true);
	};
	await plug('averill-sconce');
	await backUp(page, id);

	// Its second system keeps more and longer programs, and speaks otherwise.
	await plug('averill-sconce-2');
	await page.goto(`/transfers/new?device=${id}`);
	await start(page);
	await expect(result(page)).toContainText(
		'is not the one that its profile is for: “firmware 1”. It says firmware 2.00'
	);
	await page.goto('/gear/find?now');
	const row = page.getByRole('row', { name: /Hall unit averill-sconce-2/ });
	await expect(row).toContainText('This is your Hall Sconce, and it is “firmware 2” now', {
		timeout: 90_000
	});
	await expect(row).toContainText('which variant it is now');
	await row.getByRole('button', { name: /^Take what answered/ }).click();
	await expect(row).toContainText('This is your Hall Sconce, noted just so.');
	const now = (await (await page.request.get(`/api/v1/devices/${id}`)).json()) as { profileId: string };
	expect(now.profileId).toBe('averill-sconce-2');

	// What was read of its first system goes to its second one; what is lost is said before.
	await page.goto(`/gear/${id}/drawer`);
	await page.keyboard.press('r');
	const becomes = trayOf(page).getByRole('region', { name: 'What it becomes' });
	await expect(becomes).toContainText(
		'These sounds are of “Averill Sconce, firmware 1”; they are sent as “Averill Sconce, firmware 2” has them.'
	);
	await becomes.getByText('What is lost, slot by slot').click();
	await expect(becomes.getByRole('listitem').first()).toContainText(/becomes|has no place/);
	await start(page);
	await expect(result(page)).toContainText('Verified', { timeout: 60_000 });
	await expect(result(page)).toContainText('32 slots written and read back equal');
});
