import type { Link } from '../core/transfer';
import { Problem } from '../core/problem';
import { midiDesk } from './midi-desk.svelte';

/** Ports of the browser by their ids; the first that is there where none is named. */
export interface ChosenPorts {
	out: string;
	back: string;
	/** What they are used for. */
	says: string;
}

/** Does something over chosen ports, and lets them go afterwards. @throws Problem `ports.none` */
export async function overPorts<T>(
	{ out, back, says }: ChosenPorts,
	work: (link: Link) => Promise<T>
): Promise<T> {
	const chosen = (direction: 'out' | 'in', id: string) =>
		midiDesk.present.find((port) => port.direction === direction && (id === '' || port.id === id));
	const [to, from] = [chosen('out', out), chosen('in', back)];
	if (!to || !from)
		throw new Problem('ports.none', 'There is no port.', 'Plug an interface in, and open the ports first.');
	const line = await midiDesk.openPorts(to, from, says);
	try {
		return await work(line.link);
	} finally {
		line.close();
	}
}
