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

/**
 * One step of a signal. Nodes are `port>` (leaving a socket), `port<` (arriving), `ear:device`, `key:device`,
 * `clock:device`, `track:id`, `hostin:id`, `hostout:id` and `soft:id`.
 */
export interface Edge {
	from: string;
	to: string;
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
	from: Map<string, Edge[]>;
}

export const freely = (message: Message) => ({ message, stop: null });
export const stopped = (stop: Stop) => (message: Message) => ({ message, stop });
export const unless = (open: boolean, stop: Stop) => (open ? freely : stopped(stop));

export const leaving = (port: RigPort) => `${port.id}>`;
export const arriving = (port: RigPort) => `${port.id}<`;

/** Delay of leaving a socket that sends anew. */
export const sendMs = (port: RigPort) => (isWire(port) ? DELAY_MS.wire : isUsb(port) ? DELAY_MS.usb : 0);
