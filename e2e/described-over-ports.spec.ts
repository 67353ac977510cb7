import { expect, goButton, ownStudio, result, start, test } from './studio';
import { injectMidi, profile, standIn } from './stand-in/inject';

ownStudio(5405);

test('over a real port, one that answers no identity request: from first contact to a proved restore', async ({
	page,
	context
}) => {
	test.setTimeout(180_000);
	await injectMidi(context, {
		ports: [
			{ name: 'Halyard 2 Port 1', devices: [] },
			{
				name: 'Halyard 2 Port 2',
				devices: [{ profile: profile('selden-marl'), settings: { identity: 0, packs: 1 }, seed: 31 }]
			}
		],
		speed: 20
	});
	await page.goto('/gear/find?now');
	await page.getByRole('button', { name: 'Take it into the catalogue' }).click();
	await page.getByRole('main').getByRole('link', { name: 'Back up Marl' }).click();
	await goButton(page).click();
	await expect(result(page)).toContainText('Complete, twice in the same way', { timeout: 60_000 });

	await page.getByRole('link', { name: 'Open this version' }).click();
	const line = page.getByRole('region', { name: 'Line' });
	await expect(line).toContainText(/Hardware\s*This computer.*Halyard 2 Out 2.*Marl/s);
	await line.getByRole('button', { name: 'Ask again' }).click();
	await expect(line).toContainText(/Said who it is just now/);
	const before = await standIn(page, 'records', 1, 0, 'patches');
	await standIn(page, 'rename', 1, 0, 'patches', 4, 'Lost in the Show');
	expect(await standIn(page, 'records', 1, 0, 'patches')).not.toEqual(before);
	await page.keyboard.press('r');
	await start(page);
	await expect(result(page)).toContainText('Verified', { timeout: 60_000 });
	await expect(result(page)).toContainText('1 slot written and read back equal, 32 already there');
	expect(await standIn(page, 'records', 1, 0, 'patches')).toEqual(before);
});
