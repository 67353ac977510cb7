// Renders the pictures of the main views from freshly made demo data into docs/screenshots.
import { mkdtempSync, mkdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { spawn } from 'node:child_process';
import { build, install, root, tsx } from './setup.mjs';
import { chromiumFlags, needChromium } from './browser.mjs';

install();
build();
const { chromium } = await import('@playwright/test');
const executablePath = needChromium();
const port = 5396;
const base = `http://127.0.0.1:${port}`;
const data = mkdtempSync(join(tmpdir(), 'drawer-pictures-'));
const pictures = join(root, 'docs/screenshots');
mkdirSync(pictures, { recursive: true });
tsx('demo/seed.ts', [join(data, 'studio.sqlite')], { env: { ...process.env, DRAWER_HOME: root } });

const code = `const { serve } = await import('./scripts/serve.mjs'); await serve({ data: ${JSON.stringify(data)}, demo: true });`;
const server = spawn(process.execPath, ['--input-type=module', '-e', code], {
	cwd: root,
	env: { ...process.env, PORT: String(port) }
});
await new Promise((ready, failed) => {
	server.stdout.on('data', (text) => String(text).includes('http://') && ready());
	server.once('exit', (status) => failed(new Error(`The server ended with ${status}.`)));
});

const browser = await chromium.launch({ executablePath, args: chromiumFlags });
async function page(colorScheme = 'light') {
	const opened = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme });
	await opened.goto(base);
	return opened;
}
const devices = await (await fetch(`${base}/api/v1/devices`)).json();
const id = (name) => devices.find((device) => device.name === name).id;
async function take(opened, name) {
	await opened.waitForLoadState('networkidle');
	await opened.mouse.move(0, 0);
	await opened.screenshot({ path: join(pictures, `${name}.png`) });
	console.log(`docs/screenshots/${name}.png`);
}
const go = async (opened, path) => {
	await opened.goto(base + path);
	await opened.waitForSelector('html[data-ready]', { state: 'attached' });
};

const day = await page();
await take(day, 'today');
await day.evaluate(() => localStorage.setItem('silent-drawer.bench-speed', '20'));
await go(day, '/gear/find?now');
await day.getByText(/devices answered on/).waitFor({ timeout: 60_000 });
await take(day, 'plugged-in');
await day.evaluate(() => localStorage.setItem('silent-drawer.bench-speed', '1'));
await go(day, `/gear/${id('Orrery')}/drawer`);
await take(day, 'drawer');
await day.keyboard.press('c');
await day.locator('.slot.differs button.cell').first().click();
await take(day, 'compare');
await go(day, `/wiring?device=${id('Umbra hall')}`);
await take(day, 'ledger');
await go(day, '/control/zones');
await day.getByRole('button', { name: 'Low drone' }).click();
await day.getByRole('button', { name: '3 Inner planets' }).click();
await day.getByText('Parallax west: Shown.').waitFor();
await take(day, 'zones');
const [map] = await (await fetch(`${base}/api/v1/maps`)).json();
await go(day, `/control/${map.id}`);
await day.getByRole('combobox', { name: 'Fader 2' }).focus();
await take(day, 'controller');
await go(day, '/wiring/plan');
await day.getByRole('button', { name: 'Make a plan' }).click();
await day.getByText('Proved best').waitFor();
await take(day, 'plan');
await go(day, '/wiring/power');
await day.getByRole('button', { name: 'Plan what feeds what' }).click();
await day.getByRole('list', { name: 'What is to be done' }).waitFor({ timeout: 40_000 });
await take(day, 'power');
await go(day, '/control/feet');
await take(day, 'feet');
await go(day, '/sounds?q=eclipse');
await take(day, 'find');
const umbra = await (await fetch(`${base}/api/v1/transfers?device=${id('Umbra hall')}`)).json();
await go(day, `/transfers/new?version=${umbra.at(-1).versionId}`);
const tray = (opened) => opened.getByRole('region', { name: 'Tray' });
const tick = async (opened) => {
	const card = tray(opened).getByRole('region', { name: 'Before it starts' });
	for (const box of await card
		.getByRole('group', { name: /must show$/ })
		.getByRole('checkbox')
		.all())
		await box.check();
};
await tray(day).getByText('that are written').waitFor();
await tray(day).getByRole('status', { name: 'Display' }).waitFor();
await take(day, 'before-a-restore');
await tick(day);
await tray(day)
	.getByRole('button', { name: /^Overwrite/ })
	.click();
