import { opened } from '../core/answered';
import { Problem } from '../core/problem';
import type { FirmwareFile, FirmwareWays } from '../core/profile';
import type { FirmwareOutcome, FirmwareProgress, LoaderMode } from '../core/transfer';
import { call } from './api';
import { desk } from './desk.svelte';
import { midiDesk, type Socket } from './midi-desk.svelte';

/** A device that is brought a new system, and how its loader is spoken to. */
export interface FirmwareTarget {
	device: { id: string; name: string; benchUnit: string | null };
	ways: FirmwareWays;
}

/** The bench unit of a device. @throws Problem `bench.unplugged` */
function unitOf({ device }: FirmwareTarget): string {
	if (device.benchUnit) return device.benchUnit;
	throw new Problem(
		'bench.unplugged',
		`“${device.name}” is plugged in to nothing.`,
		'Choose a bench unit for it on its Ports page.'
	);
}

/** Works over a device's own line; nobody else has its ports meanwhile. @throws Problem `port.no-way` and as the ports say */
async function overLine<T>(
	{ device }: FirmwareTarget,
	doing: string,
	work: (line: Awaited<ReturnType<typeof midiDesk.open>>) => Promise<T>
): Promise<T> {
	const way = await call<{ out: Socket | null; in: Socket | null }>('GET', `/devices/${device.id}/way`);
	if (!way.out || !way.in)
		throw new Problem('port.no-way', `The line to “${device.name}” is not whole yet.`, 'Find it.');
	const line = await midiDesk.open(way.out, way.in, doing);
	try {
		return await work(line);
	} finally {
		line.close();
	}
}

/** Asks whether a device is in update mode, and how it stands there. Nothing is written. */
export async function askLoaderOf(target: FirmwareTarget): Promise<LoaderMode> {
	if (desk.world === 'bench') return opened(await desk.bench.askLoader(unitOf(target), target.ways));
	const [{ askLoader }, { carryOut }, { realClock }] = await engine();
	return overLine(target, `asking the loader of ${target.device.name}`, ({ link }) =>
		carryOut(askLoader(target.ways), link, realClock)
	);
}

/** The engine is fetched when it is needed first; on the bench its worker has it. */
const engine = () => Promise.all([import('../core/transfer'), import('./carry-out'), import('./real-clock')]);

/** Keeps the screen, and with it the computer, awake; gives what lets go of it, and null where the browser refuses. */
async function stayAwake(): Promise<(() => void) | null> {
	try {
		const lock = await navigator.wakeLock.request('screen');
		return () => void lock.release();
	} catch {
		// Headless browsers, batteries nearly empty, pages that are not shown: it is asked of the musician anyway.
		return null;
	}
}

/** Sends a device in update mode a new system; `tell` is told of its progress. Leaving the page meanwhile is asked about. */
export async function sendFirmwareTo(
	target: FirmwareTarget,
	file: Pick<FirmwareFile, 'messages' | 'variant'>,
	tell: (progress: FirmwareProgress) => void
): Promise<FirmwareOutcome> {
	const busy = desk.runs.find(({ deviceId }) => deviceId === target.device.id);
	if (busy)
		throw new Problem(
			'desk.busy',
			`A transfer with “${busy.deviceName}” is running.`,
			'Wait for its end, or cancel it; nothing was sent.'
		);
	const stay = (event: BeforeUnloadEvent) => event.preventDefault();
	addEventListener('beforeunload', stay);
	const letSleep = await stayAwake();
	try {
		if (desk.world === 'bench') {
			const { proxy } = await import('comlink');
			return opened(await desk.bench.sendFirmware(unitOf(target), file, target.ways, proxy(tell)));
		}
		const [{ sendFirmware }, { carryOut }, { realClock }] = await engine();
		return await overLine(target, `a new system for ${target.device.name}`, ({ link }) =>
			carryOut(sendFirmware(file, target.ways, tell), link, realClock)
		);
	} finally {
		removeEventListener('beforeunload', stay);
		letSleep?.();
	}
}
