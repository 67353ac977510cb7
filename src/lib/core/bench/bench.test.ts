import { describe, expect, it } from 'vitest';
import { decodeDump, makeSlot, readValue } from '../profile';
import { shippedProfiles, workbench } from './bench.fixture';

const readable = shippedProfiles.filter((profile) => profile.capture.length > 0).map(({ id }) => id);

describe.each(readable)('%s on the bench', (id) => {
	it('gives exactly what it holds', () => {
		const bench = workbench(id);
		const outcome = bench.capture();
		expect(outcome).toMatchObject({ status: 'complete', reason: null, missing: [] });
		for (const slot of decodeDump(bench.profile, outcome.messages).slots)
			expect(slot.bytes, `${slot.area} ${slot.label}`).toEqual(
				bench.unit.state.memory[slot.area][slot.index]
			);
	});

	it('takes back an edited slot and proves it', () => {
		const bench = workbench(id);
		if (bench.unit.switches.some((each) => each.id === 'protect')) bench.unit.setSwitch('protect', 0);
		if (id === 'quillon-nadir') bench.unit.setSwitch('exclusive', 1);
		const before = decodeDump(bench.profile, bench.capture().messages).slots;
		const area = bench.profile.areas[0].id;
		const parameter = bench.profile.records[bench.profile.areas[0].record].parameters[3];
		const [low, high] = parameter.range;
		const last = Math.min(9, bench.profile.areas[0].slots - 1);
		const edited = Math.min(4, last);
		const now = readValue(parameter, bench.unit.state.memory[area][edited]);
		bench.unit.edit(area, edited, parameter.id, now === low ? high : low);
		if (before[0].name !== null) bench.unit.rename(area, last, 'X');
		const outcome = bench.restore({ wanted: before });
		expect(outcome.reason).toBeNull();
		expect(outcome).toMatchObject({ status: 'verified', safety: true });
		expect(outcome.slots.filter(({ result }) => result === 'verified').map(({ index }) => index)).toEqual([
			...new Set([edited, last])
		]);
		expect(bench.kept).toHaveLength(1);
		for (const slot of before) expect(bench.unit.state.memory[slot.area][slot.index]).toEqual(slot.bytes);
	});
});

it('a pedal that only listens ends as sent, check by eye', () => {
	const bench = workbench('bessel-lantern');
	const wanted = [3, 4].map((index) =>
		makeSlot(bench.profile, 'presets', index, bench.unit.state.memory.presets[index + 5])
	);
	const outcome = bench.restore({ wanted });
	expect(outcome).toMatchObject({ status: 'sent', safety: false, readBack: [] });
	expect(bench.unit.state.memory.presets[3]).toEqual(wanted[0].bytes);
	expect(outcome.slots.map(({ result }) => result)).toEqual(['sent', 'sent']);
});
