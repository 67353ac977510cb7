// npm run torture -- MINUTES [SEED]: kills, power cuts, flips, full and failing disks, faulty calls, two servers; a table at the end.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { serve } from '../e2e/server-process';
import { pick, seededRandom, type Random } from '../src/lib/core/bench';
import { tortureApi } from './api';
import { failIn, killIn } from './broken-off';
import { DEEDS, type Deed } from './deed-names';
import { allOf, trialOf, type BrokenOff, type Trial } from './deeds';
import { failingDisk, memoryDisk, type Disk } from './disk/disks';
import { fillDisk } from './disk/full';
import { cutIn } from './disk/power-cut';
import { flipBits } from './flips';
import { carryAll, LONGEST_MS, type Carried } from './heavy';
import { fuzzReaders } from './readers';
import { filesOf, freshCopy, makeTemplate, type Template } from './template';
import { twoServers } from './two-servers';

/** How the time is shared out; heavy requests take what they take. */
const SHARES = {
	kills: 0.56,
	failing: 0.05,
	cuts: 0.05,
	flips: 0.18,
	disk: 0.05,
	two: 0.02,
	fuzz: 0.03,
	calls: 0.06
};
/** Which of the deeds are killed more often than others: of these every start of the app may be one, and bringing up to date takes long. */
const OFTENER: Partial<Record<Deed, number>> = { 'first start': 17, migration: 22 };
const oftenOf = (deed: Deed): number => OFTENER[deed] ?? 1;
const ALL_KILLS = DEEDS.reduce((sum, deed) => sum + oftenOf(deed), 0);
const PORT = 5380;

export interface Row {
	what: string;
	figures: string;
}

export interface Tortured {
	rows: Row[];
	faults: string[];
}

/** One way to hurt a studio: what came of it in figures, and what was wrong. */
interface Part {
	what: string;
	/** Of the time. */
	share: number;
	hurt(untilMs: number): Promise<{ figures: string; faults: string[] }>;
}

interface Setting {
	template: Template;
	random: Random;
	/** Carried out once for whoever breaks it off. */
	trial(deed: Deed): Promise<Trial>;
	/** Whether heavy requests are few, and disks fail and power is cut in some of the deeds alone. */
	quick: boolean;
	/** The most that a refused call may take, ms. */
	refusedMs: number;
}

const NOT_HERE = 'not tried: this machine does not let one be made';

function killed({ trial, random }: Setting, deed: Deed): Part {
	return {
		what: `Killed: ${deed}`,
		share: (SHARES.kills * oftenOf(deed)) / ALL_KILLS,
		async hurt(untilMs) {
			const { rounds, hit, faults } = await killIn(await trial(deed), random, untilMs);
			return { figures: `${rounds} kills, ${hit} before it was done`, faults };
		}
	};
}

/** How many deeds a short torture has time for, where they share a row. */
const QUICK = 3;

/** One row for all deeds: how often, and how often before it was done. */
function inAnyDeed(
	{ quick, random, trial }: Setting,
	what: string,
	share: number,
	hurt: (trial: Trial, untilMs: number) => Promise<BrokenOff | null>
): Part {
	return {
		what,
		share,
		async hurt(untilMs) {
			const deeds = quick ? Array.from({ length: QUICK }, () => pick(random, DEEDS)) : DEEDS;
			const each = (untilMs - performance.now()) / deeds.length;
			const came: BrokenOff[] = [];
			for (const deed of deeds) {
				const one = await hurt(await trial(deed), performance.now() + each);
				if (!one) return { figures: NOT_HERE, faults: [] };
				came.push(one);
			}
			const { rounds, hit, faults } = allOf(came);
			return { figures: `${rounds} times, ${hit} before it was done`, faults };
		}
	};
}

const failed = (setting: Setting): Part =>
	inAnyDeed(setting, 'The disk fails in one of these', SHARES.failing, (trial, untilMs) =>
		failIn(trial, setting.template, setting.random, untilMs)
	);

const cut = (setting: Setting): Part =>
	inAnyDeed(setting, 'The power is cut in one of these', SHARES.cuts, (trial, untilMs) =>
		cutIn(trial, setting.template, setting.random, untilMs)
	);

const flipped = ({ template, random }: Setting): Part => ({
	what: 'One bit of the file turned over',
	share: SHARES.flips,
	async hurt(untilMs) {
		const { flips, refused, named, touched, mended, faults } = await flipBits(template, random, untilMs);
		return {
			figures: `${flips} flips, ${refused} refused at opening, ${named} named by check, ${touched} versions touched, ${mended} of them mended by it`,
			faults
		};
	}
});

