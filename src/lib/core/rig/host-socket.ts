import { isWire, type Placed, type RigIndex } from './rig-index';

/**
 * Whether the computer itself sends or hears at a socket: one of an interface, or one that a host port names, such as
 * the MIDI out of a keyboard that passes on what its USB port brings.
 */
export const isHostSocket = (index: RigIndex, { port, role }: Placed): boolean =>
	isWire(port) && (role === 'interface' || index.hostPortsOf.has(port.id));
