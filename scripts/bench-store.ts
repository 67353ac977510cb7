import { execFileSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, statSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { deflateRawSync } from 'node:zlib';
import sqlite3 from 'sqlite3';
import { between, factoryState, seededRandom, tweak } from '../src/lib/core/bench';
import { retentionSchema } from '../src/lib/core/drawer';
import { deviceSchema, type Device } from '../src/lib/core/gear';
import { toHex } from '../src/lib/core/midi';
import { makeSlot, messagesFor, type Profile } from '../src/lib/core/profile';
import { makeBundle } from '../src/lib/server/bundle/make';
import { checkStudio } from '../src/lib/server/check';
import { copyStudio } from '../src/lib/server/copy';
import { openStudio, type Studio } from '../src/lib/server/db/connection';
import { listVersions, openVersion } from '../src/lib/server/drawer';
import { addDevice } from '../src/lib/server/gear';
import { previewRetention } from '../src/lib/server/keeping';
import { today } from '../src/lib/server/today';
import { appendMessages, appendTrace, beginTransfer, finishTransfer } from '../src/lib/server/transfers';
import { n, type Row } from './bench-rows';
import { measured } from './bench-waiting';
import { collect } from './collect';

const seconds = async (work: () => Promise<unknown>): Promise<number> => {
	const start = performance.now();
	await work();
	return (performance.now() - start) / 1000;
};

/** A device whose memory is edited a little between backups, a dump each time. */
class Edited {
	readonly #random = seededRandom(3);
	readonly #memory;
	constructor(private readonly profile: Profile) {
		this.#memory = factoryState(profile, seededRandom(9)).memory;
	}

	next(): Uint8Array[] {
		const [area] = this.profile.areas;
		const records = this.#memory[area.id];
		for (let i = between(this.#random, 1, 3); i > 0; i--) {
			const at = between(this.#random, 0, records.length - 1);
			records[at] = tweak(this.profile, area.id, records[at], this.#random);
		}
		return messagesFor(
			this.profile,
			records.map((bytes, index) => makeSlot(this.profile, area.id, index, bytes)),
			{ deviceId: 0 }
		);
	}
}

/** A backup as a page leaves it: begun, received, logged, ended. */
export async function backUp(
	studio: Studio,
	device: Device,
	dump: readonly Uint8Array[],
	area = 'programs'
): Promise<void> {
	const { id } = await beginTransfer(studio, {
		deviceId: device.id,
		direction: 'capture',
		world: 'hardware',
		scope: { kind: 'area', area },
		predictedMs: 1000
	});
	const messages = dump.map((bytes) => toHex(bytes));
	await appendMessages(studio, id, { position: 0, messages });
	await appendTrace(studio, id, {
		part: 0,
		lines: [
			{ atMs: 0, way: 'sent', hex: 'f07e7f0601f7', says: 'Identity request' },
			{ atMs: 4, way: 'received', hex: 'f07e00060200', says: 'Identity reply' },
			...messages.flatMap((hex, i) => [
				{ atMs: 10 + i, way: 'sent' as const, hex: 'f07d210010f7', says: 'Request' },
				{ atMs: 20 + i, way: 'received' as const, hex, says: 'Bank dump' }
			])
		]
	});
	await finishTransfer(studio, id, { status: 'complete', reason: null, firmware: '1.04' });
}

/** Bare inserts of the same bytes, packed as well as can be had for nothing, each durable by itself. */
async function bareInserts(file: string, dumps: readonly Uint8Array[]): Promise<number> {
	const database = new sqlite3.Database(file);
	const run = (sql: string, values: unknown[] = []) =>
		new Promise<void>((done, failed) =>
			database.run(sql, values, (error) => (error ? failed(error) : done()))
		);
	await run('PRAGMA journal_mode=WAL');
	await run('PRAGMA synchronous=FULL');
	await run('CREATE TABLE dumps (id INTEGER PRIMARY KEY, data BLOB NOT NULL)');
	const packed = dumps.map((bytes) => deflateRawSync(bytes));
	const took = await seconds(async () => {
		for (const data of packed) await run('INSERT INTO dumps (data) VALUES (?)', [data]);
	});
	await new Promise((done) => database.close(done));
	return dumps.length / took;
}

/** What git makes of the same files, one commit each, in bytes; null where git is not there. */
function gitSize(folder: string, dumps: readonly Uint8Array[]): number | null {
	const git = (args: string[], input: number | 'ignore' = 'ignore') =>
		execFileSync('git', args, { cwd: folder, stdio: [input, 'pipe', 'ignore'] });
	try {
		git(['init', '-q']);
		const file = join(folder, 'history');
		const out = openSync(file, 'w');
		dumps.forEach((bytes, i) => {
			writeSync(out, `blob\nmark :${i + 1}\ndata ${bytes.length}\n`);
			writeSync(out, bytes);
			writeSync(
				out,
				`\ncommit refs/heads/main\ncommitter b <b@b> ${i} +0000\ndata 1\nb\nM 100644 :${i + 1} dump.syx\n\n`
			);
		});
		closeSync(out);
		const history = openSync(file, 'r');
		git(['fast-import', '--quiet'], history);
		closeSync(history);
		git(['gc', '-q', '--aggressive', '--prune=now']);
		return 1024 * Number(/size-pack: (\d+)/.exec(git(['count-objects', '-v']).toString())![1]);
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
		throw error;
	}
}

/** Reads a stream to its end: how long, how much, and by how much memory grew at most. */
async function readThrough(stream: Readable): Promise<{ seconds: number; bytes: number; peak: number }> {
	const used = () => {
		const { heapUsed, external, arrayBuffers } = process.memoryUsage();
		return heapUsed + external + arrayBuffers;
	};
	collect();
	const before = used();
	let [bytes, peak] = [0, 0];
	const took = await seconds(async () => {
		for await (const chunk of stream) {
			bytes += (chunk as Buffer).length;
			peak = Math.max(peak, used() - before);
		}
	});
	return { seconds: took, bytes, peak };
}

/** Size, speed and reach of what is kept. */
export async function store(row: Row, profile: Profile, versions: number): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'bench-store-'));
	const file = join(folder, 'studio.sqlite');
	const studio = await openStudio(file);
	const edited = new Edited(profile);
	const { id } = await addDevice(studio, deviceSchema.parse({ name: 'Large', deviceId: 0 }));
	await studio.models.devices.update({ profileId: profile.id }, { where: { id } });
	const device = {
		...deviceSchema.parse({ name: 'Large', deviceId: 0, profileId: profile.id }),
		id
	} as Device;
	const dumps = Array.from({ length: versions }, () => edited.next());
	const raw = dumps.flat().reduce((sum, { length }) => sum + length, 0);
	let minute = 0;
	studio.now = () => new Date(Date.UTC(2016, 0, 1) + 60_000 * 200 * minute);
	const took = await seconds(async () => {
		for (const dump of dumps) {
			minute++;
			await backUp(studio, device, dump);
		}
	});
	await studio.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
	const size = statSync(file).size;
	const whole = dumps.map((dump) => dump[0]);
	const bare = await bareInserts(join(folder, 'bare.sqlite'), whole.slice(0, Math.min(1000, versions)));
	const git = gitSize(mkdtempSync(join(folder, 'git-')), whole.slice(0, Math.min(2000, versions)));
	row(
		`Keeping ${versions.toLocaleString('en')} backups of ${n(raw / versions / 1000, 0)} kB, share of the raw sum`,
		`${n((100 * size) / raw, 2)} %`,
		git === null
			? 'git is not here'
			: `git gc --aggressive of ${Math.min(2000, versions)}: ${n((100 * git) / ((raw * Math.min(2000, versions)) / versions), 2)} %`
	);
	row(
		'Storing, backups/s',
		n(versions / took),
		`bare inserts of the packed bytes ${n(bare)}/s: ${n(bare / (versions / took), 1)} × as many`
	);
	const listed = await listVersions(studio, device.id);
	const some = listed.filter((_, i) => i % Math.max(1, Math.floor(listed.length / 50)) === 0);
	await openVersion(studio, some[0].id);
	const opening = await seconds(async () => {
		for (const version of some) await openVersion(studio, version.id);
	});
	row('Opening a version, ms', n((1000 * opening) / some.length));
	row('Today, ms', n(1000 * (await seconds(() => today(studio)))));
	const preview = await seconds(() => previewRetention(studio, retentionSchema.parse({})));
	row(`Retention preview over ${versions.toLocaleString('en')} versions, s`, n(preview, 2));
	let bundle = { seconds: 0, bytes: 0, peak: 0 };
	const bundled = await measured(async () => {
		bundle = await readThrough((await makeBundle(studio)).stream);
	}, 1);
	row(
		'Bundle of all, MB/s of its raw sum',
		n(raw / 1e6 / bundle.seconds),
		`${n(bundle.bytes / 1e6, 0)} MB; memory at its peak ${n(bundle.peak / 1e6, 0)} MB above the start (limit 200); kept others waiting ${n(bundled.blocked)} ms`
	);
	const copy = await readThrough((await copyStudio(studio)).stream);
	row(
		'Copy of the studio, MB/s',
		n(copy.bytes / 1e6 / copy.seconds),
		`memory ${n(copy.peak / 1e6, 0)} MB above the start`
	);
	let damaged = 0;
	const checked = await measured(async () => {
		damaged = (await checkStudio(studio)).damage.length;
	}, 1);
	row(
		'Check of all, versions/s',
		n((1000 * versions) / checked.ms, 0),
		`${damaged} damaged; kept others waiting ${n(checked.blocked)} ms`
	);
	const parts = await studio.sequelize
		.query('SELECT name, SUM(pgsize) AS bytes FROM dbstat GROUP BY name ORDER BY bytes DESC LIMIT 14')
		.catch(() => [[]]);
	for (const { name, bytes } of parts[0] as { name: string; bytes: number }[])
		row(`  ${name}, bytes a backup`, n(bytes / versions, 0));
	await studio.close();
	rmSync(folder, { recursive: true, force: true });
}