const filled = ({ template, random }: Setting, what: string, made: () => Disk | null): Part => ({
	what,
	share: SHARES.disk / 2,
	async hurt(untilMs) {
		const { rounds, refused, kept, faults } = await fillDisk(made, template.bundle, random, PORT, untilMs);
		return {
			figures:
				rounds === 0
					? NOT_HERE
					: `${rounds} rounds, ${refused} calls refused, ${kept} confirmed devices and messages found again`,
			faults
		};
	}
});

const shared = ({ template }: Setting): Part => ({
	what: 'Two servers on one studio',
	share: SHARES.two,
	async hurt(untilMs) {
		const { rounds, faults } = await twoServers(template.folder, PORT + 2, untilMs);
		return { figures: `${rounds} rounds`, faults };
	}
});

const flooded = ({ template, quick, refusedMs }: Setting): Part => ({
	what: 'Heavy requests',
	share: 0,
	async hurt() {
		const waits = refusedMs > 2000 ? refusedMs : LONGEST_MS;
		const { carried, faults } = await carryAll(template, PORT + 6, { quick, waits });
		const most = (of: (each: Carried) => number) => Math.max(...carried.map(of)).toFixed(0);
		const each = carried.map(
			({ what, peakMB, longestMs }) =>
				`${what}: ${Math.max(0, peakMB).toFixed(0)} MB, ${longestMs.toFixed(0)} ms`
		);
		return {
			figures: `${carried.length} (${each.join('; ')}); highest memory ${most(({ peakMB }) => peakMB)} MB beside the body, longest wait of others ${most(({ longestMs }) => longestMs)} ms`,
			faults
		};
	}
});

const misread = ({ template, random }: Setting): Part => ({
	what: 'Hurt files, by reader',
	share: SHARES.fuzz,
	async hurt(untilMs) {
		const { readers, faults } = await fuzzReaders(template.folder, await filesOf(template), random, untilMs);
		return {
			figures: Object.entries(readers)
				.map(([reader, { inputs, read }]) => `${reader}: ${inputs} (${read} read)`)
				.join(', '),
			faults
		};
	}
});

const called = ({ template, random, refusedMs }: Setting): Part => ({
	what: 'Faulty calls',
	share: SHARES.calls,
	async hurt(untilMs) {
		const file = freshCopy(template, 'called');
		const files = await filesOf(template);
		const server = await serve(PORT + 4, join(file, '..'));
		try {
			const { calls, statuses, longestRefusalMs, faults } = await tortureApi(
				server.url,
				file,
				random,
				untilMs,
				files,
				server.output,
				refusedMs
			);
			const counts = Object.entries(statuses).map(([status, count]) => `${status}: ${count}`);
			return {
				figures: `${calls} calls (${counts.join(', ')}); the longest refusal ${longestRefusalMs.toFixed(0)} ms`,
				faults
			};
		} finally {
			await server.kill();
		}
	}
});

/**
 * Tortures for so many minutes.
 * @param refusedMs the most that a refused call may take: two seconds, more on a machine that does other things
 * @param came hears of each part once it is over
 */
export async function torture(
	minutes: number,
	seed: number,
	refusedMs = 2000,
	came: (row: Row) => void = () => {}
): Promise<Tortured> {
	const template = await makeTemplate();
	const { folder } = template;
	const trials = new Map<Deed, Promise<Trial>>();
	const trial = (deed: Deed) => {
		const made = trials.get(deed) ?? trialOf(deed, template);
		trials.set(deed, made);
		return made;
	};
	const parts = [
		...DEEDS.map((deed) => (setting: Setting) => killed(setting, deed)),
		failed,
		cut,
		flipped,
		(setting: Setting) => filled(setting, 'Full disk', () => memoryDisk(folder)),
		(setting: Setting) =>
			filled(setting, 'Failing disk', () => failingDisk(join(folder, 'failing'), setting.random)),
		shared,
		flooded,
		misread,
		called
	].map((part, i) =>
		// Each has chance of its own: however far another one came, it does the same with the same seed.
		part({ template, trial, random: seededRandom(seed + i), quick: minutes < 5, refusedMs })
	);
	const told: Tortured = { rows: [], faults: [] };
	try {
		for (const { what, share, hurt } of parts) {
			const { figures, faults } = await hurt(performance.now() + share * minutes * 60_000);
			told.rows.push({ what, figures });
			told.faults.push(...faults);
			came({ what, figures });
		}
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
	return told;
}

if (process.argv[1]?.endsWith('run.ts')) {
	const [minutes = '5', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
	console.log(`Torture: ${minutes} minutes, seed ${seed}.`);
	const { faults } = await torture(Number(minutes), Number(seed), undefined, ({ what, figures }) =>
		console.log(`${what.padEnd(34)} ${figures}`)
	);
	for (const fault of faults) console.error(`FAULT ${fault}`);
	console.log(faults.length === 0 ? 'Clean.' : `${faults.length} faults.`);
	process.exitCode = faults.length > 0 ? 1 : 0;
}
