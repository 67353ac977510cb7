import { chromium } from 'playwright-core';
import { chromiumFlags, needChromium } from './browser.mjs';
const browser = await chromium.launch({ executablePath: needChromium(), args: chromiumFlags });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('error', e.message));
const go = async (path, name, full = false) => {
	await page.goto(`http://127.0.0.1:5444${path}`, { waitUntil: 'networkidle' });
	await page.screenshot({ path: `/tmp/shots/${name}.png`, fullPage: full });
};
const steps = await import(`/tmp/steps.mjs?${Date.now()}`);
await steps.default(page, go);
await browser.close();
