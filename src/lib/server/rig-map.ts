import type { ElkNode } from 'elkjs/lib/elk-api';
import {
	indexRig,
	type MapDevice,
	type MapPlace,
	type Rig,
	type RigDevice,
	type RigMap,
	type RigPort
} from '../core/rig';
import { layOut } from './graph-layout';

const ROW = 15;
const HEAD = 26;

/** The map shows what passes: messages, sound, a pedal's movement. Power is not drawn. */
const isDrawn = ({ connector }: RigPort) => connector !== 'power';

/** Sockets that have a cable: inputs on the left, outputs on the right; an interface turns its back. */
function socketsOf(rig: Rig, device: RigDevice) {
	const used = new Set(rig.cables.flatMap(({ from, to }) => [from, to]));
	const first = new Set(rig.cables.map(({ from }) => from));
	return device.ports
		.filter((port) => used.has(port.id) && isDrawn(port))
		.map((port) => {
			const sends =
				port.direction === 'out' ||
				port.direction === 'thru' ||
				(port.direction === 'both' && first.has(port.id));
			return { port, side: sends ? ('right' as const) : ('left' as const) };
		});
}

/** The studio drawn: places as frames, devices as boxes, cables as rectangular ways (ELK's layered layout). */
export async function mapOf(rig: Rig): Promise<RigMap> {
	const shown = rig.devices.filter((device) => socketsOf(rig, device).length > 0);
	const drawn = rig.cables.filter(({ from }) => isDrawn(indexRig(rig).ports.get(from)!.port));
	const places = [...new Set(shown.map(({ place }) => place || 'No place yet'))].sort();
	const sizes = new Map<string, { width: number; height: number }>();
	const node = (device: RigDevice): ElkNode => {
		const sockets = socketsOf(rig, device);
		const count = (side: 'left' | 'right') => sockets.filter((socket) => socket.side === side).length;
		const size = {
			width: Math.max(128, device.name.length * 8 + 24),
			height: HEAD + Math.max(1, count('left'), count('right')) * ROW + 6
		};
		sizes.set(device.id, size);
		const at = { left: 0, right: 0 };
		return {
			id: device.id,
			...size,
			layoutOptions: { 'elk.portConstraints': 'FIXED_POS' },
			ports: sockets.map(({ port, side }) => ({
				id: port.id,
				x: side === 'left' ? 0 : size.width,
				y: HEAD + at[side]++ * ROW + ROW / 2,
				width: 0,
				height: 0,
				layoutOptions: { 'elk.port.side': side === 'left' ? 'WEST' : 'EAST' }
			}))
		};
	};
	const graph: ElkNode = {
		id: 'studio',
		layoutOptions: {
			'elk.algorithm': 'layered',
			'elk.direction': 'RIGHT',
			'elk.edgeRouting': 'ORTHOGONAL',
			'elk.hierarchyHandling': 'INCLUDE_CHILDREN',
			'elk.layered.spacing.nodeNodeBetweenLayers': '46',
			'elk.spacing.nodeNode': '18',
			'elk.layered.spacing.edgeNodeBetweenLayers': '14',
			'elk.json.edgeCoords': 'ROOT'
		},
		children: places.map((place) => ({
			id: `place ${place}`,
			layoutOptions: { 'elk.padding': '[top=30,left=16,bottom=14,right=16]' },
			children: shown.filter((device) => (device.place || 'No place yet') === place).map(node)
		})),
		edges: drawn.map(({ from, to }, i) => ({ id: `cable ${i}`, sources: [from], targets: [to] }))
	};
	const laid = await layOut(graph);
	const devices: MapDevice[] = [];
	const frames: MapPlace[] = [];
	for (const place of laid.children ?? []) {
		frames.push({
			name: place.id.slice(6),
			x: place.x!,
			y: place.y!,
			width: place.width!,
			height: place.height!
		});
		for (const box of place.children ?? []) {
			const device = rig.devices.find(({ id }) => id === box.id)!;
			const [x, y] = [place.x! + box.x!, place.y! + box.y!];
			const sides = new Map(socketsOf(rig, device).map(({ port, side }) => [port.id, { port, side }]));
			devices.push({
				id: device.id,
				name: device.name,
				x,
				y,
				...sizes.get(device.id)!,
				sockets: (box.ports ?? []).map((socket) => ({
					id: socket.id,
					name: sides.get(socket.id)!.port.name,
					side: sides.get(socket.id)!.side,
					x: x + socket.x!,
					y: y + socket.y!
				}))
			});
		}
	}
	return {
		width: laid.width ?? 0,
		height: laid.height ?? 0,
		places: frames,
		devices,
		cables: (laid.edges ?? []).map((edge, i) => ({
			from: drawn[i].from,
			to: drawn[i].to,
			points: (edge.sections ?? []).flatMap(({ startPoint, bendPoints = [], endPoint }) =>
				[startPoint, ...bendPoints, endPoint].map(({ x, y }): [number, number] => [x, y])
			)
		}))
	};
}
