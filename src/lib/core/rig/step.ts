import { DELAY_MS } from './delays';
import { isUsb, isWire } from './rig-index';
import type { RigPort } from './schema';

/** A message under way: a note or controller on a channel, or a clock pulse, which has none. */
export interface Message {
	kind: 'note' | 'clock';
	/** 1–16; 0 for clock. */
	channel: number;
}

/** What keeps a message from going on. */
export interface Stop {
	/** In the musician's words. */
	says: string;
	/** Device, cable end, or host entry where it happens. */
	at: string;
	/** How much has to change: 1 is a switch or a setting, more is a cable or a way nobody intends. */
	weight: number;
}

export type EdgeKind = 'key' | 'local' | 'cable' | 'thru' | 'soft-thru' | 'inside' | 'host' | 'ear' | 'clock';

/** What kind of place a message can be at, and whose id tells which one. */
export type NodeKind =
	/** Leaving a socket, arriving at one: the socket's. */
	| 'leaving'
	| 'arriving'
	/** A device's voices, its keys: the device's. */
	| 'ear'
	| 'keys'
	/** A source of clock: the device's, the host's. */
	| 'clock'
	| 'host-clock'
	/** A track of a host, and its ports: the entry's. */
	| 'track'
	| 'host-in'
	| 'host-out'
	/** A software instrument: its own. */
	| 'soft';

/** A place that a message can be at. */
export interface Node {
	readonly kind: NodeKind;
	readonly id: string;
	/** The same for equal places, and for no others. */
	readonly key: string;
}

export const node = (kind: NodeKind, id: string): Node => ({ kind, id, key: `${kind} ${id}` });

/** One step of a signal. */
export interface Edge {
	from: Node;
	to: Node;
	kind: EdgeKind;
	delayMs: number;
	/** How the step is called in a list of stops. */
	says: string;
	/** The device that it happens at. */
	device: string | null;
	/** What becomes of a message here. A stopped message goes on only in the question what would have to change. */
	pass(message: Message): { message: Message; stop: Stop | null };
}

export interface SignalGraph {
	edges: Edge[];
	/** The steps that a message can take from a place. */
	after(place: Node): readonly Edge[];
}

export const freely = (message: Message) => ({ message, stop: null });
export const stopped = (stop: Stop) => (message: Message) => ({ message, stop });
export const unless = (open: boolean, stop: Stop) => (open ? freely : stopped(stop));

export const leaving = ({ id }: { id: string }) => node('leaving', id);
export const arriving = ({ id }: { id: string }) => node('arriving', id);

/** Delay of leaving a socket that sends anew. */
export const sendMs = (port: RigPort) => (isWire(port) ? DELAY_MS.wire : isUsb(port) ? DELAY_MS.usb : 0);
