import type { Sequelize } from 'sequelize';
import * as first from './0001-first-slice';
import * as heart from './0003-dump-heart';
import * as wiring from './0002-wiring';

/** In the order in which they are applied. A migration that has landed is never edited. */
export const migrations: { name: string; up(sequelize: Sequelize): Promise<void> }[] = [
	{ name: '0001-first-slice', up: first.up },
	{ name: '0002-wiring', up: wiring.up },
	{ name: '0003-dump-heart', up: heart.up }
];
