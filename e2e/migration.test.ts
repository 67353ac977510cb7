import { spawn } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Sequelize } from 'sequelize';
import { afterAll, expect, it } from 'vitest';
import { between, seededRandom } from '../src/lib/core/bench';
import { openStudio } from '../src/lib/server/db/connection';
import { migrate } from '../src/lib/server/db/migrate';
import { migrations } from '../src/lib/server/db/migrations';

const KILLS = 8;
const DEVICES = 150;
const root = fileURLToPath(new URL('..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'drawer-migration-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A studio of the first version, with enough in it that bringing it up to date takes a while. */
async function oldStudio(): Promise<string> {
	const file = join(folder, 'old.sqlite');
	const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
	await migrate(sequelize, file, migrations.slice(0, 1));
	await sequelize.transaction(async (transaction) => {
		const run = (sql: string) => sequelize.query(sql, { transaction });
		for (let i = 0; i < DEVICES; i++)
			await run(
				`INSERT INTO devices (id, name, maker, model, kind, place, serial, firmware, ports, batteryType, batteryFitted, forgets, power, notes, createdAt, touchedAt)
				 VALUES ('d${i}', 'Old ${i}', '', '', '', '', '', '', '[{"name":"MIDI out","direction":"out","connector":"din"}]', '', '', '', '', '', '2026-01-01', '2026-01-02T00:00:00.000Z')`
			);
		await run(`INSERT INTO versions (id, deviceId, kind, takenAt, verified, missing, bytes, slots, changed, title, note, tags, pinned)
			SELECT 'v' || id, id, 'routine', '2026-01-01T00:00:00.000Z', 1, 0, 3, 1, 1, '', '', '[]', 0 FROM devices`);
		await run(`WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < 60)
			INSERT INTO slot_runs (deviceId, area, slot, label, folded, record, fromVersion, fromAt, current)
			SELECT id, 'a', i, '', '', 'r', 'v' || id, '2026-01-01T00:00:00.000Z', 1 FROM devices, n`);
	});
	await sequelize.close();
	return file;
}

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
	const old = await oldStudio();
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
