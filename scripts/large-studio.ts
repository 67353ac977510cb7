import type { Device } from '../src/lib/core/gear';
import { between, factoryState, seededRandom, tweak } from '../src/lib/core/bench';
import { deviceSchema } from '../src/lib/core/gear';
import { makeSlot, messagesFor, type Profile } from '../src/lib/core/profile';
import { openStudio, type Studio } from '../src/lib/server/db/connection';
import { addDevice } from '../src/lib/server/gear';
import { all, one, run } from '../src/lib/server/store/sql';
import { numbersOf } from '../src/lib/server/store/words';
import { backUp } from './bench-store';

/** What a large studio is made of: every version of every device changes all slots. */
export interface Size {
	devices: number;
	versionsEach: number;
}

const HOUR = 3_600_000;

/**
 * A studio in a file, for measuring: one device with a history made by the app itself, and as many others like it,
 * with versions, stays, sounds, contents and transfers of their own. Contents of the others are only as long as real ones.
 */
export async function largeStudio(
	file: string,
	profile: Profile,
	{ devices, versionsEach }: Size
): Promise<{ studio: Studio; device: Device }> {
	const studio = await openStudio(file);
	const random = seededRandom(21);
	const device = await addDevice(
		studio,
		deviceSchema.parse({ name: 'Large 0', profileId: profile.id, deviceId: 0 })
	);
	const [area] = profile.areas;
	const { [area.id]: memory } = factoryState(profile, random).memory;
	const from = Date.UTC(2016, 0, 1);
	let at = from;
	studio.now = () => new Date(at);
	for (let version = 0; version < versionsEach; version++) {
		at = from + version * 36 * HOUR;
		for (let slot = 0; slot < memory.length; slot++)
			memory[slot] = tweak(profile, area.id, memory[slot], random);
		// Now and then sounds change places.
		const [a, b] = [between(random, 0, memory.length - 1), between(random, 0, memory.length - 1)];
		[memory[a], memory[b]] = [memory[b], memory[a]];
		const slots = memory.map((bytes, index) => makeSlot(profile, area.id, index, bytes));
		await backUp(studio, device, messagesFor(profile, slots, { deviceId: 0 }), area.id);
	}
	await multiply(studio, device, devices - 1);
	return { studio, device };
}

/** Adds devices like one, each with all that grew with its backups. */
async function multiply(studio: Studio, device: Device, times: number): Promise<void> {
	const ids = Array.from({ length: times }, (_, i) => `copy-${i + 1}`);
	const most = async (table: string, key: string) =>
		(await one<{ n: number }>(studio, `SELECT MAX(${key}) + 1 AS n FROM ${table}`))!.n;
	const first = {
		versions: await most('versions', 'seq'),
		objects: await most('objects', 'id'),
		records: await most('records', 'id'),
		transfers: await most('transfers', 'seq')
	};
	/** The number of a copy: as if all had been stored in the order of time. */
	const copied = (table: keyof typeof first, key: string) =>
		`(${first[table]} + ${key} * ${times + 1} + c.k)`;
	const columns = await all<{ name: string }>(studio, `SELECT name FROM pragma_table_info('devices')`);
	const shared = columns.map(({ name }) => name).filter((name) => name !== 'id' && name !== 'name');
	await studio.write(async (transaction) => {
		const number = await numbersOf(studio, [device.id, ...ids], transaction);
		const own = number(device.id);
		// Each copy: which it is, the number of its device, and its id.
		const copies = JSON.stringify(ids.map((id, i) => [i + 1, number(id), id]));
		const COPY = `(SELECT value ->> 0 AS k, value ->> 1 AS device, value ->> 2 AS id FROM json_each(?1)) c`;
		const step = (sql: string) => run(studio, sql, [copies], transaction);
		await step(`INSERT INTO devices (id, name, ${shared.join(', ')})
			SELECT c.id, 'Large ' || c.k, ${shared.map((name) => `d.${name}`).join(', ')} FROM ${COPY} JOIN devices d ON d.id = '${device.id}'`);
		await step(`INSERT INTO objects (id, hash, size, form, base, place, data)
			SELECT ${copied('objects', 'o.id')}, randomblob(32), o.size, o.form, ${copied('objects', 'o.base')}, o.place, o.data FROM objects o CROSS JOIN ${COPY} ORDER BY o.id, c.k`);
		await step(`INSERT INTO records (id, kind, hash, name, form, base, place, data)
			SELECT ${copied('records', 'r.id')}, r.kind, randomblob(32), r.name, r.form, ${copied('records', 'r.base')}, r.place, r.data FROM records r CROSS JOIN ${COPY} ORDER BY r.id, c.k`);
		await step(`INSERT INTO versions (seq, id, device, profile, revision, kind, firmware, takenAt, since, world, proof, coverage, verified,
				missing, bytes, slots, changed, title, note, tags, pinned)
			SELECT ${copied('versions', 'v.seq')}, v.id || '.' || c.k, c.device, v.profile, v.revision, v.kind, v.firmware, v.takenAt + c.k, v.since,
				v.world, v.proof, v.coverage, v.verified, v.missing, v.bytes, v.slots, v.changed, v.title, v.note, v.tags, v.pinned
			FROM versions v CROSS JOIN ${COPY} WHERE v.device = ${own} ORDER BY v.seq, c.k`);
		await step(`INSERT INTO version_messages (version, position, object, readAt)
			SELECT ${copied('versions', 'm.version')}, m.position, ${copied('objects', 'm.object')}, m.readAt FROM version_messages m CROSS JOIN ${COPY} ORDER BY m.version, m.position, c.k`);
		await step(`INSERT INTO slot_runs (device, world, area, slot, label, record, version, fromAt, toAt, current)
			SELECT c.device, r.world, r.area, r.slot, r.label, ${copied('records', 'r.record')}, ${copied('versions', 'r.version')},
				r.fromAt + c.k, r.toAt + c.k, r.current FROM slot_runs r CROSS JOIN ${COPY} WHERE r.device = ${own} ORDER BY r.id, c.k`);
		await step(`INSERT INTO transfers (seq, id, device, direction, scope, status, kind, world, title, startedAt, tookMs, version,
				received, predictedMs, distrusted, resumed)
			SELECT ${copied('transfers', 't.seq')}, t.id || '.' || c.k, c.device, t.direction, t.scope, t.status, t.kind, t.world, t.title,
				t.startedAt + c.k, t.tookMs, ${copied('versions', 't.version')}, t.received, t.predictedMs, t.distrusted, t.resumed
			FROM transfers t CROSS JOIN ${COPY} WHERE t.device = ${own} ORDER BY t.seq, c.k`);
		await step(`INSERT INTO transfer_trace (transfer, part, form, packed)
			SELECT ${copied('transfers', 'p.transfer')}, p.part, p.form, p.packed FROM transfer_trace p CROSS JOIN ${COPY} ORDER BY p.transfer, c.k`);
		await step(`INSERT INTO knowledge (deviceId, world, known)
			SELECT c.id, k.world, REPLACE(k.known, v.id, v.id || '.' || c.k) FROM ${COPY}, knowledge k
			JOIN versions v ON v.seq = (SELECT MAX(seq) FROM versions WHERE device = ${own}) WHERE k.deviceId = '${device.id}'`);
	});
	await studio.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
}
