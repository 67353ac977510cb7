import { spawn } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildSync } from 'esbuild';
import { between, type Random } from '../src/lib/core/bench';
import { checkStudio } from '../src/lib/server/check';
import { freshCopy, tally, within, type Template } from './template';

const root = fileURLToPath(new URL('..', import.meta.url));

/** What is done in a process that is killed: each is all or nothing. */
export const DEEDS = [
	'first start',
	'migration',
	'table of devices',
	'rig file',
	'bundle',
	'dump file',
	'profile'
] as const;
export type Deed = (typeof DEEDS)[number];

export interface Killed {
	kills: number;
	/** Those that hit before it was done. */
	hit: number;
	faults: string[];
}

let script: string | null = null;
/** The deeds as one file, so that a process begins in a moment. */
function deedScript(): string {
	if (script) return script;
	script = join(root, 'node_modules', '.cache', 'drawer-deed.mjs');
	buildSync({
		entryPoints: [join(root, 'torture', 'deed.ts')],
		outfile: script,
		bundle: true,
		platform: 'node',
		format: 'esm',
		packages: 'external'
	});
	return script;
}

/** Does it in a process of its own; killed so many ms after it began, where that is not null. Tells how long it took. */
function carryOut(
	deed: Deed,
	file: string,
	bundle: string,
	killMs: number | null
): Promise<{ done: boolean; ms: number }> {
	const child = spawn(process.execPath, [deedScript(), deed, file, bundle], {
		cwd: root,
		env: { ...process.env, DRAWER_HOME: root }
	});
	let output = '';
	let began = 0;
	let errors = '';
	return new Promise((resolve, reject) => {
		child.stderr.on('data', (chunk: Buffer) => (errors += chunk.toString()));
		child.stdout.on('data', (chunk: Buffer) => {
			if (output === '') {
				began = performance.now();
				if (killMs !== null) setTimeout(() => child.kill('SIGKILL'), killMs);
			}
			output += chunk.toString();
		});
		child.once('exit', (code) => {
			const done = output.includes('done');
			if (!done && (killMs === null || code !== null))
				reject(new Error(`${deed} ended with ${code}: ${errors}`));
			else resolve({ done, ms: performance.now() - began });
		});
	});
}

/**
 * Kills a process at a random moment of a deed, again and again: what it was doing is there whole or not at all, the studio
 * opens, and nothing in it is damaged.
 */
export async function killIn(
	deed: Deed,
	template: Template,
	random: Random,
	untilMs: number
): Promise<Killed> {
	const told: Killed = { kills: 0, hit: 0, faults: [] };
	const fresh = () => {
		const file = freshCopy(template, 'killed');
		if (deed === 'first start') rmSync(file);
		if (deed === 'migration') cpSync(template.old, file);
		return file;
	};
	// Whoever opens it to look carries it out.
	const byOpening = deed === 'first start' || deed === 'migration';
	const before = byOpening ? null : await within(fresh(), tally);
	const whole = fresh();
	let { ms: longest } = await carryOut(deed, whole, template.bundle, null);
	const { after, faults } = await within(whole, async (studio) => ({
		after: await tally(studio),
		faults: (await checkStudio(studio)).damage.length
	}));
	while (performance.now() < untilMs) {
		const file = fresh();
		const { done } = await carryOut(deed, file, template.bundle, between(random, 0, Math.ceil(longest)));
		told.kills++;
		if (!done) told.hit++;
		// On a machine that is quicker than thought, sooner.
		else longest = Math.max(5, longest * 0.9);
		try {
			const now = await within(file, async (studio) => {
				const { damage } = await checkStudio(studio);
				// The studio of the first version holds no messages: that is said of it as before.
				if (damage.length > (deed === 'migration' ? faults : 0))
					told.faults.push(`${deed}: ${damage[0].says}`);
				return tally(studio);
			});
			if (now !== after && now !== before && !(deed === 'first start'))
				told.faults.push(`${deed}: neither before nor after: ${now}`);
		} catch (error) {
			told.faults.push(`${deed}: it does not open: ${String(error)}`);
		}
		rmSync(dirname(file), { recursive: true, force: true });
	}
	return told;
}
