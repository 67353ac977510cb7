import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import { expect, it } from 'vitest';
import { anOrrery, freshStudio } from '../studio.fixture';
import { openStudio } from './connection';
import { migrate } from './migrate';
import type { MigrationStep } from './migrations/step';
import { migrations } from './migrations';

const here = freshStudio();

it('puts a copy of an existing studio aside before it changes its shape', async () => {
	await anOrrery(here.studio);
	const next = {
		name: '0002-next',
		up: ({ run }: MigrationStep) => run('ALTER TABLE devices ADD COLUMN colour TEXT')
	};
	await migrate(here.studio.sequelize, here.studio.file, [...migrations, next]);
	const copy = join(here.folder, 'studio.sqlite.before-0002-next');
	expect(existsSync(copy)).toBe(true);
	const before = await openStudio(copy);
	expect(await before.models.devices.count()).toBe(1);
	const [columns] = await before.sequelize.query('PRAGMA table_info(devices)');
	expect((columns as { name: string }[]).some(({ name }) => name === 'colour')).toBe(false);
	await before.close();
	// Nothing is pending now: a second run changes nothing.
	await migrate(here.studio.sequelize, here.studio.file, [...migrations, next]);
});

it('opens its file with write-ahead log, foreign keys and full synchronisation, for transactions too', async () => {
	const pragma = async (name: string, transaction?: never) => {
		const [row] = await here.studio.sequelize.query<Record<string, unknown>>(`PRAGMA ${name}`, {
			transaction,
			type: QueryTypes.SELECT
		});
		return Object.values(row)[0];
	};
	expect(await pragma('journal_mode')).toBe('wal');
	await here.studio.write(async (transaction) => {
		expect(await pragma('synchronous', transaction as never)).toBe(2);
		expect(await pragma('foreign_keys', transaction as never)).toBe(1);
	});
	expect(await pragma('synchronous')).toBe(2);
});

it('gives every port of a studio from before the wiring an id', async () => {
	const file = join(here.folder, 'old.sqlite');
	const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
	await migrate(sequelize, file, migrations.slice(0, 1));
	const ports = JSON.stringify([
		{ name: 'MIDI out', direction: 'out', connector: 'din' },
		{ name: 'MIDI out', direction: 'out', connector: 'din' }
	]);
	await sequelize.query(
		`INSERT INTO devices (id, name, maker, model, kind, place, serial, firmware, ports, batteryType, batteryFitted, forgets, power, notes, createdAt)
		VALUES ('d', 'Old', '', '', '', '', '', '', ?, '', '', '', '', '', '2026-01-01')`,
		{ replacements: [ports] }
	);
	await migrate(sequelize, file);
	await sequelize.close();
	expect(existsSync(`${file}.before-0002-wiring`)).toBe(true);
	const studio = await openStudio(file);
	const device = await studio.models.devices.findByPk('d');
	expect(device!.get('ports')).toMatchObject([{ id: 'midi-out' }, { id: 'midi-out-2' }]);
	await studio.close();
});
