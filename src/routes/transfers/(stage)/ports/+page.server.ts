import { firstFeeds, indexRig, isUsb, isWire, portName } from '$lib/core/rig';
import { listUnits } from '$lib/server/bench';
import { knownProfiles } from '$lib/server/profiles';
import { readStudioRig } from '$lib/server/rig';

/** A socket of the catalogue that may be a port of the computer. */
export interface SocketChoice {
	port: string;
	name: string;
	direction: 'in' | 'out';
}

export async function load({ locals }) {
	const { rig } = await readStudioRig(locals.studio);
	const { ports } = indexRig(rig);
	const reached = new Set(firstFeeds(rig).map(({ out }) => out.port.id));
	const sockets: SocketChoice[] = [...ports.values()].flatMap((placed) => {
		const { port, role } = placed;
		const own = role === 'interface' && isWire(port);
		const usb = role === 'instrument' && isUsb(port) && reached.has(port.id);
		if (!own && !usb) return [];
		const directions: ('in' | 'out')[] =
			port.direction === 'both' ? ['out', 'in'] : port.direction === 'in' ? ['in'] : ['out'];
		return directions.map((direction) => ({ port: port.id, name: portName(placed), direction }));
	});
	return {
		sockets,
		units: (await listUnits(locals.studio)).map(({ id, name, profileId }) => ({ id, name, profileId })),
		profiles: knownProfiles(locals.studio)
	};
}
