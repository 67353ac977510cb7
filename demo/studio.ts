import type { DeviceFacts, Port } from '../src/lib/core/gear';

/** A device of the demo studio: what differs from its profile, and the bench unit that it is plugged in to. */
export interface DemoDevice extends Partial<DeviceFacts> {
	name: string;
	/** Settings of its bench unit; no unit when left out. */
	unit?: Record<string, number>;
}

const jack = (name: string, direction: Port['direction'], connector: Port['connector'] = 'din'): Port => ({
	id: name.toLowerCase().replace(/[^a-z0-9]+/g, '-'),
	name,
	direction,
	connector
});
const din = (name: string, direction: Port['direction']): Port => jack(name, direction);
/** In, out and thru sockets, and a stereo pair. */
const keyboardPorts: Port[] = [
	jack('MIDI in', 'in'),
	jack('MIDI out', 'out'),
	jack('MIDI thru', 'thru'),
	{ ...jack('Left', 'out', 'audio'), side: 'left' },
	{ ...jack('Right', 'out', 'audio'), side: 'right' }
];
const monoPorts: Port[] = [...keyboardPorts.slice(0, 3), { ...jack('Audio', 'out', 'audio'), side: 'mono' }];
const many = (
	count: number,
	word: string,
	direction: Port['direction'],
	connector: Port['connector']
): Port[] => Array.from({ length: count }, (_, i) => jack(`${word} ${i + 1}`, direction, connector));

