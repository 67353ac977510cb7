import { describe, expect, it } from 'vitest';
import { sameBytes } from '../midi';
import { decodeDump, stateOfRecord, type DescribedArea } from '../profile';
import { faultCases } from '../transfer/fault-cases.fixture';
import { seededRandom } from '../bench';
import { workbench } from '../bench/bench.fixture';
import type { Marl } from '../bench/models/marl';
import { CI, describe as describe_, profileOf, readCiMessage, renewed } from '.';
import { marl, selfDescribed } from './marl.fixture';

const profile = selfDescribed();
const AREAS = ['programs', 'states'];

type Bench = ReturnType<typeof marl>;

/** The questions for a state so far. */
const questions = ({ trace }: Bench, state: string): number =>
	trace.filter(({ bytes }) => {
		const message = bytes && readCiMessage(bytes);
		return message?.kind === CI.get && String.fromCharCode(...message.body).includes(`"${state}"`);
	}).length;

/** Does something as soon as a state is asked for. */
function onceAsked(bench: Bench, state: string, act: () => void): void {
	const look = () => (questions(bench, state) > 0 ? act() : bench.clock.after(1, look));
	look();
}

describe('an instrument that describes itself', () => {
	it('gives a profile with its own words: maker, programs by their numbers, and whatever else it keeps', () => {
		expect(profile).toMatchObject({ maker: 'Selden Works', model: 'Marl', kind: 'synthesiser' });
		expect(profile.areas.map(({ id, slots, name }) => [id, slots, name])).toEqual([
			['programs', 32, 'Programs'],
			['states', 1, 'Other states']
		]);
		expect(profile.areas[0].recall).toEqual([
			{ from: 0, msb: 0, lsb: 0, program: 0 },
			{ from: 16, msb: 0, lsb: 1, program: 0 }
		]);
	});

	it('is captured whole: each state with its title, as its own memory has it', () => {
		const bench = marl(profile);
		const outcome = bench.capture();
		expect(outcome).toMatchObject({ status: 'complete', missing: [] });
		const { slots } = decodeDump(profile, outcome.messages);
		for (const area of AREAS)
			expect(slots.filter((slot) => slot.area === area).map(({ bytes }) => bytes)).toEqual(bench.holds(area));
		expect(slots[3].name).toBe(
			String.fromCharCode(...bench.unit.state.memory.patches[3].subarray(0, 16)).trimEnd()
		);
	});

	it('gets back what was changed, and nothing else is written', () => {
		const bench = marl(profile);
		const before = structuredClone(bench.unit.state.memory);
		const wanted = [3, 7, 8].map((index) => bench.slot('programs', index));
		bench.unit.rename('patches', 3, 'Lost');
		bench.unit.edit('patches', 7, 'mist', 201);
		expect(bench.restore(wanted)).toMatchObject({
			status: 'verified',
			slots: [{ result: 'verified' }, { result: 'verified' }, { result: 'already there' }],
			touched: [{ index: 3 }, { index: 7 }]
		});
		expect(bench.unit.state.memory).toEqual(before);
	});

	it('tells that its list changed while it is read, and is asked for its names again', () => {
		const asked = (follows: 0 | 1) => {
			const bench = marl(profile);
			const unit = bench.unit as Marl;
			unit.state.settings.follows = follows;
			let most = 0;
			// After the list was read and before the last slots are: one that tells is not asked once more for it.
			onceAsked(bench, 'patch3', () => {
				most = unit.listeners;
				unit.rename('patches', 30, 'Anew');
			});
			const outcome = bench.capture({ kind: 'area', area: 'programs' });
			expect(outcome).toMatchObject({ status: 'complete', missing: [] });
			expect(decodeDump(profile, outcome.messages).slots[30].name).toBe('Anew');
			expect(most).toBe(follows);
			// What it told for is ended with the conversation.
			expect(unit.listeners).toBe(0);
			return questions(bench, 'patch31');
		};
		expect(asked(1)).toBe(2);
		expect(asked(0)).toBeGreaterThan(2);
	});

	it('called off in the middle, nothing stays subscribed', () => {
		const bench = marl(profile);
		const unit = bench.unit as Marl;
		let held = 0;
		const outcome = bench.capture({ kind: 'all' }, [], (running) =>
			onceAsked(bench, 'patch3', () => {
				held = unit.listeners;
				running.cancel();
			})
		);
		expect(held).toBe(1);
		expect(outcome.status).not.toBe('complete');
		bench.clock.runUntil(bench.clock.now() + 1000);
		expect(unit.listeners).toBe(0);
	});

	it('packs what it sends, and is read all the same', () => {
		const bench = marl(profile);
		bench.unit.state.settings.packs = 1;
		const { slots } = decodeDump(profile, bench.capture().messages);
		expect(slots.filter(({ area }) => area === 'programs').map(({ bytes }) => bytes)).toEqual(
			bench.holds('programs')
		);
	});

	it('that gives its states and takes none is read, and no restore is offered', () => {
		const bench = workbench('selden-marl');
		bench.unit.state.settings.takes = 0;
		const said = bench.run(() => describe_(seededRandom(9)));
		if (!('description' in said)) throw new Error(said.says);
		const gives = profileOf(said.description, [], true);
		expect(gives.capture.map(({ area }) => area)).toEqual(AREAS);
		expect(gives.restore).toEqual([]);
		expect(marl(gives).capture()).toMatchObject({ status: 'complete', missing: [] });
		// Asked again once it takes them, it is another profile.
		expect(renewed(gives, { ...said.description, takes: true })?.restore).toHaveLength(2);
	});

	it('says that it is protected, and is left as it is', () => {
		const bench = marl(profile);
		const wanted = [bench.slot('programs', 3)];
		bench.unit.rename('patches', 3, 'Lost');
		const before = structuredClone(bench.unit.state.memory);
		bench.unit.state.settings.protect = 1;
		expect(bench.restore(wanted)).toMatchObject({
			status: 'refused',
			reason: { code: 'protected' },
			touched: []
		});
		expect(bench.unit.state.memory).toEqual(before);
	});

	it('says which states have outgrown their room, and reads the others', () => {
		const sizes = marl(profile)
			.holds('programs')
			.map((record) => stateOfRecord(profile, record)!.body.length);
		const small = structuredClone(profile);
		const room = Math.max(...sizes) - 1;
		const title = small.records.program.size - (small.areas[0] as DescribedArea).described.room;
		Object.assign((small.areas[0] as DescribedArea).described, { room });
		small.records.program.size = title + room;
		const outcome = marl(small).capture({ kind: 'area', area: 'programs' });
		const outgrown = sizes.flatMap((size, index) => (size > room ? [index] : []));
		expect(outcome.status).toBe('incomplete');
		expect(outcome.missing.map(({ index }) => index)).toEqual(outgrown);
		for (const { why } of outcome.missing) expect(why).toContain('ask it what it is now');
		expect(decodeDump(small, outcome.messages).slots).toHaveLength(32 - outgrown.length);
	});

	it('is not there where it does not speak MIDI-CI any more', () => {
		const bench = marl(profile);
		bench.unit.state.settings.describes = 0;
		expect(bench.capture()).toMatchObject({ status: 'refused', reason: { code: 'no answer' } });
	});
});

