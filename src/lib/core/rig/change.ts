import { z } from 'zod';
import { Problem } from '../problem';
import { cableSchema, channelSchema, hostSchema, wiringSchema, type Rig } from './schema';

const id = z.string().min(1).max(120);

/** A wiring fact that is set; what is left out stays. Objects replace objects. */
const wiringPatch = z
	.object({
		receive: wiringSchema.shape.receive.unwrap(),
		wants: wiringSchema.shape.wants.unwrap(),
		lock: wiringSchema.shape.lock.unwrap(),
		clock: wiringSchema.shape.clock.unwrap(),
		sends: z.array(channelSchema).max(16),
		local: z.boolean(),
		softThru: z.boolean(),
		backup: z.boolean()
	})
	.partial();

/** One step of a change list, a cure, or a drag: everything that can be done to a rig is said in these. */
export const changeSchema = z.discriminatedUnion('do', [
	z.object({ do: z.literal('plug'), ...cableSchema.shape }),
	z.object({ do: z.literal('pull'), from: id, to: id }),
	z.object({
		do: z.literal('set'),
		device: id,
		channel: channelSchema.nullable().optional(),
		channels: z.array(channelSchema).max(16).optional(),
		deviceId: z.number().int().min(0).max(126).nullable().optional()
	}),
	z.object({ do: z.literal('wire'), device: id, wiring: wiringPatch }),
	/** A host as it is from now on; one more where there is none of its id. */
	z.object({
		do: z.literal('host'),
		host: hostSchema,
		/** Its place in the list, for one more. */
		at: z.number().int().min(0).max(20).optional()
	}),
	z.object({ do: z.literal('host-gone'), host: id }),
	/** What a host does with one of the ports that it has. */
	z.object({
		do: z.literal('host-port'),
		host: id,
		port: id,
		playing: z.boolean(),
		hidden: z.boolean()
	}),
	z.object({ do: z.literal('layer'), devices: z.tuple([id, id]), intended: z.boolean() }),
	z.object({
		do: z.literal('limits'),
		chain: z.number().int().min(1).max(10),
		load: z.number().min(0.01).max(1)
	})
]);
export type RigChange = z.infer<typeof changeSchema>;

/** What a step of the wiring's history is called that nobody named. */
export const WIRING_CHANGED = 'The wiring changed';

/** Changes that belong together, for the state that they were made for. */
export const rigOrderSchema = z.object({
	changes: z.array(changeSchema).min(1).max(500),
	revision: z.number().int().optional(),
	/** What the changes are called in the history of the wiring. */
	says: z.string().trim().min(1).max(300).default(WIRING_CHANGED)
});

/** Whether two cables, or layers, join the same two, whichever way round they are written. */
export const samePair = (a: readonly [string, string], b: readonly [string, string]) =>
	(a[0] === b[0] && a[1] === b[1]) || (a[0] === b[1] && a[1] === b[0]);

const stale = (says: string) =>
	new Problem('rig.change.conflict', says, 'The wiring changed meanwhile: look at it again.');

const hostPort = (rig: Rig, { host, port }: { host: string; port: string }) =>
	rig.hosts.find(({ id }) => id === host)?.ports.find(({ id }) => id === port);

/**
 * A rig after one change; the rig that is given stays as it is.
 * @throws Problem `rig.change.conflict` when it does not fit the rig, `rig.device.not-found`
 */
