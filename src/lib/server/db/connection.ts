import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { QueryTypes, Sequelize, Transaction } from 'sequelize';
import sqlite3 from 'sqlite3';
import { liveWorldSchema, type LiveWorld } from '../../core/drawer';
import { defineModels, type Models } from './models';
import { migrate } from './migrate';
import { migrations } from './migrations';
import { isTorn } from './damage';
import { damaged, judgeFile, noteMade } from './studio-file';
import { forget } from '../store/sql';
import { noWords, type Words } from '../store/words';

/** Every connection that Sequelize opens, one for each transaction too, is as careful as this. */
class CarefulDatabase extends sqlite3.Database {
	constructor(file: string, mode: number, opened: (error: Error | null) => void) {
		super(file, mode, (error) => {
			if (error) return opened(error);
			this.run('PRAGMA synchronous=FULL', opened);
		});
		this.configure('busyTimeout', 10_000);
	}

	/** Sequelize waits for none of those that it closes itself. */
	override close(closed?: (error: Error | null) => void): void {
		const ended = new Promise<void>((done) =>
			super.close((error) => {
				done();
				if (closed) closed(error);
				else if (error) this.emit('error', error);
			})
		);
		closing.add(ended);
		void ended.then(() => closing.delete(ended));
	}
}
/** Connections that are being closed. */
const closing = new Set<Promise<void>>();

/** What Sequelize's connections to SQLite are, and how they are had. */
interface Connections {
	connections: Record<string, sqlite3.Database>;
	getConnection(of: { uuid: string }): Promise<sqlite3.Database>;
}

/**
 * Write transactions, one at a time. Sequelize would open a connection for each and close it afterwards; here one of its
 * connections serves them all, with the statements that were prepared on it, until a transaction cannot be ended.
 */
function oneWriter(sequelize: Sequelize) {
	const connections = sequelize.connectionManager as unknown as Connections;
	let tail: Promise<unknown> = Promise.resolve();
	const shut = async (uuid: string) => {
		const connection = connections.connections[uuid];
		delete connections.connections[uuid];
		await forget(connection);
		await new Promise<void>((done, failed) => connection.close((error) => (error ? failed(error) : done())));
	};
	async function inTransaction<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
		const connection = await connections.getConnection({ uuid: WRITER });
		const step = (sql: string) =>
			new Promise<void>((done, failed) => connection.exec(sql, (error) => (error ? failed(error) : done())));
		const of = Transaction as unknown as new (sequelize: Sequelize, options: object) => Transaction;
		const told: (() => void)[] = [];
		const transaction = Object.assign(new of(sequelize, {}), {
			connection,
			// Nothing of Sequelize's own commits it.
			afterCommit: (then: () => void) => void told.push(then)
		});
		await step('BEGIN IMMEDIATE');
		try {
			const result = await work(transaction);
			await step('COMMIT');
			for (const then of told) then();
			return result;
		} catch (error) {
			await step('ROLLBACK').catch(() => shut(WRITER));
			throw error;
		} finally {
			// From here on it is refused.
			Object.assign(transaction, { finished: 'ended' });
		}
	}
	return {
		write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
			const mine = tail.then(() => inTransaction(work));
			tail = mine.catch(() => undefined);
			return mine;
		},
		async close() {
			await tail;
			await Promise.all(closing);
			// One after another: the last one puts the log into the file, and two at once would each leave it to the other.
			for (const uuid of Object.keys(connections.connections)) await shut(uuid);
			await sequelize.close();
		}
	};
}

const WRITER = 'writer';

/** One studio: one SQLite file, behind one door. */
export interface Studio {
	readonly file: string;
	readonly sequelize: Sequelize;
	readonly models: Models;
	/** The time, as a parameter: the demo's history is made with a clock of its own. */
	now: () => Date;
	/** Milliseconds from an arbitrary start, which no calendar sets back: tells who was heard lately. */
	clock: () => number;
	/** When the page of each running transfer was heard last, by that clock. */
	readonly heardAt: Map<string, number>;
	/** Texts that rows tell by number, as far as they were read. */
	readonly words: Words;
	/** Whether its devices stand on the bench, all of them, or in a real room. */
	world: LiveWorld;
	/** Runs `work` in a write transaction, one at a time: all of it happens, or nothing. */
	write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>;
	close(): Promise<void>;
}

/**
 * Opens a studio's file, making or migrating it first (a copy of the old file is put aside).
 * WAL mode, foreign keys on, `synchronous=FULL`: what was acknowledged survives a power cut.
 * @throws Problem `studio.damaged`, `studio.newer`
 */
export async function openStudio(file: string): Promise<Studio> {
	mkdirSync(dirname(file), { recursive: true });
	await judgeFile(
		file,
		migrations.map(({ name }) => name)
	);
	const sequelize = new Sequelize({
		dialect: 'sqlite',
		storage: file,
		logging: false,
		dialectModule: { ...sqlite3, Database: CarefulDatabase },
		transactionType: Transaction.TYPES.IMMEDIATE
	});
	let world: LiveWorld;
	try {
		await sequelize.query('PRAGMA journal_mode=WAL');
		await migrate(sequelize, file);
		world = await readWorld(sequelize);
	} catch (error) {
		await sequelize.close().catch(() => undefined);
		if (isTorn(error)) await damaged(file, 'its structure cannot be read', true);
		throw error;
	}
	noteMade(file);
	return {
		file,
		sequelize,
		models: defineModels(sequelize),
		now: () => new Date(),
		clock: () => performance.now(),
		heardAt: new Map(),
		world,
		words: noWords(),
		...oneWriter(sequelize)
	};
}

/** The world of a studio: hardware, unless it was made as a studio on the bench. */
async function readWorld(sequelize: Sequelize): Promise<LiveWorld> {
	const [row] = await sequelize.query<{ value: string }>(
		`SELECT value FROM studio_facts WHERE key = 'world'`,
		{
			type: QueryTypes.SELECT
		}
	);
	return row ? liveWorldSchema.parse(JSON.parse(row.value)) : 'hardware';
}
