// Gets a bare clone ready, with nothing but Node: packages, the framework's generated types, and the build.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
export const cache = join(root, '.cache');

/**
 * Runs a program and ends this one with its code when it fails.
 * @param {string} command
 * @param {string[]} args
 * @param {import('node:child_process').SpawnSyncOptions} [options]
 */
export function run(command, args, options = {}) {
	const result = spawnSync(command, args, {
		cwd: root,
		stdio: 'inherit',
		shell: process.platform === 'win32',
		...options
	});
	if (result.status !== 0) process.exit(result.status ?? 1);
}

/**
 * Runs a program of node_modules.
 * @param {string} script
 * @param {string[]} args
 * @param {import('node:child_process').SpawnSyncOptions} [options]
 */
export const runLocal = (script, args, options) =>
	run(process.execPath, [join(root, 'node_modules', script), ...args], options);

/**
 * @param {string} file
 * @param {string[]} args
 * @param {import('node:child_process').SpawnSyncOptions} [options]
 */
export const tsx = (file, args, options) =>
	run(process.execPath, ['--import', 'tsx', join(root, file), ...args], options);

/**
 * What the files of some folders hold, as one number in hex.
 * @param {string[]} paths
 */
export function digest(paths) {
	const hash = createHash('sha256');
	const add = (/** @type {string} */ path) => {
		if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) add(join(path, name));
		else hash.update(path.slice(root.length)).update(readFileSync(path));
	};
	for (const path of paths) if (existsSync(join(root, path))) add(join(root, path));
	return hash.digest('hex');
}

/**
 * Does `work` unless the files it depends on are as they were the last time.
 * @param {string} name
 * @param {string[]} paths
 * @param {string} proof
 * @param {() => void} work
 */
function unlessDone(name, paths, proof, work) {
	const stamp = join(cache, `${name}.stamp`);
	const now = digest(paths);
	if (existsSync(join(root, proof)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
	work();
	mkdirSync(cache, { recursive: true });
	writeFileSync(stamp, now);
}

export function install() {
	const [major, minor] = process.versions.node.split('.').map(Number);
	if (major < 20 || (major === 20 && minor < 19)) {
		console.error(`Silent Drawer needs Node 20.19 or newer; this is ${process.version}.`);
		process.exit(1);
	}
	unlessDone('install', ['package-lock.json'], 'node_modules/sqlite3/build/Release/node_sqlite3.node', () => {
		console.log('Installing packages (sqlite3 may compile for some minutes the first time) …');
		run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
	});
	if (!existsSync(join(root, '.svelte-kit/tsconfig.json'))) runLocal('@sveltejs/kit/svelte-kit.js', ['sync']);
}

export function build() {
	unlessDone(
		'build',
		['src', 'static', 'package-lock.json', 'svelte.config.js', 'vite.config.ts'],
		'build/handler.js',
		() => {
			console.log('Building …');
			runLocal('vite/bin/vite.js', ['build', '--logLevel', 'error']);
		}
	);
}
