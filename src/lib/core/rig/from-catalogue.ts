import type { Device } from '../gear';
import { rigPortId } from './catalogue-ids';
import { roleOf } from './roles';
import { wiringSchema, type RigDevice, type Wiring } from './schema';

/** Usual traffic towards a device, bytes/s, where nobody measured it: the first kind that fits. */
const USUAL_TRAFFIC: readonly { kind: RegExp; bytesPerSecond: number }[] = [
	{ kind: /controller|computer|supply|box|hub/i, bytesPerSecond: 0 },
	{ kind: /drum/i, bytesPerSecond: 300 },
	{ kind: /effect|reverb|pedal/i, bytesPerSecond: 60 },
	{ kind: /./, bytesPerSecond: 400 }
];

/** What is taken for granted of a device until somebody says otherwise. */
export function usualWiring(device: Device, readable: boolean): Wiring {
	const controls = /controller/i.test(device.kind);
	return wiringSchema.parse({
		wants: {
			return: readable,
			bytesPerSecond: USUAL_TRAFFIC.find(({ kind }) => kind.test(device.kind))?.bytesPerSecond ?? 0
		},
		sends: controls ? [device.channel ?? 1] : [],
		backup: readable
	});
}

/**
 * A device of the catalogue as a device of the rig.
 * @param readable whether its memory can be asked for (its profile says how)
 * @param panelAdd what its panel adds to the device ID of the wire
 */
export function rigDeviceOf(
	device: Device,
	wiring: Wiring | null,
	readable: boolean,
	panelAdd = 0
): RigDevice {
	return {
		id: device.id,
		name: device.name,
		place: device.place,
		kind: device.kind,
		model: `${device.maker} ${device.model}`.trim(),
		panelAdd,
		ports: device.ports.map(({ id, name, direction, connector, side }) => ({
			id: rigPortId(device.id, id),
			name,
			direction,
			connector,
			...(side ? { side } : {})
		})),
		...(wiring ?? usualWiring(device, readable && roleOf(device) === 'instrument'))
	};
}
