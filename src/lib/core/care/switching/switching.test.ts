import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rigSchema, type Rig } from '../../rig';
import { powerOnSchema, switchOffList, switchOnList, type SwitchFacts, type SwitchItem } from './list';
import { nextItem, switchingSchema, tick, ticked, waitsFor, type Switching } from './run';

const AT = (seconds: number) => new Date(Date.parse('2026-11-28T18:00:00Z') + seconds * 1000).toISOString();
const port = (id: string, direction: string, connector: string) => ({ id, name: id, direction, connector });
const device = (id: string, kind: string, place: string, ports: object[] = [], more: object = {}) => ({
	id,
	name: id,
	kind,
	place,
	ports,
	...more
});

/** A stage with what matters for an order: a host box that feeds a controller, a leader, a mixer, an amplifier, a supply. */
const STAGE: Rig = rigSchema.parse({
	format: 'silent-drawer.rig',
	version: 2,
	devices: [
		device('amp', 'amplifier', 'Door'),
		device('desk', 'mixer', 'Door'),
		device('keys', 'controller', 'Desk', [port('keys.usb', 'both', 'usb-device')]),
		device('box', 'USB host box', 'Rack', [port('box.usb', 'both', 'usb-host')]),
		device(
			'synth',
			'synthesiser',
			'Desk',
			[port('synth.in', 'in', 'din'), port('synth.power', 'in', 'power')],
			{
				clock: { mode: 'external' }
			}
		),
		device('drums', 'drum machine', 'Rack', [port('drums.out', 'out', 'din')], {
			clock: { mode: 'internal', sends: true }
		}),
		device('feed', 'power supply', 'Floor', [port('feed.1', 'out', 'power')]),
		device('rocker', 'expression pedal', 'Floor')
	],
	cables: [
		{ from: 'box.usb', to: 'keys.usb' },
		{ from: 'drums.out', to: 'synth.in' },
		{ from: 'feed.1', to: 'synth.power' }
	]
});
const facts = (more: Partial<SwitchFacts> = {}): SwitchFacts => ({
	rig: STAGE,
	forgets: new Map(),
	askable: new Set(),
	changed: new Map(),
	...more
});
const list = powerOnSchema.parse({ places: ['Door', 'Desk', 'Rack', 'Floor'] });
const names = (items: readonly SwitchItem[]) => items.map(({ name }) => name);