describe.each(faultCases)('under %s %o', (_kind, fault) => {
	it('what a capture calls complete is what it holds', () => {
		const bench = marl(profile, 11, [fault]);
		const outcome = bench.capture();
		const held = decodeDump(profile, outcome.messages).slots;
		for (const slot of held)
			expect(sameBytes(slot.bytes, bench.holds(slot.area)[slot.index]), slot.label).toBe(true);
		expect(held.length + outcome.missing.length).toBe(33);
		if (outcome.status === 'complete') expect(held).toHaveLength(33);
		else expect(outcome.reason).not.toBeNull();
	});

	it('what a restore calls verified is there, and whatever changed is told', () => {
		const bench = marl(profile, 12, [fault]);
		const donor = marl(profile, 120);
		const indices = [1, 2, 9];
		const wanted = indices.map((index) => donor.slot('programs', index));
		const before = bench.holds('programs');
		const outcome = bench.restore(wanted);
		const now = bench.holds('programs');
		for (const { result, label, index, area } of outcome.slots) {
			if (area !== 'programs' || !indices.includes(index)) continue;
			const same = sameBytes(now[index], donor.holds('programs')[index]);
			if (result === 'verified' || result === 'already there') expect(same, label).toBe(true);
			if (result === 'differs') expect(same, label).toBe(false);
			if (result === 'not sent') expect(sameBytes(now[index], before[index]), label).toBe(true);
		}
		const told = new Set(outcome.touched.map(({ area, index }) => `${area} ${index}`));
		now.forEach((bytes, index) => {
			if (!sameBytes(bytes, before[index]))
				expect(told.has(`programs ${index}`), `${index} changed and nothing says so`).toBe(true);
		});
		if (told.size > 0) expect(bench.kept).toHaveLength(1);
	});
});
