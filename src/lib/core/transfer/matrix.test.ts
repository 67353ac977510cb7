import { afterAll, describe, expect, it } from 'vitest';
import { workbench, shippedProfiles } from '../bench/bench.fixture';
import { FAULT_TITLES, type Fault, type FaultKind } from '../bench';
import { sameBytes } from '../midi';
import { decodeDump, makeSlot } from '../profile';
import { KINDS, faultCases as cases } from './fault-cases.fixture';

/**
 * Every fault of the bench, in each direction and once or always, against every device that can be simulated, capturing
 * and restoring. Whatever happens: what is called complete or verified is what the device holds, and the log says of
 * every slot that was touched that it was.
 */
const cells = new Map<string, string>();

function prepare(id: string, seed: number, fault: Fault, more: Fault[]) {
	const bench = workbench(id, seed);
	bench.unit.state.settings.protect = 0;
	if (id === 'quillon-nadir') bench.unit.state.settings.exclusive = 1;
	bench.station.faults = [fault, ...more];
	return bench;
}

/** Clock and active sensing stand between any two bytes: they must change nothing of what is claimed. */
const REAL_TIME: Fault[] = [{ kind: 'active sensing' }, { kind: 'clock', bpm: 140 }];

describe.each(
	shippedProfiles.flatMap((profile) => [
		[profile.id, 'on a quiet line', profile, [] as Fault[]] as const,
		[profile.id, 'with clock and active sensing', profile, REAL_TIME] as const
	])
)('the fault matrix: %s %s', (id, _line, profile, more) => {
	it.each(cases)('capture with %s %o', (kind, fault) => {
		const bench = prepare(id, 11, fault, more);
		const outcome = bench.capture();
		const held = decodeDump(profile, outcome.messages).slots;
		for (const slot of held)
			expect(sameBytes(slot.bytes, bench.unit.state.memory[slot.area][slot.index]), slot.label).toBe(true);
		const all = profile.areas
			.filter(({ id: area }) => [...profile.capture, ...profile.restore].some((way) => way.area === area))
			.reduce((sum, { slots }) => sum + slots, 0);
		if (outcome.status === 'complete') expect(held).toHaveLength(all);
		else expect(outcome.reason).not.toBeNull();
		expect(held.length + outcome.missing.length).toBe(all);
		note(kind, `${profile.model} capture`, outcome.status);
	});

	it.each(cases)('restore with %s %o', (kind, fault) => {
		const bench = prepare(id, 12, fault, more);
		const [{ id: area, slots }] = profile.areas;
		const donor = workbench(id, 120).unit.state.memory[area];
		const before = bench.unit.state.memory[area].map((bytes) => bytes.slice());
		const indices =
			profile.capture.length > 0
				? [...new Set([1, 2, 9].map((index) => Math.min(index, slots - 1)))]
				: Array.from({ length: slots }, (_, i) => i);
		const wanted = indices.map((index) => makeSlot(profile, area, index, donor[index]));
		const outcome = bench.restore({ wanted });
		const now = bench.unit.state.memory[area];
		for (const { result, label, index } of outcome.slots) {
			if (result === 'verified' || result === 'already there')
				expect(sameBytes(now[index], donor[index]), `${label} is ${result}`).toBe(true);
			if (result === 'differs') expect(sameBytes(now[index], donor[index]), `${label} differs`).toBe(false);
			if (result === 'not sent')
				expect(sameBytes(now[index], before[index]), `${label} is not sent`).toBe(true);
		}
		if (outcome.status === 'verified')
			for (const index of indices) expect(sameBytes(now[index], donor[index])).toBe(true);
		// Whatever changed, neighbours among them, is told as written or perhaps written.
		const told = new Set(outcome.touched.map(({ index }) => index));
		now.forEach((bytes, index) => {
			if (sameBytes(bytes, before[index])) return;
			expect(told.has(index), `slot ${index} changed and nothing says so`).toBe(true);
		});
		if (profile.capture.length > 0 && told.size > 0) expect(bench.kept).toHaveLength(1);
		note(kind, `${profile.model} restore`, outcome.status);
	});
});

function note(kind: FaultKind, column: string, status: string) {
	const key = `${kind}|${column}`;
	const old = cells.get(key);
	cells.set(key, old && !old.split(', ').includes(status) ? `${old}, ${status}` : (old ?? status));
}

afterAll(() => {
	const columns = shippedProfiles.flatMap(({ model }) => [`${model} capture`, `${model} restore`]);
	const lines = (Object.keys(KINDS) as FaultKind[]).flatMap((kind) => [
		`${FAULT_TITLES[kind]}:`,
		...columns.map((column) => `    ${column.padEnd(18)} ${cells.get(`${kind}|${column}`) ?? '—'}`)
	]);
	console.log(
		`The fault matrix (how each ended; never complete or verified unless it was):\n${lines.join('\n')}`
	);
});
