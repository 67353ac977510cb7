import type { Sequelize } from 'sequelize';
import * as first from './0001-first-slice';

/** In the order in which they are applied. A migration that has landed is never edited. */
export const migrations: { name: string; up(sequelize: Sequelize): Promise<void> }[] = [
	{ name: '0001-first-slice', up: first.up }
];