export function applyChange(rig: Rig, change: RigChange): Rig {
	const needDevice = (device: string) => {
		if (!rig.devices.some(({ id }) => id === device))
			throw new Problem(
				'rig.device.not-found',
				`There is no device “${device}” in the rig.`,
				'Look at the list of devices again.'
			);
	};
	switch (change.do) {
		case 'plug': {
			const { do: _, ...cable } = change;
			for (const end of [cable.from, cable.to])
				if (!rig.devices.some(({ ports }) => ports.some((port) => port.id === end)))
					throw stale(`There is no port “${end}”.`);
			if (rig.cables.some((other) => samePair([other.from, other.to], [cable.from, cable.to])))
				throw stale('That cable is plugged in already.');
			return { ...rig, cables: [...rig.cables, cable] };
		}
		case 'pull': {
			const cables = rig.cables.filter(({ from, to }) => !(from === change.from && to === change.to));
			if (cables.length === rig.cables.length) throw stale('That cable is pulled already.');
			return { ...rig, cables };
		}
		case 'set': {
			needDevice(change.device);
			const { do: _, ...values } = change;
			const before = rig.settings.find(({ device }) => device === change.device) ?? { device: change.device };
			// A new first channel means a new block, unless the channels are given one by one.
			const { channels, ...rest } = before as Rig['settings'][number];
			const kept =
				'channel' in values && !values.channels ? rest : { ...rest, ...(channels ? { channels } : {}) };
			const after = { ...kept, ...values };
			return {
				...rig,
				settings: rig.settings.some(({ device }) => device === change.device)
					? rig.settings.map((setting) => (setting.device === change.device ? after : setting))
					: [...rig.settings, after]
			};
		}
		case 'wire':
			needDevice(change.device);
			return {
				...rig,
				devices: rig.devices.map((device) =>
					device.id === change.device ? { ...device, ...change.wiring } : device
				)
			};
		case 'host':
			return {
				...rig,
				hosts: rig.hosts.some(({ id }) => id === change.host.id)
					? rig.hosts.map((host) => (host.id === change.host.id ? change.host : host))
					: rig.hosts.toSpliced(change.at ?? rig.hosts.length, 0, change.host)
			};
		case 'host-gone':
			if (!rig.hosts.some(({ id }) => id === change.host)) throw stale('That host is gone already.');
			return { ...rig, hosts: rig.hosts.filter(({ id }) => id !== change.host) };
		case 'host-port': {
			const entry = hostPort(rig, change);
			if (!entry) throw stale('The host does not have that port any more.');
			const { playing, hidden } = change;
			return {
				...rig,
				hosts: rig.hosts.map((host) =>
					host.id === change.host
						? {
								...host,
								ports: host.ports.map((port) =>
									port.id === change.port ? { ...port, playing, hidden } : port
								)
							}
						: host
				)
			};
		}
		case 'layer': {
			const others = rig.layers.filter((pair) => !samePair(pair, change.devices));
			return { ...rig, layers: change.intended ? [...others, change.devices] : others };
		}
		case 'limits':
			return { ...rig, limits: { chain: change.chain, load: change.load } };
	}
}

export const applyChanges = (rig: Rig, changes: readonly RigChange[]): Rig =>
	changes.reduce(applyChange, rig);

/** What brings a host back as it is, where there is one of that id. */
function host(rig: Rig, id: string): RigChange | null {
	const at = rig.hosts.findIndex((entry) => entry.id === id);
	return at < 0 ? null : { do: 'host', host: rig.hosts[at], at };
}

/** The change that undoes `change`, made on `rig`. */
export function inverse(rig: Rig, change: RigChange): RigChange {
	switch (change.do) {
		case 'plug':
			return { do: 'pull', from: change.from, to: change.to };
		case 'pull':
			return { do: 'plug', ...rig.cables.find(({ from, to }) => from === change.from && to === change.to)! };
		case 'set': {
			const before = rig.settings.find(({ device }) => device === change.device);
			return {
				do: 'set',
				device: change.device,
				...('channel' in change || 'channels' in change
					? { channel: before?.channel ?? null, ...(before?.channels ? { channels: before.channels } : {}) }
					: {}),
				...('deviceId' in change ? { deviceId: before?.deviceId ?? null } : {})
			};
		}
		case 'wire': {
			const before = rig.devices.find(({ id }) => id === change.device)!;
			const keys = Object.keys(change.wiring) as (keyof typeof change.wiring)[];
			return {
				do: 'wire',
				device: change.device,
				wiring: Object.fromEntries(keys.map((key) => [key, before[key]]))
			};
		}
		case 'host':
			return host(rig, change.host.id) ?? { do: 'host-gone', host: change.host.id };
		case 'host-gone':
			return host(rig, change.host)!;
		case 'host-port': {
			const { playing, hidden } = hostPort(rig, change)!;
			return { ...change, playing, hidden };
		}
		case 'layer':
			return { do: 'layer', devices: change.devices, intended: !change.intended };
		case 'limits':
			return { do: 'limits', ...rig.limits };
	}
}

/** What undoes a list of changes, in the order in which it has to be done. */
export function inverses(rig: Rig, changes: readonly RigChange[]): RigChange[] {
	const undo: RigChange[] = [];
	let now = rig;
	for (const change of changes) {
		undo.unshift(inverse(now, change));
		now = applyChange(now, change);
	}
	return undo;
}
