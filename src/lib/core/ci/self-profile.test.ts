import { describe, expect, it } from 'vitest';
import { seededRandom } from '../bench';
import { workbench } from '../bench/bench.fixture';
import {
	decodeDump,
	makeSlot,
	messagesFor,
	parseProfile,
	readName,
	recogniseDump,
	recordOfState,
	stateOfRecord,
	writeName,
	type DescribedArea,
	type Profile
} from '../profile';
import { profileOf, renewed, rollCallWithDiscovery, slotsMoved, type Description } from '.';
import { selfDescribed } from './marl.fixture';

const info = {
	manufacturerId: [0x7d, 0, 0],
	familyId: [1, 0],
	modelId: [2, 0],
	versionId: [1, 0, 0, 0],
	manufacturer: 'Made Up',
	family: 'synthesiser',
	model: 'Sill',
	version: '1.0'
};
const program = (title: string, state: string, bankPC?: number[]) => ({
	title,
	links: [{ resource: 'State', resId: state }],
	...(bankPC ? { bankPC } : {})
});
const states = (...ids: string[]) =>
	ids.map((stateId) => ({ stateId, title: stateId.toUpperCase(), size: 10 }));
const said = (more: Partial<Description> = {}): Description => ({
	info,
	states: states('a', 'b', 'c'),
	programs: null,
	encoding: 'Mcoded7',
	takes: true,
	...more
});
const of = (more: Partial<Description> = {}) => profileOf(said(more), [], true);

describe('the profile of an instrument that describes itself', () => {
	it('has its states where it names no programs, and the programs apart where it does', () => {
		expect(of().areas).toMatchObject([{ id: 'states', name: 'States', slots: 3 }]);
		expect(
			of({
				programs: { resId: 'all', list: [program('One', 'b', [0, 1, 5]), program('Two', 'a', [0, 1, 6])] }
			}).areas
		).toMatchObject([
			{
				id: 'programs',
				slots: 2,
				described: { states: ['b', 'a'], titles: { programs: 'all' } },
				recall: [{ from: 0, msb: 0, lsb: 1, program: 5 }]
			},
			{ id: 'states', name: 'Other states', described: { states: ['c'], titles: 'StateList' } }
		]);
	});

	it('says nothing of how programs are called up where the instrument does not, or where two are one state', () => {
		expect(of({ programs: { resId: null, list: [program('One', 'a')] } }).areas[0].recall).toBeUndefined();
		const twice = [program('One', 'a', [0, 0, 0]), program('Also', 'a', [0, 0, 1])];
		expect(of({ programs: { resId: null, list: twice } }).areas[0]).toMatchObject({ slots: 1 });
		expect(of({ programs: { resId: null, list: twice } }).areas[0].recall).toBeUndefined();
	});

	it('makes room for the largest state, and leaves out programs whose state is nowhere', () => {
		const roomOf = (size?: number) =>
			(of({ states: [{ stateId: 'a', title: 'A', size }] }).areas[0] as DescribedArea).described.room;
		expect([roomOf(1), roomOf(64), roomOf(65), roomOf(59_999), roomOf(undefined)]).toEqual([
			64, 64, 128, 60_000, 4096
		]);
		expect(() => roomOf(60_001)).toThrow('60000 are the most');
		expect(of({ programs: { resId: null, list: [program('Lost', 'z')] } }).areas).toMatchObject([
			{ id: 'states', slots: 3 }
		]);
	});

	it('keeps any state and any title, byte for byte and letter for letter', () => {
		const profile = of();
		const area = profile.areas[0] as DescribedArea;
		for (const [title, body] of [
			['Ætherföld – Ωmega', Uint8Array.of(0, 0xff, 0x80)],
			['', new Uint8Array()],
			['  spaces within', new Uint8Array(64).fill(0xf7)]
		] as const) {
			const record = recordOfState(profile, area, { title, body })!;
			expect(stateOfRecord(profile, record)).toEqual({ title: title.replace('–', ''), body });
			const [message] = messagesFor(profile, [makeSlot(profile, 'states', 2, record)], {
				deviceId: 0,
				channel: 1
			});
			const { slots } = decodeDump(profile, [message]);
			expect(slots).toMatchObject([{ area: 'states', index: 2, bytes: record }]);
		}
		expect(recordOfState(profile, area, { title: 'x', body: new Uint8Array(65) })).toBeNull();
		expect(recordOfState(profile, area, { title: 'x'.repeat(60), body: new Uint8Array() })).not.toBeNull();
	});

	it('says of a record whose length cannot be that it holds no state', () => {
		const profile = of();
		const record = recordOfState(profile, profile.areas[0] as DescribedArea, {
			title: '',
			body: new Uint8Array()
		})!;
		expect(stateOfRecord(profile, record.with(80, 1))).toBeNull();
	});

	it('lets nobody rename what the instrument names', () => {
		const profile = of();
		const record = recordOfState(profile, profile.areas[0] as DescribedArea, {
			title: 'Own',
			body: new Uint8Array()
		})!;
		const shape = profile.records.state;
		expect(readName(profile, shape, record)).toBe('Own');
		expect(writeName(profile, shape, record, 'Own')).toEqual(record);
		expect(() => writeName(profile, shape, record, 'Other')).toThrow('names its sounds itself');
	});

	it('reads nothing of another model that describes itself', () => {
		const other = profileOf(said({ info: { ...info, modelId: [3, 0] } }), [], true);
		const profile = of();
		const slot = makeSlot(
			profile,
			'states',
			0,
			recordOfState(profile, profile.areas[0] as DescribedArea, { title: 'A', body: Uint8Array.of(1) })!
		);
		const messages = messagesFor(profile, [slot], { deviceId: 0, channel: 1 });
		expect(recogniseDump([other, profile], messages).map(({ profile: { id }, read }) => [id, read])).toEqual([
			[profile.id, 1]
		]);
		expect(decodeDump(other, messages).slots).toEqual([]);
	});

	it('takes an id that no other profile has', () => {
		expect(profileOf(said(), ['self-made-up-sill'], true).id).toBe('self-made-up-sill-2');
	});

	it('is renewed where the instrument says something else, and only then', () => {
		const known = { ...of(), revision: 4 };
		expect(renewed(known, said())).toBeNull();
		// A state that shrank finds room.
		expect(
			renewed(known, said({ states: states('a', 'b', 'c').map((each) => ({ ...each, size: 2 })) }))
		).toBeNull();
		expect(renewed(known, said({ states: states('a', 'b', 'c', 'd') }))).toMatchObject({
			id: known.id,
			revision: 4,
			areas: [{ slots: 4 }]
		});
		expect(
			renewed(known, said({ states: states('a', 'b', 'c').map((each) => ({ ...each, size: 100 })) }))
		).toMatchObject({ areas: [{ described: { room: 128 } }] });
		// Whatever order its lists have now, a state stays the slot that it was; new ones come behind.
		const mixed = renewed(known, said({ states: states('d', 'c', 'a', 'b') }))!;
		expect((mixed.areas[0] as DescribedArea).described.states).toEqual(['a', 'b', 'c', 'd']);
		expect(slotsMoved(known, mixed)).toBe(false);
		const fewer = renewed(known, said({ states: states('b', 'c') }))!;
		expect(slotsMoved(known, fewer)).toBe(true);
		expect(() => renewed(known, said({ info: { ...info, modelId: [9, 0] } }))).toThrow('calls itself a Sill');
	});
});

