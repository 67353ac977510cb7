import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { between, factoryState, seededRandom } from '../src/lib/core/bench';
import { toHex } from '../src/lib/core/midi';
import { buildMessage } from '../src/lib/core/profile';
import { checkStudio } from '../src/lib/server/check';
import { openStudio } from '../src/lib/server/db/connection';
import { shippedProfile } from '../src/lib/server/profiles';
import { getVersion } from '../src/lib/server/drawer';
import { getTransfer, receivedMessages } from '../src/lib/server/transfers';
import { serve } from './server-process';

const KILLS = 30;
/** Messages of one call. */
const GROUP = 8;
const data = mkdtempSync(join(tmpdir(), 'drawer-crash-'));
afterAll(() => rmSync(data, { recursive: true, force: true }));

it(`killed ${KILLS} times while captures are being stored: nothing acknowledged is lost, nothing is damaged`, async () => {
	const random = seededRandom(50);
	const profile = shippedProfile('tarnow-parallax');
	const { programs } = factoryState(profile, random).memory;
	const acknowledged = new Map<string, string[]>();
	const finished: string[] = [];
	let deviceId = '';
	let inFlight = 0;

	for (let round = 0; round < KILLS; round++) {
		const server = await serve(5399, data);
		const post = async (path: string, body: unknown) => {
			const response = await fetch(`${server.url}/api/v1${path}`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify(body)
			});
			if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
			return response.json();
		};
		if (!deviceId)
			({ id: deviceId } = await post('/devices', { name: 'Crash', profileId: profile.id, deviceId: 0 }));
		await fetch(`${server.url}/api/v1/profiles`);
		const wait = between(random, 5, 400);
		let killed = false;
		// Now and then only once a capture is whole, however slow the machine is.
		let oneIsWhole = () => {};
		const since = round % 5 === 4 ? new Promise<void>((whole) => (oneIsWhole = whole)) : Promise.resolve();
		const kill = since.then(async () => {
			await new Promise((done) => setTimeout(done, wait));
			killed = true;
			await server.kill();
		});
		try {
			for (;;) {
				const scope = { kind: 'area', area: 'programs' };
				const { transfer } = await post('/transfers', {
					deviceId,
					direction: 'capture',
					world: 'hardware',
					scope
				});
				const mine: string[] = [];
				acknowledged.set(transfer.id, mine);
				for (let slot = 0; slot < programs.length; slot += GROUP) {
					const messages = programs.slice(slot, slot + GROUP).map((program, i) => {
						const record = program.slice();
						record[20] = between(random, 0, 255);
						return toHex(buildMessage(profile, 'program-dump', { deviceId: 0, slot: slot + i }, record));
					});
					await post(`/transfers/${transfer.id}/messages`, { position: slot, messages });
					mine.push(...messages);
				}
				await post(`/transfers/${transfer.id}/finish`, {
					status: 'complete',
					reason: null,
					firmware: '1.04'
				});
				finished.push(transfer.id);
				oneIsWhole();
			}
		} catch (error) {
			if (!killed) throw error;
			inFlight++;
		}
		await kill;

		const studio = await openStudio(join(data, 'studio.sqlite'));
		expect((await checkStudio(studio)).damage).toEqual([]);
		for (const [id, messages] of acknowledged) {
			const stored = (await receivedMessages(studio, id)).map((bytes) => toHex(bytes));
			// One more group may be stored whose answer the kill cut off; none may be missing.
			expect(stored.slice(0, messages.length)).toEqual(messages);
			expect(stored.length - messages.length).toBeLessThanOrEqual(GROUP);
		}
		for (const id of finished) {
			const { versionId } = await getTransfer(studio, id);
			expect((await getVersion(studio, versionId!)).slots).toBe(32);
		}
		await studio.close();
	}
	const total = [...acknowledged.values()].reduce((sum, list) => sum + list.length, 0);
	console.log(
		`crash: ${KILLS} kills, ${inFlight} in the middle of a request, ${total} messages acknowledged and found again, ${finished.length} versions whole`
	);
	expect(inFlight).toBe(KILLS);
	expect(total).toBeGreaterThan(KILLS);
	expect(finished.length).toBeGreaterThan(0);
});