/** The sound room of the Halgrove planetarium, which scores its own star shows. Makers and models are made up. */
export const DEMO_DEVICES: readonly DemoDevice[] = [
	{
		name: 'Orrery',
		ports: keyboardPorts,
		profileId: 'vellbrook-orrery',
		place: 'Desk',
		serial: 'VO-00417',
		channel: 1,
		unit: { protect: 0, deviceId: 0 },
		batteryType: 'Coin cell',
		batteryYears: 8,
		notes: 'Main keyboard for the dome. The third slider from the left crackles.'
	},
	{
		name: 'Parallax west',
		ports: keyboardPorts,
		profileId: 'tarnow-parallax',
		place: 'Rack',
		serial: 'TP-2231',
		channel: 2,
		deviceId: 0,
		unit: { protect: 0, deviceId: 1 }
	},
	{
		name: 'Parallax east',
		ports: keyboardPorts,
		profileId: 'tarnow-parallax',
		place: 'Rack',
		serial: 'TP-2238',
		channel: 3,
		deviceId: 1,
		unit: { protect: 0, deviceId: 2 }
	},
	{
		name: 'Nadir drums',
		ports: monoPorts,
		profileId: 'quillon-nadir',
		place: 'Desk',
		serial: '88-1904',
		channel: 10,
		unit: { protect: 1, exclusive: 0, deviceId: 0 },
		forgets: 'Memory protect comes back on, exclusive goes off.'
	},
	{
		name: 'Umbra hall',
		ports: keyboardPorts,
		profileId: 'ternhill-umbra',
		place: 'Rack',
		serial: 'UM-0612',
		channel: 4,
		unit: { protect: 0, deviceId: 0 }
	},
	{
		name: 'Lantern delay',
		ports: [jack('MIDI in', 'in', 'trs-b'), jack('Power', 'in', 'power')],
		profileId: 'bessel-lantern',
		place: 'Floor',
		channel: 5,
		unit: { deviceId: 0 },
		power: '9 V DC, centre negative, 120 mA'
	},
	{
		name: 'Lantern swell',
		ports: [jack('MIDI in', 'in', 'trs-b'), jack('Power', 'in', 'power')],
		profileId: 'bessel-lantern',
		place: 'Floor',
		channel: 6,
		deviceId: 1,
		unit: { deviceId: 1 },
		power: '9 V DC, centre negative, 120 mA'
	},
	{
		name: 'Halloran Reed',
		maker: 'Halloran',
		model: 'Reed 2',
		kind: 'sound module',
		place: 'Rack',
		serial: 'HR2-077',
		channel: 4,
		ports: [
			din('MIDI in', 'in'),
			din('MIDI thru', 'thru'),
			{ ...jack('Audio', 'out', 'audio'), side: 'mono' }
		],
		notes: 'No profile yet. Its sounds are on paper in the blue folder.'
	},
	{
		name: 'Span 61',
		maker: 'Brammer',
		model: 'Span 61',
		kind: 'controller',
		place: 'Desk',
		channel: 1,
		ports: [jack('USB', 'both', 'usb-device'), din('MIDI out', 'out')]
	},
	{
		name: 'Tiles',
		maker: 'Brammer',
		model: 'Tiles 16',
		kind: 'controller',
		place: 'Desk',
		channel: 10,
		ports: [jack('USB', 'both', 'usb-device')]
	},
	{
		name: 'Treadle',
		maker: 'Bessel',
		model: 'Treadle 6',
		kind: 'foot controller',
		place: 'Floor',
		channel: 16,
		ports: [jack('MIDI out', 'out', 'trs-a'), jack('Power', 'in', 'power')],
		power: '9 V DC, centre negative, 100 mA'
	},
	{
		name: 'Ferry 8',
		maker: 'Kestwick',
		model: 'Ferry 8',
		kind: 'interface',
		place: 'Rack',
		ports: [...many(8, 'In', 'in', 'din'), ...many(8, 'Out', 'out', 'din'), jack('USB', 'both', 'usb-device')]
	},
	{
		name: 'Ferry 2',
		maker: 'Kestwick',
		model: 'Ferry 2',
		kind: 'interface',
		place: 'Desk',
		ports: [...many(2, 'In', 'in', 'din'), ...many(2, 'Out', 'out', 'din'), jack('USB', 'both', 'usb-device')]
	},
	{
		name: 'Dome computer',
		maker: 'Aldous',
		model: 'Quiet tower',
		kind: 'computer',
		place: 'Desk',
		ports: many(4, 'USB', 'both', 'usb-host')
	},
	{
		name: 'Weir 16',
		maker: 'Aldous',
		model: 'Weir 16',
		kind: 'audio interface',
		place: 'Rack',
		ports: many(16, 'Input', 'in', 'audio')
	},
	{
		name: 'Dome speakers',
		maker: 'Corvane',
		model: 'Vault 12',
		kind: 'active speakers',
		place: 'Rack',
		ports: [
			{ ...jack('Left', 'in', 'audio'), side: 'left' },
			{ ...jack('Right', 'in', 'audio'), side: 'right' }
		],
		notes: 'On last, off first. The dome is loud: turn down before you switch.'
	},
	{
		name: 'Feed 8',
		maker: 'Corvane',
		model: 'Feed 8',
		kind: 'power supply',
		place: 'Floor',
		ports: many(8, 'Out', 'out', 'power'),
		power: '8 isolated outputs, 9 V DC, 200 mA each. Follow the label on the supply and on each pedal.'
	},
	{
		name: 'Feed 3',
		maker: 'Corvane',
		model: 'Feed 3',
		kind: 'power supply',
		place: 'Floor',
		ports: many(3, 'Out', 'out', 'power'),
		power: '3 isolated outputs, 9–12 V DC, 500 mA each. Follow the label on the supply and on each pedal.'
	}
];

/** On the bench, but not in the catalogue: something to add. */
export const SPARE_UNITS: readonly { name: string; profileId: string; settings: Record<string, number> }[] = [
	{ name: 'Spare Orrery', profileId: 'vellbrook-orrery', settings: { protect: 0, deviceId: 0 } },
	{ name: 'Spare Nadir', profileId: 'quillon-nadir', settings: { protect: 1, exclusive: 0, deviceId: 0 } }
];
