import { describe, expect, it } from 'vitest';
import { cable, host, port, studio } from '../rig/rig.fixture';
import type { Rig } from '../rig';
import { hostNeeds, hostNeedStates } from './host-needs';
import { assigned, mapOf } from './map.fixture';
import type { ControlMap } from './map';

const page = (...assignments: object[]) => ({ number: 1, assignments });
const tells = (control: string, target = 'level') => ({
	control,
	links: [{ list: 'host', target, channel: 1 }]
});
const uses = (map: ControlMap) =>
	hostNeeds(map).map(({ port: at, direction, use }) => `${at} ${direction} ${use}`);
const weir = (more: object) => mapOf('osier-weir-9', more);
const names = weir({}).surface.ports;

describe('what a map needs of its host', () => {
	it('is nothing where it tells devices alone, with no computer between', () => {
		expect(hostNeeds(weir({ hosted: 'nothing' }))).toEqual([]);
		expect(hostNeeds(weir({ hosted: 'host-box' }))).toEqual([]);
	});

	it('is an input for playing where a computer is between, once for a port', () => {
		const map = weir({
			hosted: 'computer',
			pages: [page(assigned('fader-1', 'cutoff'), assigned('fader-2', 'resonance'))]
		});
		const found = uses(map).filter((each) => !each.endsWith('clock'));
		expect(found).toEqual([`${names[0].name} in playing`]);
	});

	it('is a control surface both ways where a control tells the host and shows what comes back', () => {
		const push = weir({}).surface.controls.find(({ id }) => id === 'push-1')!;
		expect(push.shows.length).toBeGreaterThan(0);
		const map = weir({ pages: [page(tells('push-1'), tells('fader-1', 'pan'))] });
		expect(uses(map).map((each) => each.split(' ').slice(-2).join(' '))).toEqual([
			'in control',
			'out control'
		]);
		// A fader without a motor shows nothing.
		expect(uses(weir({ pages: [page(tells('fader-1'))] }))).toHaveLength(1);
	});
});

describe('whether the wiring has it so', () => {
	const map = weir({ pages: [page(tells('fader-1'))] });
	const [need] = hostNeeds(map);
	const deck = (more: object = {}) => ({
		id: 'deck',
		name: 'Deck',
		kind: 'controller',
		ports: [port('deck.usb', 'both', 'usb-device'), port('deck.out', 'out')],
		...more
	});
	const at = (more: object) => ({
		...{ id: 'hc', name: `Deck ${need.port}`, number: 7, direction: 'in' as const, port: 'deck.usb' },
		...more
	});
	const rig = (...ports: object[]): Rig => studio([deck()], { host: host({ ports: ports as never }) });
	const is = (of: Rig, device = 'deck') => hostNeedStates(map, of, device)[0];

	it('is said of what is on, off, hidden, and not there', () => {
		expect(is(rig(at({ control: true })))).toMatchObject({
			is: 'so',
			says: `7 “Deck ${need.port}” is on for a control surface.`
		});
		expect(is(rig(at({})))).toMatchObject({ is: 'off' });
		expect(is(rig(at({ control: true, hidden: true })))).toMatchObject({ is: 'hidden' });
		expect(is(rig())).toMatchObject({ is: 'not listed', says: 'The host’s ports have no input for it.' });
		// An output is no input, whatever is on for it.
		expect(is(rig(at({ control: true, direction: 'out' })))).toMatchObject({ is: 'not listed' });
		expect(is(rig(), 'nobody')).toMatchObject({ is: 'no port' });
	});

	it('is not taken from another port of the same socket, where one carries the name', () => {
		const other = at({ id: 'other', name: 'Deck keys', number: 8, control: true });
		expect(is(rig(at({}), other))).toMatchObject({ is: 'off' });
		expect(is(rig(other))).toMatchObject({ is: 'so' });
	});

	it('is asked of the interface where it is plugged in by DIN', () => {
		const dinOnly: ControlMap = {
			...map,
			surface: { ...map.surface, ports: [{ ...map.surface.ports[0], connector: 'din', name: 'MIDI out' }] }
		};
		const wired = studio([deck({ ports: [port('deck.out', 'out')] })], {
			cables: [cable('deck.out', 'ferry.in2')],
			host: host({ ports: host().ports!.map((each) => ({ ...each, control: each.id === 'hi2' })) })
		});
		expect(hostNeedStates(dinOnly, wired, 'deck')[0]).toMatchObject({
			is: 'so',
			says: '2 “Ferry in 2” is on for a control surface.'
		});
		const elsewhere = studio([deck({ ports: [port('deck.out', 'out')] })], {
			cables: [cable('deck.out', 'ferry.in3')],
			host: host({ ports: host().ports!.map((each) => ({ ...each, control: each.id === 'hi2' })) })
		});
		expect(hostNeedStates(dinOnly, elsewhere, 'deck')[0]).toMatchObject({ is: 'off' });
	});
});