await day.getByRole('heading', { name: 'Verified', exact: true }).waitFor({ timeout: 60_000 });
await take(day, 'verified');
for (const box of await tray(day)
	.getByRole('group', { name: /^Set back/ })
	.getByRole('checkbox')
	.all())
	await box.check();
await tray(day).getByRole('button', { name: 'Clear what is over' }).click();

const banks = await (await fetch(`${base}/api/v1/banks`)).json();
await go(day, `/sounds/banks/${banks[0].id}`);
await day.getByRole('list', { name: 'Sounds found' }).getByRole('button').first().waitFor();
await take(day, 'bank');
await go(day, `/gear/workshop?profile=new&version=${umbra.at(-1).versionId}`);
await day.getByRole('radio', { name: /^Asked slot by slot/ }).check();
for (const [question, answer] of Object.entries({
	maker: 'Ternhill',
	model: 'Umbra',
	identity: '7D, 66 00, 01 00',
	slots: '50',
	request: 'F0 7D 66 <device> 11 F7',
	dump: 'F0 7D 66 <device> [ 01 <data> ] <sum> F7',
	size: '42',
	together: '50',
	name: '0, 12'
}))
	await day.locator(`#q-${question}`).fill(answer);
await day.locator('#q-packing').selectOption('7in8-first-high');
await day.locator('#q-checksum').selectOption('sum-14');
await day.getByText('Checksum right').waitFor();
await day.locator('#q-request').scrollIntoViewIfNeeded();
await take(day, 'workshop');
await go(day, '/care/service');
await day.getByRole('button', { name: 'Begin its procedure: Update to 1.07' }).click();
await day.getByRole('button', { name: 'Take parallax-rack-1.07.syx' }).click();
await day.getByRole('button', { name: 'Parallax D (desktop)' }).click();
await day.getByText('The gate does not hold').waitFor();
await day.getByRole('status', { name: 'Display' }).waitFor();
await take(day, 'procedure');
await go(day, '/transfers/studio');
await day.getByRole('button', { name: /^Check all/ }).click();
await tray(day)
	.getByRole('button', { name: /^All panels|^Back up/ })
	.first()
	.waitFor();
const rows = tray(day).getByRole('navigation', { name: 'Rows of the tray' });
await rows.getByRole('button', { name: /^Nadir drums/ }).click();
await tick(day);
await tray(day)
	.getByRole('button', { name: /^Back up \d/ })
	.click();
await rows.getByText('done').first().waitFor({ timeout: 60_000 });
await day.screenshot({ path: join(pictures, 'studio.png') });
console.log('docs/screenshots/studio.png');
await tray(day).getByRole('button', { name: /^Stop/ }).click();
await tray(day).getByRole('button', { name: /^Stop/ }).waitFor({ state: 'hidden' });

const night = await page('dark');
await go(night, `/transfers/new?device=${id('Nadir drums')}`);
await tick(night);
await take(night, 'tray-by-lamplight');
await tray(night).getByRole('button', { name: 'Close the tray' }).click();
await go(night, '/care/switching');
await night.getByRole('button', { name: 'Switch it on' }).click();
await night.getByRole('button', { name: 'It is done' }).click();
await night.getByText('ticked by hand').first().waitFor();
await night.getByRole('button', { name: 'Ask who is on, and send' }).click();
await night.getByText('sent, look at the display').waitFor({ timeout: 60_000 });
await take(night, 'switching-by-lamplight');

await browser.close();
server.kill();
rmSync(data, { recursive: true, force: true });
