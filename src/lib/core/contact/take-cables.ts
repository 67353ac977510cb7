import { catalogueIds, isWire, rigPortId, type RigPort } from '../rig';
import type { Port } from '../gear';
import type { Draft } from './draft';

const isMidiWire = (port: Port, direction: Port['direction']) =>
	port.direction === direction && isWire(port as RigPort);

/** A socket of a device for a cable in one direction, made where it has none: something came through one. */
const ownSocket = (draft: Draft, device: string, direction: 'in' | 'out'): string => {
	const list = draft.portsOf(device).filter((port) => isMidiWire(port, direction));
	const cables = (port: Port) => draft.cablesAt(rigPortId(device, port.id));
	// One that goes to an interface already is moved; one that is free is taken; the last choice gives up what it has.
	const port =
		list.find((one) =>
			cables(one).some(({ from, to }) => draft.isInterface(direction === 'in' ? from : to))
		) ??
		list.find((one) => cables(one).length === 0) ??
		list[0];
	return port
		? rigPortId(device, port.id)
		: draft.addSocket(device, {
				name: direction === 'in' ? 'MIDI in' : 'MIDI out',
				direction,
				connector: 'din'
			});
};

const deviceOf = (port: string) => catalogueIds(port).device;

/**
 * The cable from an out to a device that answered there. What is noted at that out and did not answer there gives way;
 * of two that answered at one out, the second hangs on the thru of the first.
 */
export function cableTo(draft: Draft, out: string, device: string, metThere: ReadonlySet<string>): void {
	const into = ownSocket(draft, device, 'in');
	// However it is cabled today, boxes and chains between: a way from that out is a way.
	const chain = new Set<string>();
	const waiting = [out];
	for (let at = waiting.pop(); at !== undefined; at = waiting.pop())
		for (const { from, to } of draft.cablesAt(at)) {
			if (from !== at || chain.has(to)) continue;
			chain.add(to);
			for (const port of draft.portsOf(deviceOf(to)))
				if (port.direction === 'thru') waiting.push(rigPortId(deviceOf(to), port.id));
		}
	if (chain.has(into)) return;
	draft.pull(into);
	const last = [...chain].filter((port) => metThere.has(deviceOf(port))).at(-1);
	if (last === undefined) {
		draft.pull(out);
		draft.plug(out, into);
		return;
	}
	const before = deviceOf(last);
	const thru = draft.portsOf(before).find((port) => isMidiWire(port, 'thru'));
	draft.plug(
		thru
			? rigPortId(before, thru.id)
			: draft.addSocket(before, { name: 'MIDI thru', direction: 'thru', connector: 'din' }),
		into
	);
}

/** The cable back from a device to the in where it came. */
export function cableFrom(draft: Draft, device: string, into: string): void {
	const from = ownSocket(draft, device, 'out');
	if (draft.cablesAt(from).some((cable) => cable.to === into)) return;
	draft.pull(from);
	draft.plug(from, into);
}
