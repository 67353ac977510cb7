import { openAsBlob } from 'node:fs';
import { join } from 'node:path';
import { serve, type Served } from '../../e2e/server-process';
import { factoryState, pick, type Random } from '../../src/lib/core/bench';
import { toHex } from '../../src/lib/core/midi';
import { buildMessage } from '../../src/lib/core/profile';
import { checkStudio } from '../../src/lib/server/check';
import type { Studio } from '../../src/lib/server/db/connection';
import { listDevices } from '../../src/lib/server/gear';
import { shippedProfile } from '../../src/lib/server/profiles';
import { receivedMessages } from '../../src/lib/server/transfers';
import { within } from '../template';
import type { Disk } from './disks';

/** Whether no room is left of a disk or of a quota, or it fails, SQLite does not always tell. */
export const REFUSED_AS = ['disk.full', 'disk.failed'];

export interface Filled {
	/** Rounds in which the disk was full; 0 where there is none. */
	rounds: number;
	/** Calls that were refused because of it. */
	refused: number;
	/** Devices and messages that were confirmed, and found again. */
	kept: number;
	faults: string[];
}

interface Answer {
	status: number;
	said: { id?: string; transfer?: { id: string }; problem?: { code: string } };
}

async function call(server: Served, path: string, body?: object | Blob): Promise<Answer> {
	const zip = body instanceof Blob;
	const answer = await fetch(`${server.url}/api/v1${path}`, {
		method: body ? 'POST' : 'GET',
		headers: { 'content-type': zip ? 'application/zip' : 'application/json' },
		body: zip ? body : body && JSON.stringify(body)
	});
	return { status: answer.status, said: (await answer.json()) as Answer['said'] };
}

/** What only reads: it goes on whatever the disk does not store. */
const READ = ['/', '/gear', '/gear/find?q=device', '/sounds', '/transfers', '/wiring', '/api/v1/bundle'];
const GROUP = 4;
const TABLE = { text: 'Name\nFrom a table\nFrom a table too', lines: [2, 3] };

/** One server on one disk, and what it confirmed. */
class Round {
	refused = 0;
	readonly devices: string[] = [];
	readonly messages: string[] = [];
	private capture = '';
	/** Imports that were confirmed: a table of two devices, a bundle of three. */
	private tables = 0;
	private bundles = 0;

	constructor(
		private readonly server: Served,
		private readonly bundle: string,
		private readonly fault: (says: string) => void
	) {}

	/** Whether it was confirmed; what the disk does not store is said to be so. */
	private confirmed(what: string, { status, said }: Answer): boolean {
		if (status >= 200 && status < 300) return true;
		if (status === 507 && REFUSED_AS.includes(said.problem!.code)) this.refused++;
		else this.fault(`${what} answers ${status}: ${JSON.stringify(said)}`);
		return false;
	}

	async add(name: string): Promise<void> {
		const answer = await call(this.server, '/devices', { name, notes: 'n'.repeat(1500) });
		if (this.confirmed('adding a device', answer)) this.devices.push(answer.said.id!);
	}

	async beginCapture(): Promise<void> {
		const device = { name: 'Captured', profileId: profile.id, deviceId: 0 };
		const { said } = await call(this.server, '/devices', device);
		this.devices.push(said.id!);
		const scope = { kind: 'area', area: 'programs' };
		const begun = { deviceId: said.id, direction: 'capture', world: 'hardware', scope };
		this.capture = (await call(this.server, '/transfers', begun)).said.transfer!.id;
	}

	/** The next messages, those again that were not confirmed; false once all are. */
	async receive(random: Random): Promise<boolean> {
		const position = this.messages.length;
		const messages = factoryState(profile, random)
			.memory.programs.slice(position, position + GROUP)
			.map((program, i) =>
				toHex(buildMessage(profile, 'program-dump', { deviceId: 0, slot: position + i }, program))
			);
		if (messages.length === 0) return false;
		const answer = await call(this.server, `/transfers/${this.capture}/messages`, { position, messages });
		if (this.confirmed('a message', answer)) this.messages.push(...messages);
		return true;
	}

