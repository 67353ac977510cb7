import { spawn } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checkPageTask, type PagePlan, type PageTask } from '../core/control';
import type { Power, PowerPlan } from '../core/power';
import { Problem } from '../core/problem';

/** So many seconds the slowest machine may take beyond what the solver was given. */
const SPARE_SECONDS = 60;
let running: keyof typeof COMMANDS | null = null;

/** What a process printed, and how it ended. */
async function outcome(words: string[], seconds: number, signal: AbortSignal) {
	const home = process.env.DRAWER_HOME ?? process.cwd();
	const child = spawn(process.execPath, [join(home, 'scripts/drawer.mjs'), ...words], {
		signal,
		timeout: Math.round((seconds + SPARE_SECONDS) * 1000),
		killSignal: 'SIGKILL'
	});
	let [out, errors] = ['', ''];
	child.stdout.setEncoding('utf8').on('data', (text: string) => (out += text));
	child.stderr.setEncoding('utf8').on('data', (text: string) => (errors += text));
	const code = await new Promise<number | null>((done, failed) => {
		child.once('error', failed);
		child.once('close', done);
	});
	return { code, out, errors };
}

/** What is planned apart: the command that does it, and what it is called in a sentence. */
const COMMANDS = { 'plan-pages': 'Pages are', power: 'Power is' } as const;

/**
 * Plans in a process of its own, by the command line: the server answers others meanwhile, and whoever asked can hang up.
 * @throws Problem `plan.conflict` while another one is planned, `plan.stopped`, `plan.failed` with what the command said
 */
async function planApart<T>(
	command: keyof typeof COMMANDS,
	task: unknown,
	seconds: number,
	signal: AbortSignal
): Promise<T> {
	if (running)
		throw new Problem(
			'plan.conflict',
			`${COMMANDS[running]} being planned already.`,
			'Wait until that is done.'
		);
	running = command;
	const folder = await mkdtemp(join(tmpdir(), 'silent-drawer-'));
	try {
		const file = join(folder, 'task.json');
		await writeFile(file, JSON.stringify(task));
		const { code, out, errors } = await outcome(
			[command, file, '--seconds', String(seconds)],
			seconds,
			signal
		);
		if (code === 0) return JSON.parse(out) as T;
		throw new Problem(
			'plan.failed',
			errors.trim() || 'The planner ended without a plan.',
			'Correct the task and try again.'
		);
	} catch (error) {
		if (signal.aborted) throw new Problem('plan.stopped', 'Planning was stopped.', 'Ask again.');
		throw error;
	} finally {
		running = null;
		await rm(folder, { recursive: true, force: true });
	}
}

/** @throws Problem `page-task.reference` before anything is planned, and as `planApart` */
export async function planPagesApart(
	task: PageTask,
	seconds: number,
	signal: AbortSignal
): Promise<PagePlan> {
	checkPageTask(task);
	return planApart('plan-pages', task, seconds, signal);
}

export const planPowerApart = async (
	power: Power,
	seconds: number,
	signal: AbortSignal
): Promise<PowerPlan> => (await planApart<{ plan: PowerPlan }>('power', power, seconds, signal)).plan;
