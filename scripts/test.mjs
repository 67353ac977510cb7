// Installs what is missing, then checks everything. The last line is the sum.
import { spawn, spawnSync } from 'node:child_process';
import { readFileSync, rmSync, mkdirSync, statfsSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { install, root } from './setup.mjs';
import { needChromium } from './browser.mjs';
import { thirdParties } from './third-parties.mjs';

install();
needChromium();
thirdParties();

const node = process.execPath;
const bin = (script) => join(root, 'node_modules', script);
const results = join(root, 'test-results');
mkdirSync(results, { recursive: true });
let passed = 0;
let failed = 0;
/** What each stage took and gave, said again at the end. */
const told = [];
const note = (title, began, ok, bad) => {
	passed += ok;
	failed += bad;
	told.push({ title, seconds: (performance.now() - began) / 1000, ok, bad });
};

const env = { ...process.env, DRAWER_HOME: root };

/**
 * Where studios of unit and browser tests are: in memory, where there is plenty. They wait for a disk thousands of times, and
 * none of them says anything of disks; those on the built server do, and are on one.
 */
function inMemory() {
	const folder = `/dev/shm/silent-drawer-${createHash('sha256').update(root).digest('hex').slice(0, 8)}`;
	try {
		const { bavail, bsize } = statfsSync('/dev/shm');
		if (bavail * bsize < 4e9) return env;
		rmSync(folder, { recursive: true, force: true });
		mkdirSync(folder);
	} catch {
		return env;
	}
	process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
	return { ...env, TMPDIR: folder };
}

/** What a stage that has ended gave; without a report of its own it counts as one check. */
function close(title, began, status, report) {
	if (!report) return note(title, began, Number(status === 0), Number(status !== 0));
	let sum = { passed: 0, failed: 1 };
	try {
		sum = report.read(JSON.parse(readFileSync(reportFile(report), 'utf8')));
	} catch (error) {
		console.error(`The stage left no report: ${error.message}`);
	}
	note(title, began, sum.passed, sum.failed + (status !== 0 && sum.failed === 0 ? 1 : 0));
}
const reportFile = (report) => join(results, `${report.name}.json`);

/** Runs one stage, its output as it comes. */
function stage(title, args, report, around = env) {
	console.log(`\n— ${title}`);
	const began = performance.now();
	if (report) rmSync(reportFile(report), { force: true });
	const { status } = spawnSync(node, args, { cwd: root, stdio: 'inherit', env: around });
	close(title, began, status, report);
}

/** Runs lanes of stages side by side, each stage of a lane after the one before, its output in one piece. */
const together = (...lanes) =>
	Promise.all(
		lanes.map(async (stages) => {
			for (const [title, args, report] of stages) {
				const began = performance.now();
				if (report) rmSync(reportFile(report), { force: true });
				const { status, output } = await new Promise((done) => {
					const child = spawn(node, args, { cwd: root, env });
					let output = '';
					for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (output += chunk));
					child.once('close', (status) => done({ status, output }));
				});
				console.log(`\n— ${title}\n${output.trimEnd()}`);
				close(title, began, status, report);
			}
		})
	);

const vitest = (name) => ({
	name,
	read: (json) => ({
		passed: json.numPassedTests,
		failed:
			json.numFailedTests +
			(json.numFailedTestSuites > 0 && json.numFailedTests === 0 ? json.numFailedTestSuites : 0)
	})
});
const playwright = {
	name: 'e2e',
	read: ({ stats }) => ({
		passed: stats.expected + stats.flaky,
		failed: stats.unexpected + (stats.expected === 0 ? 1 : 0)
	})
};
const vitestArgs = (name, ...more) => [
	bin('vitest/vitest.mjs'),
	'run',
	'--reporter=default',
	'--reporter=json',
	`--outputFile.json=${join(results, `${name}.json`)}`,
	...more
];

stage('Types the framework makes', [bin('@sveltejs/kit/svelte-kit.js'), 'sync']);
// Each of these needs one core.
await together(
	[
		['The build', ['scripts/build.mjs']],
		[
			'Crashes and guards, on the built server',
			vitestArgs('crash', '--config', 'vitest.crash.config.ts'),
			vitest('crash')
		]
	],
	[
		['Lint: rules, direction of dependencies, purity of the core', [bin('eslint/bin/eslint.js'), '.']],
		['Format', [bin('prettier/bin/prettier.cjs'), '--check', '--log-level=warn', '.']],
		[
			'Types of the core, without browser and Node',
			[bin('typescript/bin/tsc'), '-p', 'src/lib/core/tsconfig.json']
		],
		['Types of the service worker', [bin('typescript/bin/tsc'), '-p', 'tsconfig.worker.json']],
		[
			'Types of everything',
			[
				bin('svelte-check/bin/svelte-check'),
				'--tsconfig',
				'./tsconfig.json',
				'--fail-on-warnings',
				'--output',
				'human'
			]
		],
		['JSON Schemas are those of the code', ['--import', 'tsx', 'scripts/formats.ts', '--check']]
	]
);
const quick = inMemory();
stage('Unit and property tests', vitestArgs('unit'), vitest('unit'), quick);
stage('Browser', [bin('@playwright/test/cli.js'), 'test'], playwright, quick);

console.log('\n— What it is built on');
spawnSync(node, [join(root, 'scripts', 'dependencies.mjs')], { cwd: root, stdio: 'inherit', env });

process.exitCode = failed > 0 ? 1 : 0;
console.log('');
for (const { title, seconds, ok, bad } of told)
	console.log(
		`${title.padEnd(60)} ${seconds.toFixed(0).padStart(5)} s  ${String(ok).padStart(5)} passed${bad > 0 ? `, ${bad} FAILED` : ''}`
	);
console.log(`\n${passed} passed, ${failed} failed`);
