import { spawn } from 'node:child_process';
import { cpSync, readdirSync, rmSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildSync } from 'esbuild';
import { checkStudio } from '../src/lib/server/check';
import type { Studio } from '../src/lib/server/db/connection';
import { copiesOf } from '../src/lib/server/db/studio-file';
import { listTransfers, receivedMessages } from '../src/lib/server/transfers';
import { isDone, KEPT, type Deed } from './deed-names';
import { freshCopy, tally, within, type Template } from './template';

const root = fileURLToPath(new URL('..', import.meta.url));

/** How a deed ended. */
export interface Outcome {
	done: boolean;
	/** What it said on its way. */
	said: string;
	/** From its first word to its end. */
	ms: number;
	/** What it exited with; null if it was killed. */
	code: number | null;
	errors: string;
}

/** What is done to a deed. */
export interface Means {
	/** After so many ms it is killed. */
	killMs?: number;
	env?: Record<string, string>;
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

function carryOut(deed: Deed, file: string, bundle: string, { killMs, env }: Means): Promise<Outcome> {
	const child = spawn(process.execPath, [deedScript(), deed, file, bundle], {
		cwd: root,
		env: { ...process.env, DRAWER_HOME: root, ...env }
	});
	let said = '';
	let began = 0;
	let errors = '';
	return new Promise((resolve) => {
		child.stderr.on('data', (chunk: Buffer) => (errors += chunk.toString()));
		child.stdout.on('data', (chunk: Buffer) => {
			if (said === '') {
				began = performance.now();
				if (killMs !== undefined) setTimeout(() => child.kill('SIGKILL'), killMs);
			}
			said += chunk.toString();
		});
		child.once('close', (code) =>
			resolve({ done: isDone(said), said, ms: performance.now() - began, code, errors })
		);
	});
}

/** What stands beside a studio as a copy of it, and is none. */
async function unsoundCopies(file: string): Promise<string[]> {
	const names = new Set(readdirSync(dirname(file)).filter((name) => /\.(before|copy)[^.]*$/.test(name)));
	for await (const copy of copiesOf(file)) names.delete(basename(copy.file));
	return [...names];
}

/** How many messages the newest transfer has. */
async function messagesOf(studio: Studio): Promise<number> {
	const [transfer] = await listTransfers(studio);
	return transfer ? (await receivedMessages(studio, transfer.id)).length : 0;
}

export interface BrokenOff {
	/** How often it was carried out. */
	rounds: number;
	/** Of those, how often it was broken off before it was done. */
	hit: number;
	faults: string[];
}

/** Several taken as one. */
export const allOf = (each: readonly BrokenOff[]): BrokenOff => ({
	rounds: each.reduce((sum, { rounds }) => sum + rounds, 0),
	hit: each.reduce((sum, { hit }) => sum + hit, 0),
	faults: each.flatMap(({ faults }) => faults)
});

/** One deed, to be broken off again and again. */
export interface Trial {
	deed: Deed;
	/** How it ended undisturbed. */
	undisturbed: Outcome;
	/** What it is done to, in a folder of its own. */
	fresh(folder: string): string;
	carryOut(file: string, means: Means): Promise<Outcome>;
	/** What is wrong after it had said so much: it happened whole or not at all, the studio opens, and nothing in it is damaged. */
	judge(file: string, said: string): Promise<string[]>;
}

/** Carries a deed out once, for what comes of it. */
export async function trialOf(deed: Deed, template: Template): Promise<Trial> {
	const fresh = (folder: string) => {
		const file = freshCopy(template, folder);
		if (deed === 'first start') rmSync(file);
		if (deed === 'migration') cpSync(template.old, file);
		if (deed === 'put back') cpSync(template.old, `${file}.copy`);
		return file;
	};
	// Whoever opens it to look carries it out.
	const byOpening = deed === 'first start' || deed === 'migration';
	// The studio of the first version holds no messages: that is said of it as before.
	const byOld = deed === 'migration' || deed === 'put back';
	const before = byOpening ? null : await within(fresh('before'), tally);
	const whole = fresh('undisturbed');
	const undisturbed = await carryOut(deed, whole, template.bundle, {});
	if (!undisturbed.done) throw new Error(`${deed} cannot be done: ${undisturbed.errors}`);
	const { after, damage } = await within(whole, async (studio) => ({
		after: await tally(studio),
		damage: (await checkStudio(studio)).damage.length
	}));
	return {
		deed,
		undisturbed,
		fresh,
		carryOut: (file, means) => carryOut(deed, file, template.bundle, means),
		async judge(file, said) {
			const faults: string[] = [];
			const done = isDone(said);
			try {
				const now = await within(file, async (studio) => {
					const report = await checkStudio(studio);
					if (report.damage.length > (byOld ? damage : 0)) faults.push(report.damage[0].says);
					if (deed === 'backup') {
						const [kept, there] = [said.split(KEPT).length - 1, await messagesOf(studio)];
						if (there < kept) faults.push(`${kept} messages were stored, ${there} are there`);
					}
					return tally(studio);
				});
				for (const copy of await unsoundCopies(file)) faults.push(`${copy} is no whole copy`);
				if (now !== after && (done || (now !== before && deed !== 'backup')))
					faults.push(`${done ? 'done, and not there' : 'neither before nor after'}: ${now}`);
			} catch (error) {
				faults.push(`it does not open: ${String(error)}`);
			}
			return faults.map((says) => `${deed}: ${says}`);
		}
	};
}
