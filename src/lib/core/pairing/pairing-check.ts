import type { Rig } from '../rig';
import {
	folded,
	knownWords,
	modelWords,
	PAIRING_WAYS,
	type PairingRecord,
	type Pairings,
	type PairingWay
} from './pairing';

/** A cable whose two ends are known not to do something, or only within limits. */
export interface PairingNote {
	from: string;
	to: string;
	record: PairingRecord;
	says: string;
}

const WAY_OF: Partial<Record<string, PairingWay>> = {
	din: 'din',
	'trs-a': 'din',
	'trs-b': 'din',
	'usb-host': 'usb-host',
	'usb-device': 'usb-host',
	wireless: 'wireless'
};

/** What is known of the pairs that cables join outright; what goes through a computer or an interface is not looked at. */
export function pairingNotes({ records }: Pairings, rig: Rig): PairingNote[] {
	const ports = new Map(
		rig.devices.flatMap((device) => device.ports.map((port) => [port.id, { device, port }] as const))
	);
	return rig.cables.flatMap((cable): PairingNote[] => {
		const [a, b] = [ports.get(cable.from), ports.get(cable.to)];
		const way = a && WAY_OF[a.port.connector];
		if (!a || !b || !way) return [];
		// Cables are noted from either end; USB goes both ways.
		const directions = [
			...(a.port.direction !== 'in' && b.port.direction !== 'out' ? [[a, b] as const] : []),
			...(b.port.direction !== 'in' && a.port.direction !== 'out' ? [[b, a] as const] : [])
		];
		return directions.flatMap(([from, to]) =>
			records
				.filter(
					(record) =>
						record.result !== 'works' &&
						record.way === way &&
						folded(modelWords(record.from)) === folded(from.device.model) &&
						folded(modelWords(record.to)) === folded(to.device.model)
				)
				.map((record) => ({
					from: from.device.id,
					to: to.device.id,
					record,
					says: `${from.device.name} with ${to.device.name}: ${record.does} ${record.result === 'not' ? 'does not work' : `works within limits${record.limit ? ` (${record.limit})` : ''}`} by ${PAIRING_WAYS[way]}, ${knownWords(record)}.`
				}))
		);
	});
}
