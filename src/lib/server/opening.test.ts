import {
	chmodSync,
	copyFileSync,
	existsSync,
	mkdirSync,
	mkdtempSync,
	readFileSync,
	readdirSync,
	rmSync,
	statSync,
	truncateSync,
	utimesSync,
	writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { deviceSchema } from '../core/gear';
import { Problem } from '../core/problem';
import { openStudio } from './db/connection';
import { haveAlone } from './db/sole';
import { addDevice, listDevices } from './gear';
import { keepCopy } from './keep-copy';
import { putBack } from './put-back';

let folder = '';
let file = '';
beforeEach(() => {
	folder = mkdtempSync(join(tmpdir(), 'drawer-opening-'));
	file = join(folder, 'studio.sqlite');
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A studio with so many devices. */
async function studioOf(devices: number): Promise<void> {
	const studio = await openStudio(file);
	for (let i = 0; i < devices; i++) await addDevice(studio, deviceSchema.parse({ name: `Device ${i}` }));
	await studio.close();
}

/** What is said where it is not opened, and that nothing was written to it. */
async function refusal(): Promise<Problem> {
	const before = readFileSync(file);
	const problem = await openStudio(file).then(
		(studio) => studio.close().then(() => null),
		(error: unknown) => error
	);
	expect(problem).toBeInstanceOf(Problem);
	expect(readFileSync(file).equals(before)).toBe(true);
	return problem as Problem;
}

async function devicesOf(): Promise<number> {
	const studio = await openStudio(file);
	try {
		return (await listDevices(studio, { archived: true })).length;
	} finally {
		await studio.close();
	}
}

describe('a studio’s file', () => {
	it('that is empty where a studio was is no new studio', async () => {
		await studioOf(2);
		truncateSync(file, 0);
		expect(await refusal()).toMatchObject({ code: 'studio.damaged' });
		expect((await refusal()).message).toContain('it is empty, where a studio was');
	});

	it('whose first start was broken off is gone on with', async () => {
		await studioOf(1);
		rmSync(file);
		// As a kill leaves it before anything was written, and in the middle of its migrations.
		writeFileSync(`${file}.making`, '');
		writeFileSync(file, '');
		expect(await devicesOf()).toBe(0);
		expect(existsSync(`${file}.making`)).toBe(false);
	});

	it('of a newer version is refused with that said', async () => {
		await studioOf(1);
		const studio = await openStudio(file);
		await studio.sequelize.query(`INSERT INTO migrations (name) VALUES ('9000-from-tomorrow')`);
		await studio.close();
		const problem = await refusal();
		expect(problem).toMatchObject({ code: 'studio.newer' });
		expect(problem.message).toContain('9000-from-tomorrow');
	});

	it.each([
		['another file', () => writeFileSync(file, 'A letter to my aunt, of some length.')],
		['its first page overwritten', () => writeFileSync(file, readFileSync(file).fill(0x5a, 100, 4096))],
		['cut off in its first page', () => truncateSync(file, 700)]
	])('damaged (%s) is called so, and left as it is', async (_what, damage) => {
		await studioOf(1);
		damage();
		const problem = await refusal();
		expect(problem.code).toBe('studio.damaged');
		expect(problem.remedy).toContain('No whole copy stands beside it');
	});

	it('damaged beside a whole copy is brought back from it; what was the studio is kept', async () => {
		await studioOf(3);
		const studio = await openStudio(file);
		expect(await keepCopy(studio)).toBe('kept');
		expect(await keepCopy(studio)).toBe('young');
		await addDevice(studio, deviceSchema.parse({ name: 'Later' }));
		await studio.close();
		// A copy that is no whole one is not offered, however new it is.
		writeFileSync(`${file}.copy-before`, 'no studio');
		const hurt = readFileSync(file).fill(0, 0, 4096);
		writeFileSync(file, hurt);
		expect((await refusal()).remedy).toContain('put-back');
		const { copy, aside } = await putBack(file, new Date('2026-01-02T03:04:05Z'));
		expect(copy).toBe(`${file}.copy`);
		expect(readFileSync(aside!).equals(hurt)).toBe(true);
		expect(await devicesOf()).toBe(3);
		await expect(putBack(file, new Date(), 'nothing')).rejects.toMatchObject({ code: 'studio.no-copy' });
	});

	it('is left as it is where a copy could not be put back, and takes one that is kept from being written', async () => {
		await studioOf(2);
		const studio = await openStudio(file);
		expect(await keepCopy(studio)).toBe('kept');
		await addDevice(studio, deviceSchema.parse({ name: 'Later' }));
		await studio.close();
		chmodSync(`${file}.copy`, 0o444);
		const [before, now] = [readFileSync(file), new Date('2026-01-02T03:04:05Z')];
		// As where the disk runs full: what is there cannot be copied aside.
		const aside = `${file}.aside-2026-01-02T03-04-05-000Z`;
		mkdirSync(aside);
		await expect(putBack(file, now)).rejects.toThrow();
		rmSync(aside, { recursive: true, force: true });
		expect(readFileSync(file).equals(before)).toBe(true);
		expect(existsSync(`${file}.putting`)).toBe(false);
		await putBack(file, now);
		expect(statSync(file).mode & 0o200).toBe(0o200);
		expect(await devicesOf()).toBe(2);
	});

	/** Leaves the file as a machine does that stops in the middle of a write: half of it there, and what takes it back beside it. */
	async function cutOff(): Promise<void> {
		const half = join(folder, 'half.sqlite');
		copyFileSync(file, half);
		const writing = new sqlite3.Database(half);
		await new Promise<void>((done, failed) =>
			writing.exec(
				`PRAGMA journal_mode=DELETE; PRAGMA cache_size=1; BEGIN IMMEDIATE;
				 UPDATE devices SET notes = hex(randomblob(20000));`,
				(error) => (error ? failed(error) : done())
			)
		);
		for (const part of ['', '-journal']) copyFileSync(half + part, file + part);
		await new Promise((done) => writing.close(done));
		for (const part of ['', '-journal']) rmSync(half + part, { force: true });
	}

	it('that was cut off in the middle of a write is as it was before it, where a copy is put back as well', async () => {
		await studioOf(3);
		const studio = await openStudio(file);
		expect(await keepCopy(studio)).toBe('kept');
		await studio.close();
		await cutOff();
		const notes = async (of = file) => {
			const opened = await openStudio(of);
			const devices = await listDevices(opened);
			await opened.close();
			return devices.map((device) => device.notes);
		};
		expect(await notes()).toEqual(['', '', '']);
		await cutOff();
		const { aside } = await putBack(file, new Date('2026-01-02T03:04:05Z'));
		expect(existsSync(`${file}-journal`)).toBe(false);
		expect(await notes()).toEqual(['', '', '']);
		// What was the studio is as it was before that write, and needs nothing beside it.
		expect(existsSync(`${aside}-journal`)).toBe(false);
		expect(await notes(aside!)).toEqual(['', '', '']);
	});

	it('is copied once a day, the copy before kept; a damaged or an empty studio takes no copy’s place', async () => {
		await studioOf(1);
		const copy = `${file}.copy`;
		let studio = await openStudio(file);
		await keepCopy(studio);
		const first = readFileSync(copy);
		const old = new Date(Date.now() - 30 * 3600 * 1000);
		utimesSync(copy, old, old);
		await addDevice(studio, deviceSchema.parse({ name: 'Second' }));
		expect(await keepCopy(studio)).toBe('kept');
		expect(readFileSync(`${copy}-before`).equals(first)).toBe(true);
		utimesSync(copy, old, old);
		await studio.sequelize.query('DELETE FROM devices');
		expect(await keepCopy(studio)).toBe('empty');
		await studio.close();
		copyFileSync(copy, file);
		studio = await openStudio(file);
		const pages = readFileSync(file);
		// A page in the middle, not the one that says what there is.
		pages.fill(0xff, 4096 * 6, 4096 * 6 + 200);
		writeFileSync(file, pages);
		const kept = readFileSync(copy);
		expect(await keepCopy(studio).catch((error: unknown) => String(error))).toMatch(/damaged|malformed/);
		expect(readFileSync(copy).equals(kept)).toBe(true);
		expect(readdirSync(folder).filter((name) => name.includes('.part'))).toEqual([]);
		await studio.close().catch(() => undefined);
	});

	it('is one server’s alone: the next is told who has it, and gets it when that one is gone', async () => {
		await studioOf(1);
		const giveBack = await haveAlone(file, 'process 7, at http://127.0.0.1:1');
		await expect(haveAlone(file, 'another')).rejects.toMatchObject({
			code: 'studio.taken',
			message: 'This studio is open already: process 7, at http://127.0.0.1:1.'
		});
		await expect(putBack(file, new Date())).rejects.toMatchObject({ code: 'studio.taken' });
		// A command shares it.
		expect(await devicesOf()).toBe(1);
		await giveBack();
		await (
			await haveAlone(file, 'another')
		)();
	});

	it('is not kept from a server by that same server, where it could not write who has it', async () => {
		await studioOf(1);
		// As on a full disk: the lock is had, and the next file cannot be written.
		mkdirSync(`${file}.holder`);
		await expect(haveAlone(file, 'this one')).rejects.toThrow(/EISDIR/);
		rmSync(`${file}.holder`, { recursive: true });
		await (
			await haveAlone(file, 'this one')
		)();
	});
});
