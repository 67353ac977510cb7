import { spawn } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Sequelize } from 'sequelize';
import { afterAll, expect, it } from 'vitest';
import { between, seededRandom } from '../src/lib/core/bench';
import { openStudio } from '../src/lib/server/db/connection';
import { DEVICES, oldStudio } from '../torture/old-studio';

const KILLS = 8;
const root = fileURLToPath(new URL('..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'drawer-migration-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Opens a studio in a process of its own and kills it so many ms after it began; tells whether it was still at it. */
function killedWhileOpening(file: string, afterMs: number): Promise<boolean> {
	const script = `const { openStudio } = await import('./src/lib/server/db/connection.ts');
		process.stdout.write('begun\\n');
		await openStudio(process.argv[1]);
		process.stdout.write('open\\n');`;
	const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script, file], {
		cwd: root
	});
	let output = '';
	return new Promise((resolve) => {
		child.stdout.on('data', (chunk: Buffer) => {
			if (output === '') setTimeout(() => child.kill('SIGKILL'), afterMs);
			output += chunk.toString();
		});
		child.once('exit', () => resolve(!output.includes('open\n')));
	});
}

it(`killed ${KILLS} times while an old studio is brought up to date: it opens again, with everything in it`, async () => {
	const old = await oldStudio(folder);
	const random = seededRandom(12);
	let hit = 0;
	let mostMs = 250;
	for (let round = 0; round < KILLS; round++) {
		const file = join(folder, `studio-${round}.sqlite`);
		copyFileSync(old, file);
		const inside = await killedWhileOpening(file, between(random, 1, mostMs));
		if (inside) hit++;
		// On a machine that is quicker than thought, sooner.
		else mostMs = Math.max(20, Math.round(mostMs * 0.6));
		const studio = await openStudio(file);
		expect(await studio.models.devices.count()).toBe(DEVICES);
		const [[{ n }]] = (await studio.sequelize.query(
			`SELECT COUNT(*) AS n FROM slot_runs WHERE world = (SELECT id FROM words WHERE text = 'unrecorded') AND current = 1`
		)) as unknown as [[{ n: number }]];
		expect(n).toBe(DEVICES * 61);
		await studio.close();
		// The copy that was put aside is a whole studio of the old shape, or it is not there.
		expect(readdirSync(folder).filter((name) => name.endsWith('.part')).length).toBeLessThanOrEqual(1);
		const copy = `${file}.before-0002-wiring`;
		expect(existsSync(copy)).toBe(true);
		const before = new Sequelize({ dialect: 'sqlite', storage: copy, logging: false });
		const [rows] = await before.query('SELECT COUNT(*) AS n FROM devices');
		expect(rows).toEqual([{ n: DEVICES }]);
		await before.close();
		for (const name of readdirSync(folder).filter((each) => each.startsWith(`studio-${round}.`)))
			rmSync(join(folder, name), { force: true });
	}
	console.log(`migration: ${KILLS} kills, ${hit} of them before it was done; each time it opened again`);
	expect(hit).toBeGreaterThan(KILLS / 4);
});
