import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { QueryTypes, Sequelize, Transaction } from 'sequelize';
import sqlite3 from 'sqlite3';
import { liveWorldSchema, type LiveWorld } from '../../core/drawer';
import { defineModels, type Models } from './models';
import { migrate } from './migrate';
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
}

type Connection = sqlite3.Database & { uuid?: string };

/** What Sequelize asks of its dialect's connections. */
interface Manager {
	connections: Record<string, Connection>;
	getConnection(of?: { uuid?: string }): Promise<Connection>;
	releaseConnection(connection: Connection): void;
	destroyConnection(connection: Connection): void;
}

/**
 * Sequelize opens a connection for each transaction and closes it afterwards. Here transactions run one at a time: one
 * connection serves them all, with the statements that were prepared on it, until one cannot be ended.
 * @returns what closes every connection
 */
function oneWriter(sequelize: Sequelize): () => Promise<void> {
	const manager = sequelize.connectionManager as unknown as Manager;
	const open = manager.getConnection.bind(manager);
	let idle: Connection | null = null;
	const shut = async (connection: Connection) => {
		await forget(connection);
		await new Promise<void>((done, failed) => connection.close((error) => (error ? failed(error) : done())));
	};
	Object.assign(manager, {
		getConnection(of: { uuid?: string } = {}) {
			if (!of.uuid || of.uuid === 'default' || !idle) return open(of);
			const writer = idle;
			idle = null;
			manager.connections[of.uuid] = writer;
			return Promise.resolve(writer);
		},
		releaseConnection(connection: Connection) {
			if (!connection.uuid) return;
			delete manager.connections[connection.uuid];
			if (idle) void shut(connection);
			else idle = connection;
		},
		destroyConnection(connection: Connection) {
			if (connection.uuid) delete manager.connections[connection.uuid];
			void shut(connection);
		}
	} satisfies Partial<Manager>);
	return async () => {
		const all = [...Object.values(manager.connections), ...(idle ? [idle] : [])];
		idle = null;
		manager.connections = {};
		await Promise.all(all.map(shut));
		await sequelize.close();
	};
}

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
 */
export async function openStudio(file: string): Promise<Studio> {
	mkdirSync(dirname(file), { recursive: true });
	const sequelize = new Sequelize({
		dialect: 'sqlite',
		storage: file,
		logging: false,
		dialectModule: { ...sqlite3, Database: CarefulDatabase },
		transactionType: Transaction.TYPES.IMMEDIATE
	});
	const shut = oneWriter(sequelize);
	await sequelize.query('PRAGMA journal_mode=WAL');
	await migrate(sequelize, file);
	let tail: Promise<unknown> = Promise.resolve();
	return {
		file,
		sequelize,
		models: defineModels(sequelize),
		now: () => new Date(),
		clock: () => performance.now(),
		heardAt: new Map(),
		world: await readWorld(sequelize),
		words: noWords(),
		write(work) {
			const mine = tail.then(() => sequelize.transaction(work));
			tail = mine.catch(() => undefined);
			return mine;
		},
		async close() {
			await tail;
			await shut();
		}
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
