import {
	canReceive,
	channelsOf,
	checkJoin,
	isHostSocket,
	isWire,
	type Placed,
	type RigDevice,
	type RigIndex,
	type RigPort
} from '../rig';

/** Where a cable into a device comes from today. */
export type PresentFeed = { out: string } | { device: string; socket: string } | null;

/** A thru box on the way to a device. */
export interface BoxPlace {
	device: string;
	hop: number;
	via: string | null;
}

/** How a device is wired and set today, as far as a plan asks. */
export interface Present {
	feed: PresentFeed;
	/** Out that it hangs on by thru boxes alone, with the way: boxes from the out on, and its own place. */
	boxed: { out: string; boxes: BoxPlace[]; hop: number; via: string } | null;
	/** Somebody who plays it now, by the only cable into it. */
	player: string | null;
	/** Interface in that its out goes to, or a merge box. */
	back: { in: string } | { merge: string } | null;
	channels: number[];
	deviceId: number | null;
}

export const wireIns = (device: RigDevice) => device.ports.filter((port) => isWire(port) && canReceive(port));
export const wireOuts = (device: RigDevice) =>
	device.ports.filter((port) => isWire(port) && port.direction === 'out');

const far = (index: RigIndex, port: string, cable: { from: string; to: string }): Placed =>
	index.ports.get(cable.from === port ? cable.to : cable.from)!;

/** The fitting cable at a port, with what is at its other end. */
export function joined(index: RigIndex, port: string): Placed | null {
	for (const cable of index.cablesAt.get(port) ?? [])
		if (checkJoin(index.ports.get(cable.from)!, index.ports.get(cable.to)!, cable.adapter).fits)
			return far(index, port, cable);
	return null;
}

function presentFeed(index: RigIndex, into: string): PresentFeed {
	const source = joined(index, into);
	if (!source) return null;
	if (isHostSocket(index, source) && source.port.direction === 'out') return { out: source.port.id };
	const passes = source.port.direction === 'thru' || source.role === 'thru';
	return passes ? { device: source.device.id, socket: source.port.id } : null;
}

/** The in of the computer that an out goes to today. */
export function homeOf(index: RigIndex, out: string): string | null {
	const sink = joined(index, out);
	return sink && isHostSocket(index, sink) ? sink.port.id : null;
}

function presentBack(index: RigIndex, back: string): Present['back'] {
	const home = homeOf(index, back);
	if (home !== null) return { in: home };
	const sink = joined(index, back);
	return sink?.role === 'merge' ? { merge: sink.device.id } : null;
}

/** Where a device hangs today, if only thru boxes are between it and an out. */
function presentBoxes(index: RigIndex, into: string): Present['boxed'] {
	const way: Placed[] = [];
	for (let source = joined(index, into); source;) {
		if (source.role !== 'thru') {
			if (way.length === 0 || source.port.direction !== 'out' || !isHostSocket(index, source)) return null;
			const boxes = way.toReversed().map(({ device }, i, all) => ({
				device: device.id,
				hop: i + 1,
				via: i === 0 ? null : all[i - 1].port.id
			}));
			if (boxes.length >= index.rig.limits.chain) return null;
			return { out: source.port.id, boxes, hop: boxes.length + 1, via: way[0].port.id };
		}
		if (way.includes(source)) return null;
		way.push(source);
		const [in1] = wireIns(source.device);
		source = in1 ? joined(index, in1.id) : null;
	}
	return null;
}

/** Who plays a device by a cable that is in it today, whether it has the right adapter or not: no box, and not the computer. */
function presentPlayer(index: RigIndex, into: string): string | null {
	const players = (index.cablesAt.get(into) ?? [])
		.filter(({ to }) => to === into)
		.map(({ from }) => index.ports.get(from)!)
		.filter(
			(source) =>
				source.role === 'instrument' &&
				source.port.direction === 'out' &&
				source.device.sends.length > 0 &&
				!isHostSocket(index, source)
		);
	return players[0]?.device.id ?? null;
}

/** How a device is wired and set today. */
export const presentOf = (
	index: RigIndex,
	device: RigDevice,
	into: RigPort | undefined,
	back: RigPort | undefined
): Present => {
	const setting = index.settings.get(device.id);
	return {
		feed: into ? presentFeed(index, into.id) : null,
		boxed: into ? presentBoxes(index, into.id) : null,
		player: into ? presentPlayer(index, into.id) : null,
		back: back ? presentBack(index, back.id) : null,
		channels: channelsOf(device, setting),
		deviceId: setting?.deviceId ?? null
	};
};
