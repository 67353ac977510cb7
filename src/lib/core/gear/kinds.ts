/** Kinds that the forms suggest; any other word is allowed. */
export const DEVICE_KINDS = [
	'synthesiser',
	'sound module',
	'drum machine',
	'sequencer',
	'effect pedal',
	'reverberation unit',
	'controller',
	'foot controller',
	'expression pedal',
	'foot switch',
	'interface',
	'thru box',
	'merge box',
	'USB host box',
	'USB hub',
	'computer',
	'audio interface',
	'mixer',
	'power supply',
	'amplifier',
	'active speakers',
	'other'
] as const;

export const PORT_CONNECTORS = {
	din: '5-pin DIN',
	'trs-a': '3.5 mm TRS, type A',
	'trs-b': '3.5 mm TRS, type B',
	'usb-device': 'USB device',
	'usb-host': 'USB host',
	wireless: 'Wireless',
	audio: 'Audio',
	pedal: 'Pedal jack',
	power: 'Power'
} as const;

export type PortConnector = keyof typeof PORT_CONNECTORS;

const NO_MESSAGES: readonly PortConnector[] = ['audio', 'pedal', 'power'];

/** Whether a socket is one for MIDI messages. */
export const carriesMessages = ({ connector }: { connector: PortConnector }): boolean =>
	!NO_MESSAGES.includes(connector);

/** Whether MIDI messages leave by a socket. */
export const sendsMessages = ({
	direction,
	connector
}: {
	direction: 'in' | 'out' | 'thru' | 'both';
	connector: PortConnector;
}): boolean => direction !== 'in' && carriesMessages({ connector });
