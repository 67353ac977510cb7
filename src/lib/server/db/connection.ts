import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { QueryTypes, Sequelize, Transaction } from 'sequelize';
import sqlite3 from 'sqlite3';
import { liveWorldSchema, type LiveWorld } from '../../core/drawer';
import { defineModels, type Models } from './models';
import { migrate } from './migrate';

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
		write(work) {
			const mine = tail.then(() => sequelize.transaction(work));
			tail = mine.catch(() => undefined);
			return mine;
		},
		async close() {
			await tail;
			await sequelize.close();
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
