import type { SeekPorts } from '../core/contact';
import type { PresentPort } from '../core/gear';
import { Problem } from '../core/problem';
import { holdPorts } from './port-lock';
import { traffic } from './traffic.svelte';

/** Every port of the computer that could be had, and how to give them back. */
export interface AllPorts {
	ports: SeekPorts;
	/** Those that are in use elsewhere, with the reason. */
	busy: { port: PresentPort; why: string }[];
	close(): void;
}

/**
 * Holds every port that nobody else holds, each by itself: one that is in use costs only itself.
 * @param nameOf what a port is called where it is held
 * @param isFree whether no line of this tab hears through it
 */
export async function openAllPorts(
	access: MIDIAccess,
	present: readonly PresentPort[],
	nameOf: (port: PresentPort) => string,
	doing: string,
	isFree: (input: MIDIInput) => boolean
): Promise<AllPorts> {
	const releases: (() => void)[] = [];
	const busy: AllPorts['busy'] = [];
	const free: PresentPort[] = [];
	for (const port of present) {
		try {
			releases.push(await holdPorts([`${nameOf(port)} ${port.direction}`], doing));
			free.push(port);
		} catch (error) {
			busy.push({ port, why: error instanceof Problem ? error.message : String(error) });
		}
	}
	const ears = new Set<(port: PresentPort, chunk: Uint8Array) => void>();
	const inputs = free.flatMap((port) => {
		const input = port.direction === 'in' ? access.inputs.get(port.id) : undefined;
		return input ? [{ port, input }] : [];
	});
	for (const { port, input } of inputs)
		input.onmidimessage = ({ data }) => {
			if (!data || data.length === 0) return;
			const bytes = Uint8Array.from(data);
			traffic.note(port.name, 'received', bytes);
			for (const ear of ears) ear(port, bytes);
		};
	const send = (out: PresentPort, bytes: Uint8Array): boolean => {
		const output = access.outputs.get(out.id);
		if (output?.state !== 'connected') return false;
		try {
			output.send(bytes);
		} catch {
			// It went away between the look and the send: the search says that this port took nothing.
			return false;
		}
		traffic.note(out.name, 'sent', bytes);
		return true;
	};
	return {
		busy,
		ports: {
			outs: free.filter(({ direction }) => direction === 'out'),
			send,
			hear(ear) {
				ears.add(ear);
				return () => ears.delete(ear);
			}
		},
		close() {
			ears.clear();
			for (const { input } of inputs) if (isFree(input)) input.onmidimessage = null;
			releases.forEach((release) => release());
		}
	};
}
