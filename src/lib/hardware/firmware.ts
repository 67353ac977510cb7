import { opened } from '../core/answered';
import { Problem } from '../core/problem';
import type { FirmwareFile, FirmwareWays } from '../core/profile';
import type { FirmwareOutcome, FirmwareProgress, LoaderMode } from '../core/transfer';
import { call } from './api';
import { desk } from './desk.svelte';
import { forgetPlayed } from './forget-played';
import { overLine, type LineSockets } from './over-line';
import { pluggedIn } from './plugged-in';
import { stayAwake } from './this-computer';

/** A device that is brought a new system, and how its loader is spoken to. */
export interface FirmwareTarget {
	device: { id: string; name: string; benchUnit: string | null };
	ways: FirmwareWays;
}

/** @throws Problem `bench.unplugged` */
const unitOf = ({ device: { name, benchUnit } }: FirmwareTarget): string => pluggedIn(name, benchUnit);

/** How a device's line goes, as the server knows it. */
const socketsOf = ({ device }: FirmwareTarget): Promise<LineSockets> =>
	call('GET', `/devices/${device.id}/way`);

/** Asks whether a device is in update mode, and how it stands there. Nothing is written. */
export async function askLoaderOf(target: FirmwareTarget): Promise<LoaderMode> {
	if (desk.world === 'bench') return opened(await desk.bench.askLoader(unitOf(target), target.ways));
	const [{ askLoader }, { carryOut }, { realClock }] = await engine();
	const { name } = target.device;
	return overLine(name, await socketsOf(target), `asking the loader of ${name}`, (link) =>
		carryOut(askLoader(target.ways), link, realClock)
	);
}

/** The engine is fetched when it is needed first; on the bench its worker has it. */
const engine = () => Promise.all([import('../core/transfer'), import('./carry-out'), import('./real-clock')]);

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
		await forgetPlayed(desk.world, { devices: [target.device.id] });
		if (desk.world === 'bench') {
			const { proxy } = await import('comlink');
			return opened(await desk.bench.sendFirmware(unitOf(target), file, target.ways, proxy(tell)));
		}
		const [{ sendFirmware }, { carryOut }, { realClock }] = await engine();
		const { name } = target.device;
		return await overLine(name, await socketsOf(target), `a new system for ${name}`, (link) =>
			carryOut(sendFirmware(file, target.ways, tell), link, realClock)
		);
	} finally {
		removeEventListener('beforeunload', stay);
		letSleep?.();
	}
}
