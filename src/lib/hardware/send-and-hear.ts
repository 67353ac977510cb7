import { Problem } from '../core/problem';
import { carryOut } from './carry-out';
import { desk } from './desk.svelte';
import type { Socket } from './midi-desk.svelte';
import { overLine } from './over-line';
import { pluggedIn } from './plugged-in';
import { realClock } from './real-clock';
import { sayAndHear } from './say-and-hear';

/** Where a device is: on the bench, by its unit's id; or the sockets that lead to it and back. */
export interface LineEnds {
	name: string;
	unit: string | null;
	out: Socket | null;
	in: Socket | null;
}

/** Sends messages to a device in the world of the line. @throws Problem where nothing leads to it */
export async function sendAndHear(
	ends: LineEnds,
	messages: readonly Uint8Array[],
	ask: Uint8Array | null
): Promise<Uint8Array[]> {
	if (desk.world === 'bench') {
		return heardOr(ends, await desk.sayOnBench(pluggedIn(ends.name, ends.unit), messages, ask));
	}
	return overLine(
		ends.name,
		ends,
		`power-on messages for ${ends.name}`,
		async (link) => heardOr(ends, await carryOut(sayAndHear(messages, ask), link, realClock)),
		ask !== null
	);
}

/** @throws Problem `port.unplugged` where the port went away meanwhile */
function heardOr({ name }: LineEnds, heard: Uint8Array[] | null): Uint8Array[] {
	if (heard) return heard;
	throw new Problem(
		'port.unplugged',
		`The port to “${name}” went away while it was sent to.`,
		'Plug it in and send it again.'
	);
}
