import { socketName, type StoredLine } from '../core/contact';
import { Problem } from '../core/problem';
import { linesOf, type Rig } from '../core/rig';
import { audition, noteEnd, panicMessages, type Audition } from '../core/transfer';
import { call } from './api';
import type { Heard } from './bench.worker';
import { carryOut } from './carry-out';
import { desk } from './desk.svelte';
import { forgetPlayed } from './forget-played';
import { inTurn } from './in-turn';
import { midiDesk } from './midi-desk.svelte';
import { pluggedIn } from './plugged-in';
import { realClock } from './real-clock';

/** What playing showed: what a simulated panel displayed, or that everything was sent. */
export type Played = { world: 'bench'; shown: Heard } | { world: 'hardware'; port: string };

/**
 * Selects a sound on a device and plays notes on it. They end with their time, or with the page; on a line that
 * breaks meanwhile they hang, and the Problem says so.
 * @throws Problem where there is no line, or not everything left
 */
export async function playOn({ device, unit, way }: StoredLine, order: Audition): Promise<Played> {
	const lost = new Problem(
		'listen.lost',
		`Not everything reached the line to “${device.name}”.`,
		'Look at its cable, and press panic if a note hangs.'
	);
	// Notes alone leave it what it plays.
	if (order.first.length > 0) await forgetPlayed(desk.world, { devices: [device.id] });
	if (desk.world === 'bench') {
		const { left, shown } = await desk.auditionOnBench(pluggedIn(device.name, unit).id, order);
		if (!left) throw lost;
		return { world: 'bench', shown };
	}
	if (!way?.out)
		throw new Problem('port.no-way', `The line to “${device.name}” is not whole yet.`, 'Find it.');
	const { out } = way;
	return inTurn(linesOf({ out, in: null }), async () => {
		const open = await midiDesk.open(out, null, `playing ${device.name}`);
		const silence = () => {
			for (const bytes of order.notes.flatMap(noteEnd)) open.link.send(bytes, () => undefined);
		};
		addEventListener('pagehide', silence);
		try {
			if (!(await carryOut(audition(order), open.link, realClock))) throw lost;
			return { world: 'hardware', port: out.name };
		} finally {
			removeEventListener('pagehide', silence);
			open.close();
		}
	});
}

/**
 * Silences everything that can be reached: sustain up, all sound off, all notes off on each channel of each out.
 * @returns what was done, in words; a line on which a transfer runs is left alone, since it would tear the dump
 */
export async function panic(): Promise<string> {
	if (desk.world === 'bench') {
		const units = await desk.panicOnBench();
		if (units === 0)
			return 'Nothing was silenced: no device on the bench was used yet, or a dump passes its line.';
		return `All notes off was sent to ${units === 1 ? 'one device' : `${units} devices`} on the bench.`;
	}
	const { rig } = await call<{ rig: Rig }>('GET', '/rig');
	const { remembered, present } = midiDesk;
	// Ports are held under the names of their sockets, so that no dump that runs is broken into.
	const all = await midiDesk.openEverything(
		(port) => socketName({ rig, remembered, present }, port),
		'silencing everything'
	);
	try {
		const reached = all.ports.outs.filter((out) =>
			panicMessages().every((bytes) => all.ports.send(out, bytes))
		);
		const missed = [
			...all.ports.outs.filter((out) => !reached.includes(out)).map(({ name }) => name),
			...all.busy.filter(({ port }) => port.direction === 'out').map(({ port }) => port.name)
		];
		return `All notes off was sent to ${reached.length === 1 ? 'one out' : `${reached.length} outs`}${
			missed.length > 0 ? `, not to ${missed.join(', ')}: in use or gone` : ''
		}.`;
	} finally {
		all.close();
	}
}
