import { rigSchema, type Rig, type RigFile } from './schema';

type DeviceInput = RigFile['devices'][number];
type PortInput = NonNullable<DeviceInput['ports']>[number];

export const port = (
	id: string,
	direction: PortInput['direction'],
	connector: PortInput['connector'] = 'din'
): PortInput => ({
	id,
	name: id.split('.').at(-1)!,
	direction,
	connector
});

/** A sound module with in, out and thru. */
export const module = (id: string, more: Partial<DeviceInput> = {}): DeviceInput => ({
	id,
	name: id,
	kind: 'sound module',
	ports: [port(`${id}.in`, 'in'), port(`${id}.out`, 'out'), port(`${id}.thru`, 'thru')],
	...more
});

/** An interface with as many outs as ins. */
export const ferry = (ports = 4): DeviceInput => ({
	id: 'ferry',
	name: 'ferry',
	kind: 'interface',
	ports: [
		...Array.from({ length: ports }, (_, i) => port(`ferry.out${i + 1}`, 'out')),
		...Array.from({ length: ports }, (_, i) => port(`ferry.in${i + 1}`, 'in')),
		port('ferry.usb', 'both', 'usb-device')
	]
});

export const studio = (devices: DeviceInput[], more: Partial<RigFile> = {}): Rig =>
	rigSchema.parse({ format: 'silent-drawer.rig', version: 1, devices: [ferry(), ...devices], ...more });

export const cable = (from: string, to: string, more: object = {}) => ({ from, to, ...more });

/** A host that shows every port of the ferry. */
export const host = (more: Partial<NonNullable<RigFile['host']>> = {}): NonNullable<RigFile['host']> => ({
	ports: [1, 2, 3, 4].flatMap((n) => [
		{ id: `hi${n}`, name: `Ferry in ${n}`, number: n, direction: 'in' as const, port: `ferry.in${n}` },
		{ id: `ho${n}`, name: `Ferry out ${n}`, number: n, direction: 'out' as const, port: `ferry.out${n}` }
	]),
	...more
});