describe('a described area that somebody wrote', () => {
	const faultsOf = (spoil: (profile: Profile) => void): string => {
		const profile = JSON.parse(JSON.stringify(of())) as Profile;
		spoil(profile);
		try {
			parseProfile(profile);
			return '';
		} catch (error) {
			return (error as { detail: { faults: { says: string }[] } }).detail.faults
				.map(({ says }) => says)
				.join('; ');
		}
	};

	it('is as it follows from its description, whether spelled out or not', () => {
		expect(faultsOf(() => undefined)).toBe('');
		expect(
			faultsOf((profile) => {
				profile.records = {};
				profile.messages = {};
				profile.capture = [];
				profile.restore = [];
				profile.charsets = {};
			})
		).toBe('');
	});

	it('is refused where it strays from that, or does not fit its slots', () => {
		expect(faultsOf(({ records }) => (records.state.size = 20))).toContain('another size');
		expect(faultsOf(({ messages }) => delete messages['states-taken'])).toContain('states-taken');
		expect(
			faultsOf(({ messages }) => Object.assign(messages['states-ask'].parts[1], { width: 3 }))
		).toContain('“states-ask” is not as its description gives it');
		expect(faultsOf(({ charsets }) => delete charsets.title)).toContain('not those of titles');
		const described = ({ areas }: Profile) => (areas[0] as DescribedArea).described;
		expect(faultsOf((profile) => described(profile).states.push('d'))).toContain('4 states for 3 slots');
		expect(faultsOf((profile) => (described(profile).states[2] = 'a'))).toContain('names a state twice');
		expect(
			faultsOf(({ areas }) => Object.assign(areas[0], { addresses: [{ from: 0, base: '20 00' }] }))
		).toContain('in no other way');
	});
});

describe('the roll call', () => {
	const calls = (settings: Record<string, number>) => {
		const bench = workbench('selden-marl');
		Object.assign(bench.unit.state.settings, settings);
		return bench.run(() => rollCallWithDiscovery(seededRandom(3)));
	};

	it('hears who describes itself, once, whether or not it answers an identity request', () => {
		expect(calls({}).answers).toMatchObject([{ identity: { deviceId: 0 }, units: 1, describes: true }]);
		expect(calls({ identity: 0 }).answers).toMatchObject([
			{ identity: { deviceId: 127 }, units: 1, describes: true }
		]);
		expect(calls({ describes: 0 }).answers).toMatchObject([{ units: 1, describes: false }]);
		expect(calls({ describes: 0, identity: 0 }).answers).toEqual([]);
	});

	it('hears of others that they do not', () => {
		const bench = workbench('vellbrook-orrery');
		expect(bench.run(() => rollCallWithDiscovery(seededRandom(3))).answers).toMatchObject([
			{ units: 1, describes: false }
		]);
	});

	it('meets it again by the profile that it gave', () => {
		const profile = selfDescribed();
		expect(profile.identity).toMatchObject({ manufacturer: '7D', family: '6E 00', member: '02 00' });
	});
});
