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
const note = { channel: 4, key: 60, velocity: 90 };

it('selects, plays, and ends the note', () => {
	const { run, unit } = bench();
	let shown: number[] = [];
	expect(
		run(audition({ first: select(9), notes: [note], ms: 500 }, () => (shown = unit.panel().sounding)))
	).toBe(true);
	expect(shown).toEqual([60]);
	expect(unit.panel()).toMatchObject({ sounding: [], program: { index: 9 } });
});

it('plays a kept sound without storing it, until another is selected', () => {
	const { run, unit } = bench();
	const before = unit.state.memory.programs.map((record) => record.slice());
	const [, , kept] = factoryState(profile, seededRandom(44)).memory.programs;
	const first = [editBufferMessage(profile, profile.areas[0], kept, { deviceId: 0 })!];
	let display: string[] = [];
	run(audition({ first, notes: [{ ...note, channel: 1 }], ms: 500 }, () => ({ display } = unit.panel())));
	expect(display.join()).toContain('EDIT BUFFER');
	expect(unit.state.memory.programs).toEqual(before);
	run(audition({ first: select(0), notes: [], ms: 0 }));
	expect(unit.panel().display.join()).not.toContain('EDIT BUFFER');
});

it('says that not everything left when the cable is pulled, and begins no note without its sound', () => {
	const { line, run, unit } = bench();
	line.unplug();
	expect(run(audition({ first: select(9), notes: [note], ms: 500 }))).toBe(false);
	expect(unit.panel().sounding).toEqual([]);
	line.plug();
	const left = run(
		audition({ first: select(9), notes: [note], ms: 500 }, () => {
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

it('plays several notes together, and ends all of those that it began', () => {
	const { run, unit } = bench();
	const notes = [note, { ...note, key: 64 }, { ...note, key: 67 }];
	let shown: number[] = [];
	expect(run(audition({ first: [], notes, ms: 500 }, () => (shown = unit.panel().sounding)))).toBe(true);
	expect(shown).toEqual([60, 64, 67]);
	expect(unit.panel().sounding).toEqual([]);

	// The second one does not leave: it and the first are ended, and no third is begun.
	const sent: string[] = [];
	const talk = audition({ first: [], notes, ms: 500 });
	for (let now = talk.next(); !now.done;) {
		if (now.value.do === 'send') sent.push(now.value.bytes.slice(0, 2).join());
		now = talk.next({ heard: sent.length === 2 ? 'unplugged' : 'done' });
	}
	expect(sent.filter((each) => each.startsWith('147'))).toEqual(['147,60', '147,64']);
	expect(sent.filter((each) => each.startsWith('131'))).toEqual(['131,60', '131,64']);
});

it('panic reaches every channel with all three', () => {
	const sent = panicMessages().map((bytes) => [...bytes].join());
	expect(new Set(sent).size).toBe(48);
	for (let channel = 0; channel < 16; channel++)
		for (const controller of [64, 120, 123]) expect(sent).toContain([0xb0 + channel, controller, 0].join());
});
