import { describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { applyEdits } from '../../edit';
import { powerSchema, type Power } from '../power';
import { checkPower, POWER_RULES } from './check-power';
import { powerCauses } from '../power-symptoms';

type LoadIn = z.input<typeof powerSchema>['loads'] extends (infer L)[] | undefined ? L : never;
type SupplyIn = z.input<typeof powerSchema>['supplies'] extends (infer S)[] | undefined ? S : never;

const load = (id: string, more: Partial<LoadIn> = {}): LoadIn => ({
	id,
	name: id.toUpperCase(),
	volts: [9, 9],
	kind: 'DC',
	polarity: 'negative',
	ma: 100,
	startMa: 100,
	...more
});
const output = (id: string, more: object = {}) => ({
	id,
	name: id,
	volts: [9],
	kind: 'DC' as const,
	polarity: 'negative' as const,
	ma: 200,
	isolated: true,
	...more
});
const supply = (outputs: object[], more: Partial<SupplyIn> = {}): SupplyIn =>
	({ id: 's', name: 'Feed', outputs, ...more }) as SupplyIn;
const at = (loadId: string, outputId = '1', more: object = {}) => ({
	load: loadId,
	supply: 's',
	output: outputId,
	...more
});
const power = (loads: LoadIn[], supplies: SupplyIn[], cables: object[], more: object = {}): Power =>
	powerSchema.parse({ loads, supplies, cables, ...more });
const one = (loadMore: Partial<LoadIn>, outputMore: object, cable: object = {}) =>
	power([load('a', loadMore)], [supply([output('1', outputMore)])], [at('a', '1', cable)]);
const host = (entry: object, ma = 100) =>
	power(
		[load('a', { ma, hosts: [{ load: 'b', mode: 'on', ...entry }] }), load('b', { on: 'usb', ma: 150 })],
		[supply([output('1', { ma: 400 })])],
		[at('a')]
	);

/** For each rule a floor that breaks it, and nothing else that matters. */
const BROKEN: Record<string, { broken: Power; says: RegExp }> = {
	volts: { broken: one({}, { volts: [18] }), says: /gives 18 V; A takes 9 V/ },
	'ac-dc': { broken: one({ kind: 'AC', polarity: 'none' }, {}), says: /gives DC; A takes AC/ },
	polarity: { broken: one({ polarity: 'positive' }, {}), says: /centre negative; A is centre positive/ },
	current: {
		broken: one({ ma: 190, startMa: 190 }, {}),
		says: /gives 200 mA; A takes 190 mA: less than 20 % is left/
	},
	start: { broken: one({ startMa: 300 }, {}), says: /A takes 300 mA when switched on/ },
	'group-limit': {
		broken: power(
			[load('a'), load('b')],
			[
				supply([output('1', { group: 'g' }), output('2', { group: 'g' })], { groups: [{ id: 'g', ma: 150 }] })
			],
			[at('a'), at('b', '2')]
		),
		says: /together take 200 mA; the outputs 1, 2 of Feed share 150 mA/
	},
	'output-twice': {
		broken: power(
			[load('a', { ma: 40 }), load('b', { ma: 40, startMa: 40 })],
			[supply([output('1')])],
			[at('a'), at('b')]
		),
		says: /has one plug; A, B are noted at it/
	},
	'fed-twice': {
		broken: power([load('a')], [supply([output('1'), output('2')])], [at('a'), at('a', '2')]),
		says: /A is noted at Feed 1 and Feed 2/
	},
	doubling: { broken: one({}, {}, { through: 'doubling' }), says: /only the supply’s maker can say/ },
	'shared-ground': {
		broken: power(
			[load('a', { audio: 'sensitive' }), load('b', { audio: 'digital' })],
			[supply([output('1', { isolated: false }), output('2', { isolated: false })])],
			[at('a'), at('b', '2')]
		),
		says: /A shares its ground at Feed with B, which is digital/
	},
	'hosted-load': {
		broken: power(
			[load('a', { hosts: [{ load: 'b', mode: 'on' }] }), load('b', { on: 'usb', ma: 150 })],
			[supply([output('1')])],
			[at('a')]
		),
		says: /A carries B \(150 mA\) besides its own 100 mA; Feed 1 gives 200 mA/
	},
	'adapter-end': { broken: host({ adapter: 'wrong end' }), says: /has its host end at the device/ },
	'host-mode': { broken: host({ mode: 'off' }), says: /host mode of A is off/ },
	hub: {
		broken: power(
			[load('a', { on: 'usb', ma: 150 })],
			[supply([output('1', { ma: 500 })], { is: 'hub', powered: 'bus' })],
			[at('a')]
		),
		says: /100 mA a port, and A takes 150 mA/
	},
	battery: {
		broken: power([load('a')], [supply([output('1')], { is: 'battery', mah: 300 })], [at('a')]),
		says: /lasts about 2.4 hours/
	},
	'read-the-label': { broken: one({ ma: null }, {}), says: /Not known: mA of A/ },
	unfed: {
		broken: power([load('a')], [], []),
		says: /Nothing feeds A \(9 V DC, centre negative, ≥ 100 mA\)/
	},
	'socket-kind': {
		broken: power([load('a')], [supply([output('1')], { is: 'usb' })], [at('a')]),
		says: /is USB; A is not fed by USB/
	}
};

describe('the rules of power', () => {
	it('find nothing where a plug suits its label', () => {
		expect(checkPower(one({}, {}))).toEqual([]);
		expect(checkPower(one({ polarity: 'positive' }, {}, { through: 'reversing' }))).toEqual([]);
		expect(checkPower(host({}))).toEqual([]);
	});

	it.each(POWER_RULES)('find %s, and what to do about it', (rule) => {
		const { broken, says } = BROKEN[rule];
		const found = checkPower(broken).filter((finding) => finding.rule === rule);
		expect(found).toHaveLength(1);
		expect(found[0].says).toMatch(says);
		expect(found[0].cure.says.length).toBeGreaterThan(8);
		if (found[0].cure.edits.length === 0) return;
		const cured = powerSchema.parse(applyEdits(broken, found[0].cure.edits));
		expect(checkPower(cured).filter((finding) => finding.rule === rule)).toEqual([]);
	});

	it('never take what is not known to be something', () => {
		const blank = one(
			{ volts: null, kind: null, polarity: null, ma: null },
			{ volts: [], kind: null, polarity: null, ma: null }
		);
		expect(checkPower(blank).map(({ rule, severity }) => [rule, severity])).toEqual([
			['read-the-label', 'unknown']
		]);
		const [{ says }] = checkPower(blank);
		for (const word of [
			'volts of A',
			'AC or DC of A',
			'polarity of A',
			'mA of A',
			'volts of Feed 1',
			'mA of Feed 1'
		])
			expect(says).toContain(word);
		// Also where only what a box hosts is not known.
		const guest = power(
			[load('a', { hosts: [{ load: 'b', mode: 'on' }] }), load('b', { on: 'usb', ma: null })],
			[supply([output('1')])],
			[at('a')]
		);
		expect(checkPower(guest).map(({ says: each }) => each)).toEqual([
			'Not known: mA of what is plugged in to A.'
		]);
	});

	it('tell of boxes that host one another and hang on nothing, or on what is not there', () => {
		const ring = (cables: object[]) =>
			power(
				[
					load('a', { hosts: [{ load: 'b', mode: 'on' }] }),
					load('b', { hosts: [{ load: 'a', mode: 'on' }] })
				],
				[supply([output('1', { ma: 900 })])],
				cables
			);
		const unfed = (of: Power) =>
			checkPower(of)
				.filter(({ rule }) => rule === 'unfed')
				.flatMap(({ loads }) => loads);
		expect(unfed(ring([]))).toEqual(['a', 'b']);
		expect(unfed(ring([at('a', 'gone')]))).toEqual(['a', 'b']);
		expect(unfed(ring([at('a')]))).toEqual([]);
	});

	it('do not say what one output gives of a doubling cable’s current', () => {
		const doubled = (through: string) =>
			power(
				[load('a', { ma: 300, startMa: 300 })],
				[supply([output('1'), output('2')])],
				[at('a', '1', { through }), at('a', '2', { through })]
			);
		expect(checkPower(doubled('plain')).map(({ rule }) => rule)).toEqual(['current', 'current', 'fed-twice']);
		const [{ rule, says, cure }, ...more] = checkPower(doubled('doubling'));
		expect([rule, more]).toEqual(['doubling', []]);
		expect(says).toContain('at Feed 1 and Feed 2');
		expect(powerSchema.parse(applyEdits(doubled('doubling'), cure.edits)).cables).toEqual([]);
	});

	it('count what a hosted device feeds itself as its own', () => {
		const both = (cables: object[]) =>
			power(
				[
					load('a', { hosts: [{ load: 'b', mode: 'on' }] }),
					load('b', { on: 'usb', ma: 150, selfFeeds: true })
				],
				[supply([output('1'), output('2')])],
				cables
			);
		expect(checkPower(both([at('a')])).map(({ rule }) => rule)).toContain('hosted-load');
		expect(checkPower(both([at('a'), at('b', '2')]))).toEqual([]);
	});
});

describe('symptoms of power', () => {
	it('lead to what in this plan would do that, and to nothing else', () => {
		expect(powerCauses(BROKEN['hosted-load'].broken, 'resets').map(({ rule }) => rule)).toEqual([
			'hosted-load'
		]);
		expect(powerCauses(BROKEN['shared-ground'].broken, 'hums', 'a')[0].test).toContain('does it stop?');
		expect(powerCauses(one({}, {}), 'resets')).toEqual([]);
		expect(powerCauses(BROKEN.polarity.broken, 'warm')[0].test).toMatch(/^Pull it out now/);
	});
});
