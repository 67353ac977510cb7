import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { between, seededRandom } from '../../core/bench';
import { Problem } from '../../core/problem';
import { hashOf } from '../hash';
import { freshStudio } from '../studio.fixture';
import { getObjects, putObjects } from './objects';
import { all, one, run } from './sql';

const here = freshStudio();

/** Contents, each a little different from the one before, stored each over the one before. */
async function chain(count: number, size: number, seed: number): Promise<Uint8Array[]> {
	const random = seededRandom(seed);
	const contents: Uint8Array[] = [Uint8Array.from({ length: size }, () => between(random, 0, 127))];
	while (contents.length < count) {
		const next = contents.at(-1)!.slice();
		for (let edits = between(random, 1, 3); edits > 0; edits--)
			next[between(random, 0, size - 1)] = between(random, 0, 127);
		contents.push(next);
	}
	let like: number | null = null;
	await here.studio.write(async (transaction) => {
		for (const bytes of contents) {
			const [stored]: { id: number }[] = await putObjects(here.studio, [{ bytes, like }], transaction);
			like = stored.id;
		}
	});
	return contents;
}

const STEPS = `WITH RECURSIVE up(id, at, steps) AS (
		SELECT id, id, 0 FROM objects UNION ALL
		SELECT u.id, o.base, u.steps + 1 FROM up u JOIN objects o ON o.id = u.at WHERE o.base IS NOT NULL)
	SELECT MAX(steps) AS steps FROM up`;

/** What is read of each content: its bytes, or null where it is said to be damaged. */
const readEach = (contents: readonly Uint8Array[]): Promise<(Uint8Array | null)[]> =>
	Promise.all(
		contents.map((bytes) =>
			getObjects(here.studio, [hashOf(bytes)]).then(
				([found]) => found,
				(error: unknown) => {
					if (error instanceof Problem && error.code === 'object.damaged') return null;
					throw error;
				}
			)
		)
	);

describe('contents that build on one another', () => {
	it('are each built in 94 steps at most, however long the row, and take little room', async () => {
		const contents = await chain(1200, 2000, 4);
		const { steps } = (await one<{ steps: number }>(here.studio, STEPS))!;
		expect(steps).toBeGreaterThan(63);
		expect(steps).toBeLessThanOrEqual(94);
		const { kept } = (await one<{ kept: number }>(
			here.studio,
			'SELECT SUM(LENGTH(data)) AS kept FROM objects'
		))!;
		expect(kept).toBeLessThan(0.03 * contents.length * 2000);
		const read = await getObjects(
			here.studio,
			contents.map((bytes) => hashOf(bytes))
		);
		expect(read.every((bytes, i) => Buffer.compare(bytes, contents[i]) === 0)).toBe(true);
	});

	it('begin anew where nothing is alike, and content is stored once whatever it is said to be like', async () => {
		const random = seededRandom(2);
		const noise = () => Uint8Array.from({ length: 900 }, () => between(random, 0, 127));
		const [a, b] = [noise(), noise()];
		await here.studio.write(async (transaction) => {
			const [first] = await putObjects(here.studio, [{ bytes: a, like: null }], transaction);
			const [other] = await putObjects(here.studio, [{ bytes: b, like: first.id }], transaction);
			const again = await putObjects(
				here.studio,
				[a, b, a].map((bytes) => ({ bytes, like: other.id })),
				transaction
			);
			expect(again.map(({ id }) => id)).toEqual([first.id, other.id, first.id]);
		});
		expect(await all(here.studio, 'SELECT base, place FROM objects')).toEqual([
			{ base: null, place: 0 },
			{ base: null, place: 0 }
		]);
	});

	it('damaged anywhere are never read as something else, and are whole again when stored again', async () => {
		const contents = await chain(80, 600, 7);
		await fc.assert(
			fc.asyncProperty(
				fc.nat({ max: 79 }),
				fc.nat(),
				fc.integer({ min: 1, max: 255 }),
				async (which, at, flip) => {
					const hash = hashOf(contents[which]);
					const row = (await one<{ id: number; data: Buffer }>(
						here.studio,
						'SELECT id, data FROM objects WHERE hash = unhex(?)',
						[hash]
					))!;
					const hurt = Buffer.from(row.data);
					hurt[at % hurt.length] ^= flip;
					await run(here.studio, 'UPDATE objects SET data = ? WHERE id = ?', [hurt, row.id]);
					const read = await readEach(contents);
					read.forEach((bytes, i) => {
						if (bytes) expect(Buffer.compare(bytes, contents[i])).toBe(0);
					});
					await here.studio.write((transaction) =>
						putObjects(
							here.studio,
							contents.map((bytes) => ({ bytes, like: null })),
							transaction
						)
					);
					expect((await readEach(contents)).every((bytes) => bytes !== null)).toBe(true);
				}
			),
			{ numRuns: 25 }
		);
		expect((await one<{ n: number }>(here.studio, 'SELECT COUNT(*) AS n FROM objects'))!.n).toBe(80);
	});

	it('in a ring, or over nothing, are damaged and end', async () => {
		const contents = await chain(4, 600, 9);
		await run(here.studio, 'UPDATE objects SET form = 3, base = 4, data = ? WHERE id = 1', [
			new Uint8Array()
		]);
		expect(await readEach(contents)).toEqual([null, null, null, null]);
		await run(here.studio, 'UPDATE objects SET base = NULL WHERE id = 1');
		expect(await readEach(contents)).toEqual([null, null, null, null]);
	});
});
