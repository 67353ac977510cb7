import { DataTypes, Model, type ModelStatic, type Sequelize } from 'sequelize';
import type { Device } from '../../core/gear';
import type { Setting } from '../../core/drawer';
import type { Cable, Wiring } from '../../core/rig';
import type { Fault } from '../../core/bench';

// Sequelize writes into the objects that describe columns: each column gets one of its own.
const text = () => ({ type: DataTypes.TEXT, allowNull: false });
const maybe = () => ({ type: DataTypes.TEXT, allowNull: true });
const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });
const key = () => ({ type: DataTypes.TEXT, primaryKey: true });

/** A column that holds JSON as text. */
const json = (field: string) => ({
	type: DataTypes.TEXT,
	allowNull: true,
	get(this: Model): unknown {
		const stored: unknown = this.getDataValue(field);
		return typeof stored === 'string' ? JSON.parse(stored) : null;
	},
	set(this: Model, value: unknown): void {
		this.setDataValue(field, value === null ? null : JSON.stringify(value));
	}
});

/** Locks name ports of the rig; channels are those of parts that are not adjacent. */
export type StoredWiring = Wiring & { channels?: number[] };

export interface DeviceRow extends Device {
	createdAt: string;
	/** What it does with messages, and the channels of its parts; `null` until somebody says so. */
	wiring: StoredWiring | null;
	/** What no dump holds, as the musician wrote it down. */
	settings: Setting[] | null;
}
export interface CableRow {
	fromDevice: string;
	fromPort: string;
	toDevice: string;
	toPort: string;
	length: number | null;
	adapter: Cable['adapter'] | null;
}
export interface RigFactRow {
	/** `host`: of studios from before there could be several. */
	key: 'host' | 'hosts' | 'layers' | 'limits' | 'revision';
	value: unknown;
}
export interface BenchUnitRow {
	id: string;
	name: string;
	profileId: string;
	settings: Record<string, number>;
	firmware: [number, number];
	memory: Buffer;
	faults: Fault[];
	revision: number;
}
type Of<T extends object> = ModelStatic<Model<T, Partial<T>>>;

export interface Models {
	devices: Of<DeviceRow>;
	cables: Of<CableRow>;
	rigFacts: Of<RigFactRow>;
	benchUnits: Of<BenchUnitRow>;
}

/** The models of what a studio has few of. What grows with every backup is reached by the modules of `store`. */
export function defineModels(sequelize: Sequelize): Models {
	const options = (tableName: string) => ({ tableName, timestamps: false });
	return {
		devices: sequelize.define(
			'device',
			{
				id: key(),
				name: text(),
				maker: text(),
				model: text(),
				kind: text(),
				place: text(),
				serial: text(),
				firmware: text(),
				profileId: maybe(),
				deviceId: DataTypes.INTEGER,
				channel: DataTypes.INTEGER,
				ports: json('ports'),
				wiring: json('wiring'),
				settings: json('settings'),
				remindDays: DataTypes.INTEGER,
				batteryType: text(),
				batteryFitted: text(),
				batteryYears: DataTypes.REAL,
				forgets: text(),
				power: text(),
				notes: text(),
				benchUnit: maybe(),
				archivedAt: maybe(),
				createdAt: text()
			},
			options('devices')
		),
		cables: sequelize.define(
			'cable',
			{
				fromDevice: key(),
				fromPort: key(),
				toDevice: key(),
				toPort: key(),
				length: DataTypes.REAL,
				adapter: maybe()
			},
			options('cables')
		),
		rigFacts: sequelize.define('rigFact', { key: key(), value: json('value') }, options('rig_facts')),
		benchUnits: sequelize.define(
			'benchUnit',
			{
				id: key(),
				name: text(),
				profileId: text(),
				settings: json('settings'),
				firmware: json('firmware'),
				memory: DataTypes.BLOB,
				faults: json('faults'),
				revision: whole()
			},
			options('bench_units')
		)
	} as unknown as Models;
}

/** The plain row of a model instance, JSON columns parsed. */
export const plain = <T extends object>(instance: Model<T, Partial<T>>): T =>
	instance.get({ plain: true }) as T;