	/** Whether the capture is over: then it is not finished again. */
	async finish(): Promise<boolean> {
		const ended = { status: 'complete', reason: null, firmware: null };
		return this.confirmed(
			'finishing the capture',
			await call(this.server, `/transfers/${this.capture}/finish`, ended)
		);
	}

	async importTable(): Promise<void> {
		const answer = await call(this.server, '/catalogue/import', TABLE);
		if (this.confirmed('a table', answer)) this.tables++;
	}

	async takeBundle(): Promise<void> {
		const answer = await call(this.server, '/bundle', await openAsBlob(this.bundle));
		if (this.confirmed('a bundle', answer)) this.bundles = 1;
	}

	async readAll(): Promise<void> {
		for (const path of READ) {
			const { status } = await fetch(`${this.server.url}${path}`).then(async (answer) => {
				await answer.arrayBuffer();
				return answer;
			});
			if (status !== 200) this.fault(`reading ${path} answers ${status}`);
		}
	}

	/** Compares what was confirmed with what is stored; gives how much was. */
	async compare(studio: Studio): Promise<number> {
		const { damage } = await checkStudio(studio);
		if (damage.length > 0) this.fault(damage[0].says);
		const there = (await listDevices(studio)).map(({ id }) => id);
		const lost = this.devices.filter((id) => !there.includes(id));
		if (lost.length > 0) this.fault(`${lost.length} confirmed devices are not there`);
		const expected = this.devices.length + 2 * this.tables + 3 * this.bundles;
		if (there.length !== expected)
			this.fault(`${there.length} devices are there, ${expected} were confirmed`);
		const stored = (await receivedMessages(studio, this.capture)).map((bytes) => toHex(bytes));
		if (stored.join() !== this.messages.join())
			this.fault(`${stored.length} messages are there, ${this.messages.length} were confirmed`);
		return this.devices.length - lost.length + stored.length;
	}
}

const profile = shippedProfile('tarnow-parallax');

/**
 * Runs a server on a disk that is full at the start, and full in the middle. What was confirmed stays, what was not is refused
 * as 507 and not there, what reads goes on, and once there is room everything does.
 * @param made makes an empty disk, or says that there can be none
 */
export async function fillDisk(
	made: () => Disk | null,
	bundle: string,
	random: Random,
	port: number,
	untilMs: number
): Promise<Filled> {
	const told: Filled = { rounds: 0, refused: 0, kept: 0, faults: [] };
	while (performance.now() < untilMs) {
		const disk = made();
		if (!disk) return told;
		const fault = (says: string) => told.faults.push(`full disk, round ${told.rounds}: ${says}`);
		told.rounds++;
		disk.fill();
		let server: Served | null = null;
		try {
			server = await serve(port, disk.folder, disk.env);
			const first = await call(server, '/devices');
			if (first.status !== 503 || !REFUSED_AS.includes(first.said.problem!.code))
				fault(`a first start with no room answers ${first.status}: ${JSON.stringify(first.said)}`);
			disk.empty();
			const second = await call(server, '/devices');
			if (second.status !== 200)
				fault(`with room again it answers ${second.status}: ${JSON.stringify(second.said)}`);
			const round = new Round(server, bundle, fault);
			await round.beginCapture();
			for (let i = 0; i < 10; i++) await round.add(`Device ${i}`);
			await round.receive(random);
			disk.fill();
			for (let i = 10; i < 25; i++) {
				await round.add(`Device ${i}`);
				await round.receive(random);
			}
			await pick(random, [() => round.importTable(), () => round.takeBundle()])();
			await round.readAll();
			disk.empty();
			for (let i = 25; i < 35; i++) await round.add(`Device ${i}`);
			while (await round.receive(random)) continue;
			disk.fill();
			let finished = await round.finish();
			disk.empty();
			finished ||= await round.finish();
			if (!finished) fault('a capture cannot be finished once there is room');
			if (round.devices.length < 21) fault(`only ${round.devices.length} devices were added`);
			await server.kill();
			told.refused += round.refused;
			told.kept += await within(join(disk.folder, 'studio.sqlite'), (studio) => round.compare(studio));
		} catch (error) {
			fault(String(error));
		} finally {
			await server?.kill();
			disk.remove();
		}
	}
	return told;
}
