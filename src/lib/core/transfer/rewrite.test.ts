import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { dryRun } from '../drawer';
import { areaOf, makeSlot } from '../profile';

/** A slot of a device's first area as it is. */
function own(id: string, index: number) {
	const bench = workbench(id, 5);
	Object.assign(bench.unit.state.settings, { protect: 0 });
	const { profile, unit } = bench;
	const area = areaOf(profile, profile.areas[0].id).id;
	return { bench, profile, unit, area, slot: makeSlot(profile, area, index, unit.state.memory[area][index]) };
}

describe('a slot that is written back to where it is', () => {
	it.each([
		'averill-sconce',
		'ternhill-umbra',
		'ostler-fathom',
		'harbeck-cairn',
		'merrow-skiff',
		'vellbrook-orrery'
	])('%s: is sent though nothing differs, and read as it was', (id) => {
		const { bench, slot, unit } = own(id, 4);
		const before = structuredClone(unit.state.memory);
		const stored: string[] = [];
		const changed = unit.changed;
		unit.changed = () => {
			stored.push('changed');
			changed();
		};
		const idle = bench.restore({ wanted: [slot], expected: [slot] });
		expect(idle.slots).toMatchObject([{ result: 'already there' }]);
		expect(stored).toEqual([]);
		const outcome = bench.restore({ wanted: [slot], expected: [slot], rewrite: true });
		expect(outcome).toMatchObject({ status: 'verified', safety: true, slots: [{ result: 'verified' }] });
		// The simulated device stored something: it was really written.
		expect(stored.length).toBeGreaterThan(0);
		expect(unit.state.memory).toEqual(before);
	});

	it('is not written where it does not come alike the second time', () => {
		const { bench, slot, unit, area } = own('averill-sconce', 4);
		unit.rename(area, 4, 'Other');
		const before = structuredClone(unit.state.memory);
		expect(bench.restore({ wanted: [slot], expected: [slot], rewrite: true })).toMatchObject({
			status: 'refused',
			reason: { code: 'changed since' }
		});
		expect(unit.state.memory).toEqual(before);
	});

	it('is said to be harmed where the profile writes it wrong', () => {
		const { bench, slot, unit, area } = own('averill-sconce', 4);
		// What is stored is not what was sent.
		const store = unit.state.memory[area];
		const right = unit.changed;
		unit.changed = () => {
			store[4] = store[4].with(9, (store[4][9] + 1) % 128);
			right();
		};
		const outcome = bench.restore({ wanted: [slot], expected: [slot], rewrite: true });
		expect(outcome.status).not.toBe('verified');
		expect(outcome.slots).toMatchObject([{ result: 'differs' }]);
	});

	it('is counted before it is sent', () => {
		const { profile, slot } = own('averill-sconce', 4);
		const known = [{ slot, at: '2026-01-01T00:00:00.000Z' }];
		expect(dryRun(profile, known, [slot])).toMatchObject({ messages: 0, alreadyThere: 1 });
		expect(dryRun(profile, known, [slot], true)).toMatchObject({ messages: 1, alreadyThere: 0, unknown: 0 });
	});
});
