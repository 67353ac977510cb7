/** Plugs that a port can have. `virtual` is a port that only the computer's list of ports shows. */
export const RIG_CONNECTORS = {
	din: '5-pin DIN',
	'trs-a': 'TRS type A',
	'trs-b': 'TRS type B',
	'usb-device': 'USB device',
	'usb-host': 'USB host',
	wireless: 'wireless',
	virtual: 'virtual',
	audio: 'audio',
	pedal: 'pedal jack',
	power: 'power'
} as const;
export type RigConnector = keyof typeof RIG_CONNECTORS;

/** 1–16, as people count. */
export const ALL_CHANNELS: readonly number[] = Array.from({ length: 16 }, (_, i) => i + 1);

export const CLOCK_MODES = ['none', 'internal', 'external', 'auto'] as const;
