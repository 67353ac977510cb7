import { z } from 'zod';
import {
	cableSchema,
	catalogueIds,
	changesBetween,
	hostSchema,
	keepPorts,
	rigFileSchema,
	wiringSchema,
	type Rig
} from '../../../core/rig';
import { changeRigIn, readStudioRig, wiringOf } from '../../rig';
import type { Holding, Taking } from '../holding';
import { id } from '../pieces';

const rowSchema = z.strictObject({
	/** The gear that it is about: wiring of other gear is left alone. */
	devices: z.array(
		z.strictObject({
			id,
			wiring: wiringSchema,
			channels: z.array(z.number().int().min(1).max(16)).optional()
		})
	),
	cables: z.array(cableSchema),
	hosts: z.array(hostSchema),
	layers: z.array(z.tuple([id, id])),
	limits: rigFileSchema.shape.limits
});
type Row = z.output<typeof rowSchema>;

const wired = ({ cables, hosts }: Pick<Rig, 'cables' | 'hosts'>) => cables.length + hosts.length > 0;

const told = (rig: Rig): Row => ({
	devices: rig.devices.map((device) => {
		const channels = rig.settings.find((setting) => setting.device === device.id)?.channels;
		return { id: device.id, wiring: wiringOf(device), ...(channels ? { channels } : {}) };
	}),
	cables: rig.cables,
	hosts: rig.hosts,
	layers: rig.layers,
	limits: rig.limits
});

/** What of wiring counts, whatever order it was written in. */
const content = (rig: Rig) => {
	const { devices, cables, layers, ...rest } = told(rig);
	const sorted = (list: readonly unknown[]) => list.map((one) => JSON.stringify(one)).sort();
	return { devices: sorted(devices), cables: sorted(cables), layers: sorted(layers), ...rest };
};

const says = (rig: Rig) =>
	`${rig.cables.length} cables, ${rig.hosts.length === 1 ? 'one host' : `${rig.hosts.length} hosts`}`;

/** Today's gear, wired as the bundle says; what is not in the bundle keeps its wiring. */
function wiredAs(rig: Rig, row: Row): Rig {
	const sockets = new Set(rig.devices.flatMap(({ ports }) => ports.map(({ id }) => id)));
	const theirs = new Map(row.devices.map((device) => [device.id, device]));
	return {
		...rig,
		devices: rig.devices.map((device) => ({ ...device, ...theirs.get(device.id)?.wiring })),
		settings: [
			...rig.settings.filter(({ device }) => !theirs.has(device)),
			...row.devices
				.filter(({ id }) => rig.devices.some((device) => device.id === id))
				.flatMap(({ id, channels }) => {
					const now = rig.settings.find(({ device }) => device === id);
					if (!now && !channels) return [];
					const { channel = null, deviceId = null } = now ?? {};
					return [{ device: id, channel, deviceId, ...(channels ? { channels } : {}) }];
				})
		],
		cables: [
			...rig.cables.filter(
				({ from, to }) => ![from, to].every((end) => theirs.has(catalogueIds(end).device))
			),
			...row.cables.filter(
				({ from, to }) =>
					sockets.has(from) &&
					sockets.has(to) &&
					[from, to].every((end) => theirs.has(catalogueIds(end).device))
			)
		],
		hosts: row.hosts.map((host) => ({
			...keepPorts(host, ({ port }) => sockets.has(port)),
			computer: rig.devices.some(({ id }) => id === host.computer) ? host.computer : null
		})),
		layers: row.layers.filter((pair) => pair.every((one) => rig.devices.some(({ id }) => id === one))),
		limits: row.limits
	};
}

/**
 * What is here, with the cables that gear which just came in has in the bundle, where their sockets are free; with all of
 * them, where nothing was wired here.
 */
function joined(rig: Rig, there: Rig, added: Taking['added']): Rig {
	if (!wired(rig)) return { ...rig, cables: there.cables, hosts: there.hosts, layers: there.layers };
	const taken = new Set(rig.cables.flatMap(({ from, to }) => [from, to]));
	return {
		...rig,
		cables: [
			...rig.cables,
			...there.cables.filter(
				({ from, to }) =>
					[from, to].some((end) => added.has(catalogueIds(end).device)) && !taken.has(from) && !taken.has(to)
			)
		]
	};
}

export const wiring: Holding<Row> = {
	name: 'wiring',
	title: 'Wiring',
	tables: ['cables', 'rig_facts'],
	schema: rowSchema,
	rows: async ({ studio }) => [told((await readStudioRig(studio)).rig)],
	async take(taking, [row]) {
		if (!row) return 0;
		const { studio, transaction, added } = taking;
		const { rig } = await readStudioRig(studio, transaction);
		const there = wiredAs(rig, row);
		const here = taking.fresh ? there : joined(rig, there, added);
		const contents = { here: content(here), there: content(there) };
		const after =
			JSON.stringify(contents.here) !== JSON.stringify(contents.there) &&
			taking.takes({ what: 'The wiring', here: says(here), there: says(there) }, contents)
				? there
				: here;
		const changes = changesBetween(rig, after);
		if (changes.length === 0) return 0;
		await changeRigIn(studio, changes, transaction, 'The wiring of a bundle taken over');
		return 1;
	}
};
