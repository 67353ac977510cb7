// What the app is built on: licences, and the advisories that the registry knows. It tells, and fails nothing.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup.mjs';

const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
const licences = new Map();
for (const [path, { dev, license, optional }] of Object.entries(packages)) {
	if (path === '' || dev || optional) continue;
	const named = license ?? 'none named';
	licences.set(named, [...(licences.get(named) ?? []), path.replace(/^.*node_modules\//, '')]);
}
console.log('Licences of what the app runs on:');
for (const [licence, names] of [...licences].sort((a, b) => b[1].length - a[1].length))
	console.log(`  ${licence}: ${names.length > 8 ? `${names.length} packages` : names.join(', ')}`);

const { stdout } = spawnSync('npm', ['audit', '--json', '--omit=dev'], {
	cwd: root,
	encoding: 'utf8',
	timeout: 30_000,
	maxBuffer: 64 * 1024 * 1024
});
try {
	const { vulnerabilities } = JSON.parse(stdout);
	const known = Object.values(vulnerabilities);
	console.log(`Advisories that the registry knows: ${known.length}.`);
	for (const { name, severity, range } of known) console.log(`  ${severity}: ${name} ${range}`);
} catch {
	console.log('Advisories: the registry did not answer, so nobody knows.');
}
