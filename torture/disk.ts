import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { serve } from '../e2e/server-process';
import { checkStudio } from '../src/lib/server/check';
import { listDevices } from '../src/lib/server/gear';
import { within } from './template';

export interface Filled {
	/** Rounds in which the disk was full; 0 where none could be made here. */
	rounds: number;
	/** Calls that were refused because of it. */
	refused: number;
	/** Devices that were confirmed, and found again. */
	kept: number;
	faults: string[];
}

const SIZE_MB = 12;

/** Fills what is left of a file system. */
function ballast(folder: string): () => void {
	const file = join(folder, 'ballast');
	const { bavail, bsize } = statfsSync(folder);
	try {
		writeFileSync(file, Buffer.alloc(Number(bavail) * Number(bsize)));
	} catch {
		// Full to the last byte.
	}
	return () => rmSync(file, { force: true });
}

/**
 * Runs a server on a file system of a few megabytes (a memory disk, where this machine allows to mount one): full at the
 * start, full in the middle. What was confirmed stays, what was not is refused as 507, and once there is room it goes on.
 */
export async function fillDisk(folder: string, port: number, untilMs: number): Promise<Filled> {
	const told: Filled = { rounds: 0, refused: 0, kept: 0, faults: [] };
	const disk = join(folder, 'disk');
	mkdirSync(disk, { recursive: true });
	while (performance.now() < untilMs) {
		const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE_MB}m`, 'tmpfs', disk]);
		if (mounted.status !== 0) return told;
		const fault = (says: string) => told.faults.push(`full disk, round ${told.rounds}: ${says}`);
		let empty = ballast(disk);
		const server = await serve(port, disk);
		const call = async (method: string, path: string, body?: object) => {
			const answer = await fetch(`${server.url}/api/v1${path}`, {
				method,
				headers: { 'content-type': 'application/json' },
				body: body && JSON.stringify(body)
			});
			return {
				status: answer.status,
				said: (await answer.json()) as { id?: string; problem?: { code: string } }
			};
		};
		try {
			told.rounds++;
			const first = await call('GET', '/devices');
			if (first.status !== 503) fault(`a first start with no room answers ${first.status}`);
			empty();
			const second = await call('GET', '/devices');
			if (second.status !== 200)
				fault(`with room again it answers ${second.status}: ${JSON.stringify(second.said)}`);
			const confirmed: string[] = [];
			const add = (i: number) =>
				call('POST', '/devices', { name: `Device ${told.rounds} ${i}`, notes: 'n'.repeat(1500) });
			for (let i = 0; i < 40; i++) {
				if (i === 15) empty = ballast(disk);
				if (i === 30) empty();
				const { status, said } = await add(i);
				if (status === 201) confirmed.push(said.id!);
				else if (status === 507 && said.problem?.code === 'disk.full') told.refused++;
				else fault(`adding a device answers ${status}: ${JSON.stringify(said)}`);
			}
			if (confirmed.length < 25) fault(`only ${confirmed.length} devices were added`);
			await server.kill();
			await within(join(disk, 'studio.sqlite'), async (studio) => {
				const { damage } = await checkStudio(studio);
				if (damage.length > 0) fault(damage[0].says);
				const there = new Set((await listDevices(studio)).map(({ id }) => id));
				const lost = confirmed.filter((id) => !there.has(id));
				if (lost.length > 0) fault(`${lost.length} confirmed devices are not there`);
				told.kept += confirmed.length - lost.length;
			});
		} catch (error) {
			fault(String(error));
		} finally {
			await server.kill();
			spawnSync('umount', [disk]);
		}
	}
	return told;
}
