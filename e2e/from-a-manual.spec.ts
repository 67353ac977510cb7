import type { Page } from '@playwright/test';
import { SHAPES } from '../src/lib/core/profile';
import { MANUAL_PAGES, type ManualPage } from '../src/lib/core/profile/shapes/manual-pages.fixture';
import { backUp, expect, goButton, result, start, test, trayOf } from './studio';

/** A device that nobody has described, plugged in to a simulated unit of the model whose manual is at hand. */
async function undescribed(page: Page, { unit, typed }: ManualPage): Promise<string> {
	const added = await page.request.post('/api/v1/devices', {
		data: {
			name: typed.model,
			ports: [
				{ name: 'MIDI in', direction: 'in', connector: 'din' },
				{ name: 'MIDI out', direction: 'out', connector: 'din' }
			]
		}
	});
	const { id } = (await added.json()) as { id: string };
	const made = await page.request.post('/api/v1/bench/units', {
		data: { profileId: unit, name: `${typed.model} unit` }
	});
	const bench = ((await made.json()) as { id: string }).id;
	expect((await page.request.put(`/api/v1/devices/${id}/plug`, { data: { unit: bench } })).ok()).toBe(true);
	return id;
}

/** Chooses the shape and types what the manual says, in its order. */
async function describe(page: Page, { shape, typed }: ManualPage): Promise<void> {
	const { title, questions } = SHAPES.find(({ id }) => id === shape)!;
	await page.getByRole('radio', { name: new RegExp(`^${title}`) }).check();
	for (const { id, label, as } of questions) {
		const answer = typed[id];
		if (answer === undefined) continue;
		const form = page.getByRole('group', { name: 'From its manual' });
		if (typeof as === 'object') await form.getByLabel(label, { exact: true }).selectOption(answer);
		else await form.getByLabel(label, { exact: true }).fill(answer);
	}
	await expect(page.getByText('No fault.')).toBeVisible();
}

/** Presses the unit's dump button, once the app says that it listens. */
async function dumpByHand(page: Page): Promise<void> {
	const asks = page.getByRole('alert').filter({ hasText: 'press DUMP ALL KITS' });
	await expect(asks).toBeVisible({ timeout: 30_000 });
	await page.getByRole('button', { name: 'DUMP ALL KITS' }).click();
	await expect(asks).toBeHidden({ timeout: 30_000 });
}

for (const manual of MANUAL_PAGES)
	test(`${manual.typed.model}: from its manual page to a sound that is brought back, proved`, async ({
		page
	}) => {
		test.setTimeout(120_000);
		const id = await undescribed(page, manual);
		await page.goto(`/gear/${id}/profile`);
		await page.getByRole('link', { name: 'write one' }).click();
		await describe(page, manual);
		await page.getByRole('button', { name: `Save, and give it to ${manual.typed.model}` }).click();
		await expect(page.getByRole('contentinfo')).toContainText(`${manual.typed.model} has it now`);

		const byHand = manual.shape === 'panel';
		if (byHand) {
			for (const [setting, value] of [
				['Memory protect', false],
				['Exclusive', true]
			] as const) {
				await page.goto(`/gear/${id}/ports`);
				await page
					.getByRole('group', { name: /^Front panel/ })
					.getByLabel(setting)
					.setChecked(value);
			}
		}
		const read = async () => {
			await page.goto(`/transfers/new?device=${id}`);
			await start(page);
			if (byHand) await dumpByHand(page);
			await expect(result(page)).toContainText(/^Complete/, { timeout: 60_000 });
		};
		await read();

		// Another sound at its panel, and the first one brought back.
		await page.goto(`/gear/${id}/ports`);
		const panel = page.getByRole('group', { name: /^Front panel/ });
		const slider = panel.getByRole('slider').first();
		await expect(slider).toBeVisible();
		const was = await slider.inputValue();
		await slider.fill(was === '0' ? '1' : '0');
		await expect(
			page
				.getByRole('navigation', { name: 'Cabinet' })
				.getByRole('link', { name: new RegExp(`^${manual.typed.model}`) })
		).toContainText('Changed since it was read');
		await page.goto(`/gear/${id}/drawer`);
		await page.keyboard.press('r');
		await expect(goButton(page)).toBeVisible();
		await start(page);
		if (byHand)
			// Once for the safety copy, once to prove it.
			for (const _ of ['safety copy', 'read back']) await dumpByHand(page);
		await expect(result(page)).toContainText('Verified', { timeout: 60_000 });
		await page.goto(`/gear/${id}/ports`);
		await expect(slider).toHaveValue(was);
		await page.request.delete(`/api/v1/devices/${id}`);
	});

