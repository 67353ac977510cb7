// Where Chromium is, and how it starts on a machine without a monitor.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

/**
 * What Chromium has and no page needs. The lists below its address bar are pages of its own, some seven hundred files that
 * it loads with every new window, seen or not: more than a second of each test. Of two such flags the last one counts, so that
 * what Playwright turns off stands here, too.
 */
const WITHOUT = [
	'WebUIOmniboxPopup',
	'WebUIOmniboxAimPopup',
	'WebUIOmniboxFullPopup',
	'AimEnabled',
	'AvoidCorsURLLoaderRestartOnRedirect',
	'AvoidUnnecessaryBeforeUnloadCheckSync',
	'DestroyProfileOnBrowserClose',
	'HttpsFirstBalancedModeAutoEnable',
	'HttpsUpgrades',
	'LensOverlay',
	'MediaRouter',
	'NetworkTimeServiceQuerying',
	'OptimizationHints',
	'PaintHolding',
	'PreconnectToSearch',
	'ThirdPartyStoragePartitioning'
];

export const chromiumFlags = [
	`--disable-features=${WITHOUT.join(',')}`,
	'--no-sandbox',
	'--disable-gpu',
	'--disable-quic',
	'--no-first-run',
	'--disable-background-networking',
	'--disable-component-update',
	'--disable-sync'
];

const places = [
	process.env.CHROMIUM,
	'/usr/bin/chromium',
	'/usr/bin/chromium-browser',
	'/usr/bin/google-chrome'
];

export const findChromium = () => places.find((path) => path && existsSync(path));

/** The path of Chromium; installs Debian's where that is allowed. */
export function needChromium() {
	const found = findChromium();
	if (found) return found;
	if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
		console.log('Installing Chromium …');
		/** @type {import('node:child_process').SpawnSyncOptions} */
		const quiet = {
			stdio: ['ignore', 'ignore', 'inherit'],
			env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
		};
		spawnSync('apt-get', ['update', '-qq'], quiet);
		spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], quiet);
		const installed = findChromium();
		if (installed) return installed;
	}
	console.error(
		'The browser tests need Chromium. Install it (Debian: apt-get install chromium), or set CHROMIUM to its path.'
	);
	process.exit(1);
}
