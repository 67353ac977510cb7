// Programs of others that the tests compare with, where the machine lets them be installed.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const WANTED = [
	['/usr/bin/midicsv', 'midicsv'],
	['/usr/lib/python3/dist-packages/mido', 'python3-mido'],
	['/usr/bin/unzip', 'unzip'],
	['/usr/bin/git', 'git']
];

/** Installs what is missing from Debian's packages; without it the tests say what they did not compare with. */
export function thirdParties() {
	const missing = WANTED.filter(([path]) => !existsSync(path)).map(([, name]) => name);
	if (missing.length === 0 || process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return;
	console.log(`Installing ${missing.join(', ')} …`);
	const quiet = {
		stdio: ['ignore', 'ignore', 'inherit'],
		env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
	};
	const get = (...args) => spawnSync('apt-get', [...args, '-qq'], quiet).status === 0;
	const install = () => get('install', '-y', '--no-install-recommends', ...missing);
	if (!install()) {
		get('update');
		install();
	}
}
