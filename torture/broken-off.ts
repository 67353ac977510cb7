import { rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { between, pick, type Random } from '../src/lib/core/bench';
import { allOf, type BrokenOff, type Means, type Outcome, type Trial } from './deeds';
import { failingDisk, REFUSALS } from './disk/disks';
import { REFUSED_AS } from './disk/full';
import type { Template } from './template';

/** How a deed is broken off at a moment that is left to chance. */
interface Breaker {
	/** What to do to it in the next round. */
	next(): Means;
	/** Once it ended: what is wrong about how it did, and it learns how long deeds take. */
	ended(outcome: Outcome): string[];
}

/** Carries a deed out and breaks it off, again and again. */
async function breakOff(trial: Trial, folder: string, by: Breaker, untilMs: number): Promise<BrokenOff> {
	const told: BrokenOff = { rounds: 0, hit: 0, faults: [] };
	by.ended(trial.undisturbed);
	do {
		const file = trial.fresh(folder);
		const outcome = await trial.carryOut(file, by.next());
		told.rounds++;
		if (!outcome.done) told.hit++;
		told.faults.push(...by.ended(outcome));
		told.faults.push(...(await trial.judge(file, outcome.said)));
		rmSync(dirname(file), { recursive: true, force: true });
	} while (performance.now() < untilMs);
	return told;
}

/** Kills the process; two side by side, as one waits while the other is looked at. */
export async function killIn(trial: Trial, random: Random, untilMs: number): Promise<BrokenOff> {
	const killer = (): Breaker => {
		let longest = 0;
		return {
			next: () => ({ killMs: between(random, 0, Math.ceil(longest)) }),
			ended({ done, ms, code, errors }) {
				// On a machine that is quicker than thought, sooner.
				longest = longest === 0 ? ms : done ? Math.max(5, longest * 0.9) : longest;
				return done || code === null ? [] : [`it ended with ${code}: ${errors}`];
			}
		};
	};
	const folders = ['killed', 'killed-too'];
	return allOf(await Promise.all(folders.map((folder) => breakOff(trial, folder, killer(), untilMs))));
}

/** As many writes as a deed is thought to make before one was tried: they make tens to thousands. */
const WRITES = 200;

/** Lets the disk fail from one of its writes on: it ends, and says that it was the disk. Null where no disk can fail so here. */
export async function failIn(
	trial: Trial,
	template: Template,
	random: Random,
	untilMs: number
): Promise<BrokenOff | null> {
	const folder = 'broken-off';
	const disk = failingDisk(join(template.folder, folder), random);
	if (!disk) return null;
	let most = WRITES;
	try {
		return await breakOff(
			trial,
			folder,
			{
				next() {
					// As often at its first writes as anywhere.
					disk.failAfter(Math.floor(Math.exp(random() * Math.log(most))) - 1, pick(random, REFUSALS));
					return { env: disk.env };
				},
				ended({ done, code, errors }) {
					disk.empty();
					// Where it still came to fail, deeds may make more.
					most = done ? Math.max(10, most * 0.8) : most * 1.25;
					if (done || REFUSED_AS.some((as) => errors.includes(as))) return [];
					return [`it ended with ${code}: ${errors}`];
				}
			},
			untilMs
		);
	} finally {
		disk.empty();
	}
}