test('bytes of a dump light up as answers are given; a text that was changed by hand is not written over unasked', async ({
	page
}) => {
	const manual = MANUAL_PAGES.find(({ shape }) => shape === 'panel')!;
	const id = await undescribed(page, { ...manual, typed: { ...manual.typed, model: 'Lit drums' } });
	await page.goto(`/transfers/new?device=${id}`);
	await start(page);
	const press = page.getByRole('button', { name: 'DUMP ALL KITS' });
	await expect(page.getByRole('alert')).toContainText('Start the dump on the device’s panel');
	await press.click();
	await expect(page.getByRole('alert')).toContainText('Once more, to compare', { timeout: 20_000 });
	await press.click();
	await expect(result(page)).toContainText('Complete, twice in the same way', { timeout: 20_000 });
	await page.goto(`/gear/${id}/profile`);
	await page.getByRole('link', { name: 'write one' }).click();
	const bytes = page.getByRole('region', { name: 'Dump' });
	await expect(bytes).toContainText('15 of 886 bytes claimed');
	await describe(page, manual);
	await expect(bytes).toContainText('Read as “Kit dump”');
	await expect(bytes).toContainText('Checksum');
	await page.reload();
	await expect(page.getByRole('group', { name: 'From its manual' }).getByLabel('Model')).toHaveValue(
		manual.typed.model
	);
	await expect(bytes).toContainText('Read as “Kit dump”');

	const editor = page.getByRole('textbox', { name: 'Text of the profile' });
	await editor.click();
	await page.keyboard.press('Control+End');
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+Home');
	const form = page.getByRole('group', { name: 'From its manual' });
	await expect(form).toContainText('The text was changed by hand');
	await form.getByLabel('Model').fill('Other drums');
	await expect(editor).toContainText('Nadir by hand');
	await form.getByRole('button', { name: 'Write it anew from the answers' }).click();
	await expect(editor).toContainText('Other drums');

	// What cannot be read is said at its answer, and the text stays as it was.
	await form.getByLabel('Dump', { exact: true }).fill('F0 7D <kit> F7');
	await expect(form).toContainText('<kit> is no place');
	await expect(bytes).toContainText('Read as “Kit dump”');
	await page.request.delete(`/api/v1/devices/${id}`);
});

test('a profile is tried on its instrument: one slot asked twice, written back, read; the report goes with it', async ({
	page
}) => {
	const devices = (await (
		await page.request.post('/api/v1/devices', {
			data: { name: 'Tried Sconce', profileId: 'averill-sconce', deviceId: 0 }
		})
	).json()) as { id: string };
	const { id } = devices;
	const made = await page.request.post('/api/v1/bench/units', {
		data: { profileId: 'averill-sconce', name: 'Tried Sconce unit' }
	});
	await page.request.put(`/api/v1/devices/${id}/plug`, {
		data: { unit: ((await made.json()) as { id: string }).id }
	});
	await page.goto(`/gear/${id}/profile`);
	const tried = page.getByRole('region', { name: 'Tried on the instrument' });
	await tried.getByRole('button', { name: 'Try it on Tried Sconce' }).click();
	await expect(page.getByRole('contentinfo')).toContainText('Back it up first');
	await backUp(page, id);
	await page.goto(`/gear/${id}/profile`);
	await tried.getByRole('button', { name: 'Try it on Tried Sconce' }).click();
	await expect(trayOf(page)).toContainText('to try its profile');
	await start(page);
	await expect(result(page)).toContainText('Verified', { timeout: 30_000 });
	await page.goto(`/gear/${id}/profile`);
	await expect(tried.getByRole('listitem')).toContainText(
		/program P32 .*came alike twice, was written back, and read as it was/s
	);
	await tried.getByRole('button', { name: 'Keep this report with the profile' }).click();
	await expect(page.getByRole('contentinfo')).toContainText(
		'The report is kept with the profile, as its revision 2.'
	);
	const kept = (await (await page.request.get('/api/v1/profiles/averill-sconce')).json()) as {
		tried: { onDevice?: boolean }[];
	};
	expect(kept.tried.at(-1)).toMatchObject({ onDevice: true, dumps: 2, bench: true });
	await page.request.delete(`/api/v1/devices/${id}`);
});
