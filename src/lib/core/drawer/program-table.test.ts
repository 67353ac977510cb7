import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { shippedProfiles } from '../bench/bench.fixture';
import { makeSlot } from '../profile';
import { programTable, readProgramTable } from '.';

// A table of one row has no row that could be taken for another.
const several = shippedProfiles.filter(({ areas }) => areas[0].slots > 2);

describe.each(several.map((profile) => [profile.id, profile] as const))(
	'programs of %s as a table',
	(_, profile) => {
		const [{ id: area }] = profile.areas;
		const slots = factoryState(profile, seededRandom(2)).memory[area].map((bytes, i) =>
			makeSlot(profile, area, i, bytes)
		);

		it('come back unchanged, byte for byte', () => {
			const read = readProgramTable(profile, area, slots, programTable(profile, area, slots));
			expect(read).toMatchObject({ changed: 0, faults: [] });
			expect(read.slots).toEqual(slots);
		});

		it('changed cells change just that', () => {
			const table = programTable(profile, area, slots);
			const donor = programTable(profile, area, [{ ...slots[1], label: slots[0].label }]);
			const read = readProgramTable(profile, area, slots, [table[0], donor[1], ...table.slice(2)]);
			expect(read).toMatchObject({ faults: [] });
			expect(programTable(profile, area, read.slots)[1]).toEqual(donor[1]);
			expect(read.slots.slice(1)).toEqual(slots.slice(1));
		});

		it('faults name their row and column', () => {
			const table = programTable(profile, area, slots).slice(0, 3);
			table[1][table[1].length - 1] = 'nonsense';
			table[2][0] = 'nowhere';
			const { faults } = readProgramTable(profile, area, slots, table);
			expect(faults.map(({ row }) => row)).toEqual([2, 3]);
			expect(() => readProgramTable(profile, area, slots, [['Other']])).toThrow('no column');
		});
	}
);
