import { expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { profileNamed } from '../bench/bench.fixture';
import { editBufferMessage, recallMessages } from '../profile';
import { audition, panicMessages } from './audition';
import { bareLine } from './line.fixture';

const profile = profileNamed('vellbrook-orrery');
function bench() {
	const { line, run } = bareLine();
	const unit = line.attach(profile, factoryState(profile, seededRandom(3)));
	return { line, run, unit };
}
const select = (program: number) => recallMessages({ msb: null, lsb: null, program }, 4);
const note = { key: 60, velocity: 90, ms: 500 };

it('selects, plays, and ends the note', () => {
	const { run, unit } = bench();
	let shown: number[] = [];
	expect(run(audition({ first: select(9), channel: 4, note }, () => (shown = unit.panel().sounding)))).toBe(
		true
	);
	expect(shown).toEqual([60]);
	expect(unit.panel()).toMatchObject({ sounding: [], program: { index: 9 } });
});

it('plays a kept sound without storing it, until another is selected', () => {
	const { run, unit } = bench();
	const before = unit.state.memory.programs.map((record) => record.slice());
	const [, , kept] = factoryState(profile, seededRandom(44)).memory.programs;
	const first = [editBufferMessage(profile, profile.areas[0], kept, { deviceId: 0 })!];
	let display: string[] = [];
	run(audition({ first, channel: 1, note }, () => ({ display } = unit.panel())));
	expect(display.join()).toContain('EDIT BUFFER');
	expect(unit.state.memory.programs).toEqual(before);
	run(audition({ first: select(0), channel: 1, note: null }));
	expect(unit.panel().display.join()).not.toContain('EDIT BUFFER');
});

it('says that not everything left when the cable is pulled, and begins no note without its sound', () => {
	const { line, run, unit } = bench();
	line.unplug();
	expect(run(audition({ first: select(9), channel: 4, note }))).toBe(false);
	expect(unit.panel().sounding).toEqual([]);
	line.plug();
	const left = run(
		audition({ first: select(9), channel: 4, note }, () => {
			expect(unit.panel().sounding).toEqual([60]);
			line.unplug();
		})
	);
	expect(left).toBe(false);
	// It hangs, as it would: panic ends it.
	expect(unit.panel().sounding).toEqual([60]);
	line.plug();
	for (const bytes of panicMessages()) unit.receive(bytes);
	expect(unit.panel().sounding).toEqual([]);
});

it('panic reaches every channel with all three', () => {
	const sent = panicMessages().map((bytes) => [...bytes].join());
	expect(new Set(sent).size).toBe(48);
	for (let channel = 0; channel < 16; channel++)
		for (const controller of [64, 120, 123]) expect(sent).toContain([0xb0 + channel, controller, 0].join());
});
