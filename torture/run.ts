// npm run torture -- MINUTES [SEED]: kills, flips, full disks, faulty calls, two servers; a table at the end.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { serve } from '../e2e/server-process';
import { seededRandom } from '../src/lib/core/bench';
import { tortureApi } from './api';
import { fillDisk } from './disk';
import { flipBits } from './flips';
import { carryAll, LONGEST_MS, type Carried } from './heavy';
import { DEEDS, killIn } from './kills';
import { fuzzReaders } from './readers';
import { filesOf, freshCopy, makeTemplate } from './template';
import { twoServers } from './two-servers';

/** How the time is shared out. */
const SHARES = { kills: 0.35, flips: 0.23, disk: 0.07, two: 0.03, fuzz: 0.08, calls: 0.24 };
const PORT = 5380;

export interface Row {
	what: string;
	figures: string;
}

export interface Tortured {
	rows: Row[];
	faults: string[];
}

/**
 * Tortures for so many minutes.
 * @param refusedMs the most that a refused call may take: two seconds, more on a machine that does other things
 */
export async function torture(minutes: number, seed: number, refusedMs = 2000): Promise<Tortured> {
	const rows: Row[] = [];
	const faults: string[] = [];
	const random = seededRandom(seed);
	const until = (share: number) => performance.now() + share * minutes * 60_000;
	const template = await makeTemplate();
	try {
		for (const deed of DEEDS) {
			const {
				kills,
				hit,
				faults: found
			} = await killIn(deed, template, random, until(SHARES.kills / DEEDS.length));
			rows.push({ what: `Killed: ${deed}`, figures: `${kills} kills, ${hit} before it was done` });
			faults.push(...found);
		}
		const flips = await flipBits(template, random, until(SHARES.flips));
		rows.push({
			what: 'One bit of the file turned over',
			figures: `${flips.flips} flips, ${flips.refused} refused at opening, ${flips.named} named by check, ${flips.touched} versions touched, ${flips.mended} of them mended by it`
		});
		faults.push(...flips.faults);
		const disk = await fillDisk(template.folder, PORT, until(SHARES.disk));
		rows.push({
			what: 'Full disk',
			figures:
				disk.rounds === 0
					? 'not tried: no disk may be mounted here'
					: `${disk.rounds} rounds, ${disk.refused} calls refused, ${disk.kept} confirmed devices found again`
		});
		faults.push(...disk.faults);
		const two = await twoServers(template.folder, PORT + 2, until(SHARES.two));
		rows.push({ what: 'Two servers on one studio', figures: `${two.rounds} rounds` });
		faults.push(...two.faults);
		const heavy = await carryAll(template, PORT + 6, {
			quick: minutes < 5,
			waits: refusedMs > 2000 ? refusedMs : LONGEST_MS
		});
		const most = (of: (each: Carried) => number) => Math.max(...heavy.carried.map(of)).toFixed(0);
		rows.push({
			what: 'Heavy requests',
			figures: `${heavy.carried.length} (${heavy.carried.map(({ what, peakMB, longestMs }) => `${what}: ${Math.max(0, peakMB).toFixed(0)} MB, ${longestMs.toFixed(0)} ms`).join('; ')}); highest memory ${most(({ peakMB }) => peakMB)} MB beside the body, longest wait of others ${most(({ longestMs }) => longestMs)} ms`
		});
		faults.push(...heavy.faults);
		const files = await filesOf(template);
		const fuzzed = await fuzzReaders(template.folder, files, random, until(SHARES.fuzz));
		rows.push({
			what: 'Hurt files, by reader',
			figures: Object.entries(fuzzed.readers)
				.map(([reader, { inputs, read }]) => `${reader}: ${inputs} (${read} read)`)
				.join(', ')
		});
		faults.push(...fuzzed.faults);
		const file = freshCopy(template, 'called');
		const server = await serve(PORT + 4, join(file, '..'));
		try {
			const calls = await tortureApi(
				server.url,
				file,
				random,
				until(SHARES.calls),
				files,
				server.output,
				refusedMs
			);
			const statuses = Object.entries(calls.statuses).map(([status, count]) => `${status}: ${count}`);
			rows.push({
				what: 'Faulty calls',
				figures: `${calls.calls} calls (${statuses.join(', ')}); the longest refusal ${calls.longestRefusalMs.toFixed(0)} ms`
			});
			faults.push(...calls.faults);
		} finally {
			await server.kill();
		}
	} finally {
		rmSync(template.folder, { recursive: true, force: true });
	}
	return { rows, faults };
}

if (process.argv[1]?.endsWith('run.ts')) {
	const [minutes = '5', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
	console.log(`Torture: ${minutes} minutes, seed ${seed}.`);
	const { rows, faults } = await torture(Number(minutes), Number(seed));
	for (const { what, figures } of rows) console.log(`${what.padEnd(34)} ${figures}`);
	for (const fault of faults) console.error(`FAULT ${fault}`);
	console.log(faults.length === 0 ? 'Clean.' : `${faults.length} faults.`);
	process.exitCode = faults.length > 0 ? 1 : 0;
}