describe('the power-on list', () => {
	it('has what hosts, feeds and leads first and amplifiers last, and says why', () => {
		const { items, conflicts } = switchOnList(facts(), list);
		expect(conflicts).toEqual([]);
		const at = (name: string) => names(items).indexOf(name);
		for (const [first, then] of [
			['box', 'keys'],
			['feed', 'synth'],
			['drums', 'synth'],
			['synth', 'desk']
		])
			expect(at(first), `${first} before ${then}`).toBeLessThan(at(then));
		expect(names(items).at(-1)).toBe('amp');
		expect(items[at('keys')].why).toBe('box hosts it');
		expect(items[at('synth')].why).toContain('drums leads its clock');
		// What has no supply is not switched.
		expect(names(items)).not.toContain('rocker');
	});

	it('is turned round to switch off: amplifiers first, what feeds last; who led the clock does not matter', () => {
		const { items } = switchOffList(facts({ changed: new Map([['synth', '3 slots not read again']]) }), list);
		expect(items[0]).toMatchObject({ what: 'keep', name: 'synth' });
		expect(items[1]).toMatchObject({ name: 'amp', says: 'Switch it off' });
		const off = names(items.slice(1));
		expect(off.indexOf('synth')).toBeLessThan(off.indexOf('feed'));
		expect(off.indexOf('keys')).toBeLessThan(off.indexOf('box'));
		expect(items.find(({ id }) => id === 'synth:off')!.after).not.toContain('drums:off');
	});

	it('has what each forgets after it, what a computer loads after what hangs on it, and settings of what nobody switches', () => {
		const rig = rigSchema.parse({
			...STAGE,
			devices: [
				device('mac', 'computer', 'Desk', [port('mac.usb', 'both', 'usb-host')]),
				device('face', 'interface', 'Rack', [port('face.usb', 'both', 'usb-device')])
			],
			cables: [{ from: 'mac.usb', to: 'face.usb' }]
		});
		const { items } = switchOnList(
			facts({
				rig,
				forgets: new Map([['face', [{ id: 'mode', says: 'Set it to merge', from: 'profile' as const }]]])
			}),
			powerOnSchema.parse({
				left: ['face'],
				items: [{ id: 'tpl', device: 'mac', what: 'load', says: 'Open the star show template' }]
			})
		);
		expect(items.map(({ id }) => id)).toEqual(['face:mode', 'mac:on', 'mac:own:tpl']);
		const both = switchOnList(
			facts({ rig }),
			powerOnSchema.parse({ items: [{ id: 'tpl', device: 'mac', what: 'load', says: 'Open it' }] })
		);
		expect(both.items.map(({ id }) => id)).toEqual(['mac:on', 'face:on', 'mac:own:tpl']);
		// A template that is opened may make a sound: what is loud comes after it.
		const loud = rigSchema.parse({
			...rig,
			devices: [...rig.devices, device('boxes', 'active speakers', 'Desk')]
		});
		const last = switchOnList(
			facts({ rig: loud }),
			powerOnSchema.parse({ items: [{ id: 'tpl', device: 'mac', what: 'load', says: 'Open it' }] })
		).items;
		expect(last.map(({ id }) => id)).toEqual(['mac:on', 'face:on', 'mac:own:tpl', 'boxes:on']);
	});

	it('says where orders contradict each other, and still lists everything once', () => {
		const { items, conflicts } = switchOnList(
			facts(),
			powerOnSchema.parse({ orders: [{ first: 'keys', then: 'box' }] })
		);
		expect(conflicts).toHaveLength(1);
		expect(conflicts[0]).toContain('is a guess');
		expect([...names(items)].sort()).toEqual(['amp', 'box', 'desk', 'drums', 'feed', 'keys', 'synth']);
	});

	it('keeps every order of any studio, and nothing is missing or there twice', () => {
		const kinds = ['synthesiser', 'mixer', 'amplifier', 'computer', 'power supply'];
		const studios = fc.record({
			devices: fc.array(
				fc.record({ kind: fc.constantFrom(...kinds), place: fc.constantFrom('A', 'B', 'C') }),
				{
					minLength: 1,
					maxLength: 14
				}
			),
			pairs: fc.array(fc.tuple(fc.nat(13), fc.nat(13)), { maxLength: 14 })
		});
		fc.assert(
			fc.property(studios, ({ devices, pairs }) => {
				const rig = rigSchema.parse({
					format: 'silent-drawer.rig',
					version: 2,
					devices: devices.map(({ kind, place }, i) => device(`d${i}`, kind, place))
				});
				// Along one line, and with what is loud at its end, so that nothing contradicts itself.
				const loud = (i: number) => ['amplifier', 'mixer'].includes(devices[i].kind);
				const orders = pairs
					.filter(([a, b]) => a < b && b < devices.length && !loud(a) && !loud(b))
					.map(([a, b]) => ({ first: `d${a}`, then: `d${b}` }));
				for (const make of [switchOnList, switchOffList]) {
					const { items, conflicts } = make(facts({ rig }), powerOnSchema.parse({ orders }));
					const order = items.map(({ device: id }) => id);
					expect([...order].sort()).toEqual(rig.devices.map(({ id }) => id).sort());
					expect(conflicts).toEqual([]);
					for (const { first, then } of orders) {
						const [a, b] = make === switchOnList ? [first, then] : [then, first];
						expect(order.indexOf(a)).toBeLessThan(order.indexOf(b));
					}
					const amps = order.map((id) => devices[Number(id.slice(1))].kind === 'amplifier');
					const sorted = [...amps].sort((a, b) => Number(a) - Number(b));
					expect(amps).toEqual(make === switchOnList ? sorted : sorted.reverse());
				}
			}),
			{ numRuns: 200 }
		);
	});
});

describe('switching', () => {
	const items = switchOnList(
		facts({ askable: new Set(['synth']) }),
		powerOnSchema.parse({
			items: [
				{ id: 'p', device: 'synth', what: 'send', says: 'Programme 12', messages: ['C0 0B'] },
				{
					id: 'q',
					device: 'drums',
					what: 'send',
					says: 'Swing',
					messages: ['F0 7D F7'],
					ask: 'F0 F7',
					answer: 'F0 .. F7'
				}
			]
		})
	).items;
	const fresh = (): Switching => switchingSchema.parse({ way: 'on', items });

	it('is ticked in any order, and notes what was left before it', () => {
		const early = tick(fresh(), 'amp:on', 'hand', AT(0));
		expect(early.ticks[0].early).toContain('synth');
		const first = nextItem(early)!;
		expect(waitsFor(early, ticked(early), first)).toEqual([]);
		let run = fresh();
		for (let i = 0; i < items.length; i++) run = tick(run, nextItem(run)!.id, 'hand', AT(i));
		expect(run.ticks.every((each) => each.early.length === 0)).toBe(true);
		expect(nextItem(run)).toBeNull();
	});

	it('takes a tick back, and keeps both on record', () => {
		const back = tick(tick(fresh(), 'box:on', 'hand', AT(0)), 'box:on', 'taken back', AT(1));
		expect(ticked(back).size).toBe(0);
		expect(back.ticks).toHaveLength(2);
		expect(() => tick(back, 'box:on', 'taken back', AT(2))).toThrow('not ticked');
		expect(ticked(tick(back, 'box:on', 'hand', AT(3))).get('box:on')!.at).toBe(AT(3));
	});

	it('knows nothing in a way in which it cannot be known', () => {
		for (const [item, how] of [
			['amp:on', 'heard'],
			['synth:on', 'sent'],
			['synth:own:p', 'proved']
		] as const)
			expect(() => tick(fresh(), item, how, AT(0))).toThrow('cannot be known in that way');
		expect(() => tick(fresh(), 'nobody:on', 'hand', AT(0))).toThrow('not on this list');
		expect(tick(fresh(), 'synth:on', 'heard', AT(0)).ticks).toHaveLength(1);
		expect(tick(fresh(), 'drums:own:q', 'proved', AT(0)).ticks).toHaveLength(1);
	});
});
