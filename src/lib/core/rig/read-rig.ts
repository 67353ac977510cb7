import type { z } from 'zod';
import { Problem } from '../problem';
import { rigFileSchema, rigSchema, type Rig } from './schema';

export interface RigFault {
	/** Path of the field, such as `devices[3].receive.channels[0]`. */
	at: string;
	/** What was expected there, and what was found. */
	says: string;
}

export interface ReadRig {
	rig: Rig;
	/** Paths of fields that the format does not know; they are left out. */
	ignored: string[];
}

/** `['devices', 3, 'name']` as `devices[3].name`. */
const pathOf = (path: readonly PropertyKey[]): string =>
	path.reduce<string>(
		(text, step) =>
			typeof step === 'number' ? `${text}[${step}]` : text === '' ? String(step) : `${text}.${String(step)}`,
		''
	) || 'the file';

const shown = (value: unknown): string => {
	const text = JSON.stringify(value);
	return text === undefined ? 'nothing' : text.length > 60 ? `${text.slice(0, 57)}…` : text;
};

const at = (value: unknown, path: readonly PropertyKey[]): unknown =>
	path.reduce<unknown>(
		(inner, step) =>
			inner === null || inner === undefined ? undefined : (inner as Record<PropertyKey, unknown>)[step],
		value
	);

/** A schema's complaint in words: what was expected, and what stands there. */
function inWords(issue: z.core.$ZodIssue, found: unknown): string {
	const instead = found === undefined ? 'nothing is there' : `found ${shown(found)}`;
	if (issue.code === 'invalid_type') return `expected ${issue.expected}, ${instead}`;
	if (issue.code === 'invalid_value')
		return `expected one of ${issue.values.map(shown).join(', ')}, ${instead}`;
	if (issue.code === 'too_small')
		return `expected at least ${issue.minimum}${issue.origin === 'string' ? ' characters' : issue.origin === 'array' ? ' entries' : ''}, ${instead}`;
	if (issue.code === 'too_big')
		return `expected at most ${issue.maximum}${issue.origin === 'string' ? ' characters' : issue.origin === 'array' ? ' entries' : ''}, ${instead}`;
	return `${issue.message}, ${instead}`;
}

/** Fields of `raw` that `parsed` does not have. */
function unknownFields(raw: unknown, parsed: unknown, path: PropertyKey[] = []): string[] {
	if (Array.isArray(raw))
		return raw.flatMap((entry, i) => unknownFields(entry, (parsed as unknown[])[i], [...path, i]));
	if (raw === null || typeof raw !== 'object') return [];
	return Object.entries(raw).flatMap(([key, value]) =>
		parsed !== null && typeof parsed === 'object' && key in parsed
			? unknownFields(value, (parsed as Record<string, unknown>)[key], [...path, key])
			: [pathOf([...path, key])]
	);
}

/** Everything that points at something: each must exist, and each id must be the only one. */
function references(rig: Rig, hostAt: (h: number) => string): RigFault[] {
	const faults: RigFault[] = [];
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
		: parsed.error.issues.map((issue) => ({
				at: pathOf(issue.path),
				says: inWords(issue, at(raw, issue.path))
			}));
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
export function readRigText(text: string): ReadRig {
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (error) {
		throw new Problem(
			'rig.json',
			`The file is not JSON: ${error instanceof Error ? error.message : error}.`,
			'Choose a file that was exported as a rig.'
		);
	}
	return readRig(raw);
}
