import type { z } from 'zod';
import { Problem } from '../problem';
import { rigSchema, type Rig } from './schema';

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
function references(rig: Rig): RigFault[] {
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
	const hostPorts = unique(
		'host port',
		(rig.host?.ports ?? []).map(({ id }, i) => ({ id, at: `host.ports[${i}].id` }))
	);
	const expect = (known: Set<string>, kind: string, id: string | null | undefined, at: string) => {
		if (id !== null && id !== undefined && !known.has(id))
			faults.push({ at, says: `expected the id of a ${kind}, but none is called “${id}”` });
	};
	rig.devices.forEach((device, d) => {
		expect(ports, 'port', device.lock.out, `devices[${d}].lock.out`);
		expect(ports, 'port', device.lock.in, `devices[${d}].lock.in`);
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
	rig.host?.ports.forEach(({ port }, i) => expect(ports, 'port', port, `host.ports[${i}].port`));
	rig.host?.tracks.forEach(({ input, output }, i) => {
		expect(hostPorts, 'host port', input, `host.tracks[${i}].input`);
		expect(hostPorts, 'host port', output, `host.tracks[${i}].output`);
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
	const faults = parsed.success
		? references(parsed.data)
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
	return { rig: parsed.data, ignored: unknownFields(raw, parsed.data) };
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
