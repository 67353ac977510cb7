import { chromium } from '@playwright/test';
import { chromiumFlags, needChromium } from './browser.mjs';
const browser = await chromium.launch({ executablePath: needChromium(), args: chromiumFlags });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('ERR', e.message));
const go = async (p, n) => {
	await page.goto('http://localhost:5444' + p);
	await page.waitForLoadState('networkidle');
	await page.waitForTimeout(600);
	await page.screenshot({ path: `/tmp/look/${n}.png`, fullPage: process.env.FULL === '1' });
};
for (const [p, n] of JSON.parse(process.argv[2])) await go(p, n);
await browser.close();
