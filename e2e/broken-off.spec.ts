import {
	addDevice,
	backUp,
	device,
	expect,
	goButton,
	nextSpeed,
	result,
	start,
	test,
	trayOf
} from './studio';

test.describe('at a fifth of the wire’s speed', () => {
	// What is to be caught in the middle lasts long enough beside another worker: 33 messages in some twelve seconds.
	test.use({ speed: 0.2 });

	test('a capture that a reload interrupted is resumed', async ({ page }) => {
		const { id } = await addDevice(page, 'Tarnow Parallax — sound module', 'Interrupted Parallax');
		await page.goto(`/transfers/new?device=${id}`);
		await start(page);
		await expect(page.getByText(/\b([5-9]|1\d) messages safely stored/)).toBeVisible();
		await nextSpeed(page, 20);
		await page.reload();
		await expect(page.getByRole('heading', { name: 'This backup broke off' })).toBeVisible();
		const stored = Number(
			(await page.getByText(/messages with \d+ slots are stored/).innerText()).match(/(\d+) messages/)![1]
		);
		expect(stored).toBeGreaterThanOrEqual(5);
		await page.getByRole('button', { name: 'Resume' }).click();
		await expect(result(page)).toContainText('33 slots, every message whole, every checksum right.', {
			timeout: 20_000
		});
		await page.getByRole('link', { name: 'Its log, with every byte' }).click();
		await page.getByText('every byte that was sent').click();
		// Each slot was asked for once: the request of a slot appears in the log twice only if it was under way at the reload.
		const requests = await page.getByRole('cell', { name: /^Program request 0[0-4]$/ }).count();
		expect(requests).toBe(5);
	});

	test('a cable pulled in mid-transfer and put back goes on by itself', async ({ page }) => {
		const { id } = await addDevice(page, 'Tarnow Parallax — sound module', 'Pulled Parallax');
		await page.goto(`/transfers/new?device=${id}`);
		await start(page);
		await expect(page.getByText(/\b([3-9]|1\d) messages safely stored/)).toBeVisible();
		await page.getByRole('button', { name: 'Pull the cable' }).click();
		await page.getByRole('button', { name: 'Put the cable back' }).click();
		await expect(result(page)).toContainText('33 slots', { timeout: 40_000 });
		await page.getByRole('link', { name: 'Its log, with every byte' }).click();
		await page.getByText('every byte that was sent').click();
		await expect(page.getByText('The port is back.')).toBeVisible();
	});

	test('an unfinished capture is kept as it is; one that a whole backup overtook is not offered any more', async ({
		page
	}) => {
		test.setTimeout(90_000);
		const { id } = await addDevice(page, 'Tarnow Parallax — sound module', 'Kept Parallax');
		const offer = page.getByRole('link', { name: 'Resume or keep Kept Parallax' });
		const breakOff = async () => {
			await page.goto(`/transfers/new?device=${id}`);
			await start(page);
			await expect(page.getByText(/\b([5-9]|1\d) messages safely stored/)).toBeVisible();
			// The word that the page went away travels beside the next page’s own request.
			await expect(async () => {
				await page.goto('/transfers');
				await expect(offer).toBeVisible({ timeout: 1000 });
			}).toPass();
		};
		await breakOff();
		await offer.click();
		await expect(
			page.getByRole('main').getByText(/\d+ messages with \d+ slots are stored safely\./)
		).toBeVisible();
		await page.getByRole('main').getByRole('button', { name: 'Keep as it is' }).click();
		await expect(page.getByText(/Incomplete: \d+ slots missing/)).toBeVisible();
		await expect(page.getByText(/A part: \d+ of 33 slots/)).toBeVisible();
		await breakOff();
		await nextSpeed(page, 20);
		await backUp(page, id);
		await page.goto('/transfers');
		await expect(page.getByRole('heading', { name: 'What came in and went out' })).toBeVisible();
		await expect(offer).toBeHidden();
	});

	test('a restore whose page went away leaves its slots unknown: Today offers to undo it, and no backup', async ({
		page
	}) => {
		test.setTimeout(120_000);
		const west = await device(page, 'Parallax west');
		const [first] = (
			(await (await page.request.get(`/api/v1/transfers?device=${west.id}`)).json()) as {
				versionId: string | null;
				direction: string;
			}[]
		).filter(({ versionId, direction }) => versionId !== null && direction === 'capture');
		const { id } = await addDevice(page, 'Tarnow Parallax — sound module', 'Torn Parallax');
		await nextSpeed(page, 20);
		await backUp(page, id);
		await nextSpeed(page, 0.2);
		await page.goto(`/transfers/new?version=${first.versionId}&device=${id}`);
		await start(page);
		await expect(page.getByRole('heading', { name: 'Sending' })).toBeVisible({ timeout: 20_000 });
		await expect(page.getByText(/^[2-9] of 3\d$/)).toBeVisible();
		await nextSpeed(page, 20);
		const row = page
			.getByRole('region', { name: 'What is at risk' })
			.getByRole('listitem')
			.filter({ hasText: 'Torn Parallax' });
		await expect(async () => {
			await page.goto('/');
			await expect(row).toContainText('A restore broke off: nobody knows what 33 slots hold', {
				timeout: 1000
			});
		}).toPass();
		await expect(row.getByRole('link', { name: /^Back up/ })).toBeHidden();
		await row.getByRole('link', { name: 'Finish or undo: Torn Parallax' }).click();
		await expect(
			page.getByRole('main').getByRole('heading', { name: 'This restore broke off' })
		).toBeVisible();
		await page.getByRole('main').getByRole('button', { name: 'Bring the safety copy back' }).click();
		await start(page);
		await expect(result(page)).toContainText('Verified', { timeout: 30_000 });
		await page.goto('/');
		await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
		await expect(row).not.toContainText('broke off');
	});

	test('a second tab follows a backup, stops it, and what has come is kept', async ({ page, context }) => {
		const { id } = await addDevice(page, 'Vellbrook Orrery — synthesiser', 'Cancelled Orrery');
		await page.goto(`/transfers/new?device=${id}`);
		await start(page);
		await expect(page.getByText('Receiving')).toBeVisible();
		const other = await context.newPage();
		// It asks for the same, and is shown what goes on.
		await other.goto(`/transfers/new?device=${id}`);
		await expect(other.getByText('Receiving')).toBeVisible();
		await other.getByRole('contentinfo').getByRole('button', { name: 'Stop' }).click();
		await expect(result(page)).toContainText('You cancelled it.');
		await expect(result(page)).toContainText('Cancelled');
		await expect(result(other)).toContainText('You cancelled it.');
		await other.close();
	});
});

test('a refused backup is tried again from where it ended, and cancelled is not refused', async ({
	page
}) => {
	const { id, benchUnit } = await addDevice(page, 'Ternhill Umbra — reverberation unit', 'Again Umbra');
	await page.request.put(`/api/v1/devices/${id}/plug`, { data: { unit: null } });
	await page.goto(`/transfers/new?device=${id}`);
	await expect(goButton(page)).toBeDisabled();
	await expect(trayOf(page)).toContainText('It is plugged in to nothing on the bench.');
	await page.request.put(`/api/v1/devices/${id}/plug`, { data: { unit: benchUnit } });
	await page.reload();
	await backUp(page, id);
	await expect(result(page)).toContainText('50 slots');
	await page.getByRole('button', { name: 'Clear what is over' }).click();
	await expect(trayOf(page)).toBeHidden();
});
