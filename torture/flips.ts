import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { between, pick, type Random } from '../src/lib/core/bench';
import { Problem } from '../src/lib/core/problem';
import { checkStudio } from '../src/lib/server/check';
import type { Studio } from '../src/lib/server/db/connection';
import { isTorn } from '../src/lib/server/db/damage';
import { listVersions, openVersion } from '../src/lib/server/drawer';
import { findSounds } from '../src/lib/server/find';
import { listDevices } from '../src/lib/server/gear';
import { hashOf } from '../src/lib/server/hash';
import { today } from '../src/lib/server/today';
import { freshCopy, within, type Template } from './template';

export interface Flipped {
	flips: number;
	/** Studios that were refused when they were opened. */
	refused: number;
	/** Flips that `check` named something for. */
	named: number;
	/** Versions that could not be opened, or not as they were, over all flips. */
	touched: number;
	/** Of those, versions that `check` made whole again. */
	mended: number;
	faults: string[];
}

/** What each version holds: its messages, as one hash. */
async function contents(studio: Studio): Promise<Map<string, string>> {
	const held = new Map<string, string>();
	for (const { id } of await listDevices(studio, { archived: true }))
		for (const version of await listVersions(studio, id)) {
			const { messages } = await openVersion(studio, version.id);
			held.set(version.id, hashOf(Buffer.concat(messages)));
		}
	return held;
}

/**
 * Turns one bit of a studio's file over, again and again: no version is ever given out that is not what was stored, whatever
 * is touched is named by `check`, which goes on to its end, and the rest is shown.
 */
export async function flipBits(template: Template, random: Random, untilMs: number): Promise<Flipped> {
	const told: Flipped = { flips: 0, refused: 0, named: 0, touched: 0, mended: 0, faults: [] };
	const whole = await within(template.file, contents);
	const bytes = readFileSync(template.file);
	while (performance.now() < untilMs) {
		const file = freshCopy(template, 'flipped');
		const at = between(random, 0, bytes.length - 1);
		const bit = pick(random, [0, 1, 2, 3, 4, 5, 6, 7]);
		const hurt = Buffer.from(bytes);
		hurt[at] ^= 1 << bit;
		writeFileSync(file, hurt);
		told.flips++;
		const fault = (says: string) => told.faults.push(`bit ${bit} of byte ${at}: ${says}`);
		try {
			await within(file, async (studio) => {
				const wrong: string[] = [];
				for (const [id, hash] of whole) {
					const opened = await openVersion(studio, id).catch((error: unknown) => {
						if (!(error instanceof Problem || isTorn(error)))
							fault(`version ${id} fails with ${String(error)}`);
						return null;
					});
					if (!opened) wrong.push(id);
					else if (hashOf(Buffer.concat(opened.messages)) !== hash)
						fault(`version ${id} is given out, and is not what was stored`);
				}
				told.touched += wrong.length;
				const shown: [string, () => Promise<unknown>][] = [
					['Today', () => today(studio)],
					['the catalogue', () => listDevices(studio)],
					['finding', () => findSounds(studio, 'Take')]
				];
				for (const [name, show] of shown)
					await show().catch((error: unknown) => isTorn(error) || fault(`${name} fails: ${String(error)}`));
				const { damage } = await checkStudio(studio);
				if (damage.length > 0) told.named++;
				const named = new Set(damage.map(({ versionId }) => versionId));
				for (const id of wrong) {
					if (named.has(id)) continue;
					// What the check mended is as it was.
					const now = await openVersion(studio, id).catch(() => null);
					if (now && hashOf(Buffer.concat(now.messages)) === whole.get(id)) told.mended++;
					else
						fault(
							`check does not name version ${id}, which cannot be opened (${await openVersion(studio, id).then(() => 'it opens', String)})`
						);
				}
			});
		} catch (error) {
			if (error instanceof Problem && error.code === 'studio.damaged') told.refused++;
			else
				fault(
					`it stops everything: ${error instanceof Error ? (error.stack ?? '').split('\n').slice(0, 5).join(' ') : String(error)}`
				);
		}
		rmSync(dirname(file), { recursive: true, force: true });
	}
	return told;
}
