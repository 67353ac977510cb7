import { expect, test } from './studio';

test.describe('by touch', () => {
	test.use({ viewport: { width: 820, height: 1100 }, hasTouch: true, isMobile: true });

	test('a block of the ledger is dragged with a finger, the clash shown on the way', async ({ page }) => {
		await page.goto('/wiring');
		const block = page.locator('[data-block]').filter({ hasText: 'Parallax west' });
		const cell = (row: string, channel: number) => page.locator(`[data-cell="${row} ${channel}"]`);
		const rig = (await (await page.request.get('/api/v1/rig')).json()) as object;
		await expect(block).toBeVisible();
		const client = await page.context().newCDPSession(page);
		const at = async (target: typeof block) => {
			const { x, y, width, height } = (await target.boundingBox())!;
			return { x: x + Math.min(12, width / 2), y: y + height / 2 };
		};
		const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd' | 'touchCancel', points: object[]) =>
			client.send('Input.dispatchTouchEvent', { type, touchPoints: points as never });
		const from = await at(block);
		await touch('touchStart', [from]);
		const to = await at(cell('Ferry 8 Out 5', 4));
		for (let i = 1; i <= 6; i++)
			await touch('touchMove', [
				{ x: from.x + ((to.x - from.x) * i) / 6, y: from.y + ((to.y - from.y) * i) / 6 }
			]);
		// Not let go of yet: the clash is told, and nothing is stored.
		await expect(page.getByText('Halloran Reed and Parallax west both answer to channel 4')).toBeVisible();
		await expect(
			page.getByRole('status').filter({ hasText: 'Parallax west → Ferry 8 Out 5, channel 4' })
		).toBeVisible();
		expect(await (await page.request.get('/api/v1/rig')).json()).toEqual(rig);
		const { x: left, width } = (await cell('Ferry 8 Out 5', 9).boundingBox())!;
		// The row stays where it was when the drag began.
		await touch('touchMove', [{ x: left + width / 2, y: to.y }]);
		await touch('touchEnd', []);
		await expect(page.getByRole('contentinfo')).toContainText('Parallax west is on Ferry 8 Out 5, channel 9');
		// A tap chooses, and moves nothing.
		await block.tap();
		await expect(block).toHaveAttribute('aria-pressed', 'true');
		await page.getByRole('button', { name: /^Undo: Parallax west/ }).tap();
		await expect(page.getByRole('contentinfo')).toContainText('Undone: Parallax west');
	});

	test('nothing hovers, so the exact time is written out; on paper there is only that', async ({ page }) => {
		await page.goto('/transfers');
		const time = page.locator('main time').first();
		await expect(time).toHaveText(/ago|just now/);
		const written = () =>
			time.evaluate((each) => [getComputedStyle(each, '::after').content, (each as HTMLElement).innerText]);
		const at = await time.getAttribute('data-exact');
		expect(at).toMatch(/^\d{1,2} \w+ 20\d\d, \d\d:\d\d$/);
		expect((await written())[0]).toContain(at);
		await page.emulateMedia({ media: 'print' });
		expect(await written()).toEqual([`"${at}"`, '']);
	});

	test('what is pressed is large enough for a finger', async ({ page }) => {
		const small: string[] = [];
		for (const view of ['/', '/gear', '/sounds?q=star', '/wiring/plan', '/transfers', '/care']) {
			await page.goto(view);
			small.push(
				...(await page.locator('main .btn:visible, main .select:visible, footer .btn:visible').evaluateAll(
					(all, on) =>
						all.flatMap((each) => {
							const { width, height } = each.getBoundingClientRect();
							return width >= 44 && height >= 44
								? []
								: [`${on}: ${each.textContent?.trim() ?? ''} ${Math.round(width)} × ${Math.round(height)}`];
						}),
					view
				))
			);
		}
		expect(small).toEqual([]);
	});
});

test('print is dark on white from the dark light, with the page alone', async ({ page }) => {
	await page.emulateMedia({ colorScheme: 'dark' });
	await page.goto('/wiring/sheets');
	await page.emulateMedia({ media: 'print', colorScheme: 'dark' });
	const seen = await page.evaluate(() => {
		const cell = document.querySelector('main td')!;
		return {
			page: getComputedStyle(document.querySelector('main')!).backgroundColor,
			ink: getComputedStyle(cell).color
		};
	});
	expect(seen).toEqual({ page: 'rgb(255, 255, 255)', ink: 'rgb(0, 0, 0)' });
	await expect(page.locator('#cabinet')).toBeHidden();
	await expect(page.getByRole('contentinfo')).toBeHidden();
	await expect(page.getByRole('navigation', { name: 'Stages' })).toBeHidden();
});

test('text follows the size that the reader set', async ({ page }) => {
	await page.goto('/');
	const sizeOf = () => page.evaluate(() => parseFloat(getComputedStyle(document.body).fontSize));
	expect(await sizeOf()).toBeCloseTo(15, 1);
	const client = await page.context().newCDPSession(page);
	await client.send('Page.enable');
	await client.send('Page.setFontSizes', { fontSizes: { standard: 24 } });
	await page.reload();
	expect(await sizeOf()).toBeCloseTo(22.5, 1);
});

test('where the system chooses the colours, what is chosen has an edge', async ({ page }) => {
	await page.emulateMedia({ forcedColors: 'active' });
	await page.goto('/wiring');
	const chosen = page.getByRole('navigation', { name: 'Pages of the wiring' }).locator('[aria-current=page]');
	await expect(chosen).toHaveCSS('outline-style', 'solid');
	await expect(chosen).toHaveCSS('outline-width', '2px');
});

test('a note that is not saved survives leaving and reloading, and is gone once it is saved', async ({
	page
}) => {
	const devices = (await (await page.request.get('/api/v1/devices')).json()) as {
		id: string;
		name: string;
	}[];
	const { id } = devices.find(({ name }) => name === 'Nadir drums')!;
	await page.goto(`/gear/${id}/notes`);
	const note = page.getByLabel('What you would write on masking tape');
	const before = await note.inputValue();
	await note.fill(`${before} Kick on pad 3.`);
	await page.getByRole('link', { name: 'Facts' }).click();
	await page.getByRole('link', { name: 'Notes' }).click();
	await expect(note).toHaveValue(`${before} Kick on pad 3.`);
	await page.reload();
	await expect(note).toHaveValue(`${before} Kick on pad 3.`);
	await page.getByRole('button', { name: 'Save the note' }).click();
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	await page.reload();
	await expect(note).toHaveValue(`${before} Kick on pad 3.`.trim());
	await expect(page.getByRole('button', { name: 'Discard' })).toHaveCount(0);
	await note.fill(before);
	await page.getByRole('button', { name: 'Save the note' }).click();
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
});
