import { Problem } from '../core/problem';
import type { Link } from '../core/transfer';
import { midiDesk, type Socket } from './midi-desk.svelte';

/** The sockets that lead to a device and back. */
export interface LineSockets {
	out: Socket | null | undefined;
	in: Socket | null | undefined;
}

/**
 * Works over a device's own line; nobody else has its ports meanwhile.
 * @param doing what its ports are said to be busy with
 * @param hears whether what comes back is needed
 * @throws Problem `port.no-way` where a socket is not known, and as the ports say
 */
export async function overLine<T>(
	name: string,
	{ out, in: back }: LineSockets,
	doing: string,
	work: (link: Link) => Promise<T>,
	hears = true
): Promise<T> {
	if (!out || (hears && !back))
		throw new Problem('port.no-way', `The line to “${name}” is not whole yet.`, 'Find it.');
	const line = await midiDesk.open(out, back ?? null, doing);
	try {
		return await work(line.link);
	} finally {
		line.close();
	}
}
