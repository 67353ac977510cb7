import type { Rig } from '../rig';
import { powerSchema, type Power } from './power';

/** What a wiring says of power: who hangs on which output. Its labels say nothing there, so all of them are to be read. */
export function powerOfRig(rig: Rig): Power {
	const sockets = rig.devices.flatMap((device) =>
		device.ports.filter(({ connector }) => connector === 'power').map((port) => ({ device, port }))
	);
	const ins = sockets.filter(({ port }) => port.direction === 'in');
	const outs = sockets.filter(({ port }) => port.direction !== 'in');
	const supplies = [...new Set(outs.map(({ device }) => device))];
	return powerSchema.parse({
		loads: ins.map(({ device, port }) => ({
			id: port.id,
			name:
				ins.filter((other) => other.device === device).length > 1
					? `${device.name} ${port.name}`
					: device.name,
			device: device.id
		})),
		supplies: supplies.map((device) => ({
			id: device.id,
			name: device.name,
			device: device.id,
			outputs: outs
				.filter((each) => each.device === device)
				.map(({ port }) => ({ id: port.id, name: port.name }))
		})),
		cables: rig.cables.flatMap(({ from, to }) => {
			const load = ins.find(({ port }) => port.id === from || port.id === to);
			const output = outs.find(({ port }) => port.id === from || port.id === to);
			return load && output ? [{ load: load.port.id, supply: output.device.id, output: output.port.id }] : [];
		})
	});
}
