/** What a device does with the messages that come in, judged by its kind. */
export type Role =
	'host' | 'interface' | 'merge' | 'thru' | 'usb-host-box' | 'hub' | 'audio' | 'supply' | 'instrument';

/** The first entry whose words occur in the kind decides; everything else is an instrument (or a controller). */
const ROLES: readonly { role: Role; kind: RegExp }[] = [
	{ role: 'supply', kind: /power|supply/i },
	{ role: 'audio', kind: /audio|mixer/i },
	{ role: 'usb-host-box', kind: /usb.?host|host.?box/i },
	{ role: 'hub', kind: /\bhub\b/i },
	{ role: 'merge', kind: /merge/i },
	{ role: 'thru', kind: /thru|splitter/i },
	{ role: 'interface', kind: /interface/i },
	{ role: 'host', kind: /computer|^host$/i }
];

/** As much of a device as its role depends on. */
interface Judged {
	kind: string;
	ports?: readonly { connector: string }[];
}

const has = ({ ports = [] }: Judged, connectors: readonly string[]) =>
	ports.some(({ connector }) => connectors.includes(connector));

/**
 * An audio interface or mixer with MIDI sockets counts as a MIDI interface, whatever else its kind says, as long as the
 * computer can be behind them; its audio inputs are known by their ports.
 */
export function roleOf(device: Judged): Role {
	const role = ROLES.find(({ kind }) => kind.test(device.kind))?.role ?? 'instrument';
	const passes =
		has(device, ['din', 'trs-a', 'trs-b', 'wireless']) &&
		(/interface/i.test(device.kind) || has(device, ['usb-device', 'virtual']));
	return role === 'audio' && passes ? 'interface' : role;
}

/** Whether it sounds or works by itself when a message comes in; a controller only sends. */
export const hasVoice = (device: Judged): boolean =>
	roleOf(device) === 'instrument' && !/controller/i.test(device.kind);
