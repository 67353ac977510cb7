import { Problem } from '../problem';
import { faultsOf, jsonOf, unknownFields, type Fault } from '../reading';
import { rigFileSchema, rigSchema, type Rig } from './schema';

export interface ReadRig {
	rig: Rig;
	/** Paths of fields that the format does not know; they are left out. */
	ignored: string[];
}

/** Everything that points at something: each must exist, and each id must be the only one. */
function references(rig: Rig, hostAt: (h: number) => string): Fault[] {
	const faults: Fault[] = [];
	const unique = (kind: string, ids: { id: string; at: string }[]): Set<string> => {
		const seen = new Map<string, string>();
		for (const { id, at } of ids) {
			const before = seen.get(id);
			if (before) faults.push({ at, says: `expected an id of its own, but ${before} is “${id}” too` });
			else seen.set(id, at);
		}
		return new Set(seen.keys());
	};
	const ports = unique(
		'port',
		rig.devices.flatMap((device, d) =>
			device.ports.map(({ id }, p) => ({ id, at: `devices[${d}].ports[${p}].id` }))
		)
	);
	const devices = unique(
		'device',
		rig.devices.map(({ id }, d) => ({ id, at: `devices[${d}].id` }))
	);
	const hosts = unique(
		'host',
		rig.hosts.map(({ id }, h) => ({ id, at: `${hostAt(h)}.id` }))
	);
	for (const kind of ['ports', 'tracks', 'instruments'] as const)
		unique(
			`entry of ${kind}`,
			rig.hosts.flatMap((host, h) =>
				host[kind].map(({ id }, i) => ({ id, at: `${hostAt(h)}.${kind}[${i}].id` }))
			)
		);
	const expect = (known: Set<string>, kind: string, id: string | null | undefined, at: string) => {
		if (id !== null && id !== undefined && !known.has(id))
			faults.push({ at, says: `expected the id of a ${kind}, but none is called “${id}”` });
	};
	rig.devices.forEach((device, d) => {
		expect(ports, 'port', device.lock.out, `devices[${d}].lock.out`);
		expect(ports, 'port', device.lock.in, `devices[${d}].lock.in`);
		expect(hosts, 'host', device.wants.host, `devices[${d}].wants.host`);
	});
	rig.cables.forEach(({ from, to }, c) => {
		expect(ports, 'port', from, `cables[${c}].from`);
		expect(ports, 'port', to, `cables[${c}].to`);
		if (from === to)
			faults.push({ at: `cables[${c}].to`, says: 'expected another port than the one it comes from' });
	});
	rig.settings.forEach(({ device }, s) => expect(devices, 'device', device, `settings[${s}].device`));
	unique(
		'setting',
		rig.settings.map(({ device }, s) => ({ id: device, at: `settings[${s}].device` }))
	);
	rig.layers.forEach((pair, l) =>
		pair.forEach((device, i) => expect(devices, 'device', device, `layers[${l}][${i}]`))
	);
	rig.hosts.forEach((host, h) => {
		const own = new Set(host.ports.map(({ id }) => id));
		expect(devices, 'device', host.computer, `${hostAt(h)}.computer`);
		host.ports.forEach(({ port }, i) => expect(ports, 'port', port, `${hostAt(h)}.ports[${i}].port`));
		host.tracks.forEach(({ input, output }, i) => {
			expect(own, 'port of that host', input, `${hostAt(h)}.tracks[${i}].input`);
			expect(own, 'port of that host', output, `${hostAt(h)}.tracks[${i}].output`);
		});
	});
	return faults;
}

/**
 * Reads a `silent-drawer.rig` document, whole or not at all.
 * @param raw what JSON.parse gave
 * @throws Problem `rig.invalid`; `detail.faults` has the path of each faulty field and what was expected
 */
export function readRig(raw: unknown): ReadRig {
	const parsed = rigSchema.safeParse(raw);
	const one = typeof raw === 'object' && raw !== null && 'host' in raw;
	const faults = parsed.success
		? // Version 1 has the first host in a field of its own.
			references(parsed.data, (h) => (one && h === 0 ? 'host' : `hosts[${h - Number(one)}]`))
		: faultsOf(parsed.error, raw);
	if (!parsed.success || faults.length > 0)
		throw new Problem(
			'rig.invalid',
			`The rig has ${faults.length === 1 ? 'a fault' : `${faults.length} faults`}: ${faults[0].at}: ${faults[0].says}.`,
			'Correct the fields that are named; nothing was taken over.',
			{ faults }
		);
	return { rig: parsed.data, ignored: unknownFields(raw, rigFileSchema.parse(raw)) };
}

/** Text of a rig file. @throws Problem `rig.json`, `rig.invalid` */
export const readRigText = (text: string): ReadRig => readRig(jsonOf(text, 'rig'));
