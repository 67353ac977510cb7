import { expect, it } from 'vitest';
import { torture } from '../torture/run';

const MINUTES = 1.25;
/** Each part has one round at least, however slow the machine is; only one that hangs takes so long, ms. */
const HANGS = 900_000;

it(
	`a short torture (${MINUTES} minutes) leaves nothing lost, wrong or unforeseen`,
	async () => {
		const seed = Date.now() % 1_000_000;
		const { rows, faults } = await torture(MINUTES, seed, 20_000, ({ what, figures }) =>
			console.log(`torture, seed ${seed}: ${what}: ${figures}`)
		);
		expect(faults).toEqual([]);
		// Each part had its turn.
		expect(rows.map(({ what }) => what)).toHaveLength(19);
	},
	HANGS
);
