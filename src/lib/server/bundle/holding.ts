import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import type { BundleDifference } from '../../core/drawer';
import type { Studio } from '../db/connection';
import type { AddFile } from '../zip';

/** A bundle that is being made. */
export interface Making {
	studio: Studio;
	add: AddFile;
	/** Something is not whole, and so is not in the bundle. */
	left(what: string, says: string): void;
}

/** A difference as it is found. */
export type FoundDifference = Omit<BundleDifference, 'key' | 'hereAt' | 'thereAt'> &
	Partial<Pick<BundleDifference, 'hereAt' | 'thereAt'>>;

/** A bundle that is being taken over, once its devices and versions are here. */
export interface Taking {
	studio: Studio;
	transaction: Transaction;
	/** No device was here before: nothing of this studio can be overruled. */
	fresh: boolean;
	/** Ids of what is here now. */
	devices: ReadonlySet<string>;
	/** Of these, the devices that came in just now. */
	added: ReadonlySet<string>;
	versions: ReadonlySet<string>;
	/** A file of the archive. @throws Problem `bundle.invalid` where it is missing or damaged */
	read(file: string): Promise<Uint8Array>;
	/** Something of the bundle is damaged, and is not taken. */
	lost(what: string, says: string): void;
	/**
	 * Notes that both differ.
	 * @param contents what each has
	 * @returns whether the bundle's is to be taken: somebody chose it
	 */
	takes(difference: FoundDifference, contents: { here: unknown; there: unknown }): boolean;
}

/** A part of what a studio holds that a bundle carries besides devices and versions: a file of rows. */
export interface Holding<Row = unknown> {
	/** Its file is `studio/NAME.json`. */
	name: string;
	/** What it is called: “Snapshots”. */
	title: string;
	/** The tables of the studio's file that it carries. */
	tables: readonly string[];
	/** What a row of the bundle is. */
	schema: z.ZodType<Row>;
	rows(making: Making): Promise<Row[]>;
	/** Brings rows in. @returns how many came in, or changed what is here */
	take(taking: Taking, rows: readonly Row[]): Promise<number>;
}
