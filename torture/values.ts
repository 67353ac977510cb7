import { between, pick, type Random } from '../src/lib/core/bench';

/** A JSON Schema as far as request bodies are described by it. */
export interface Schema {
	type?: string | string[];
	const?: unknown;
	enum?: unknown[];
	anyOf?: Schema[];
	oneOf?: Schema[];
	allOf?: Schema[];
	properties?: Record<string, Schema>;
	required?: string[];
	additionalProperties?: boolean | Schema;
	items?: Schema;
	prefixItems?: Schema[];
	minItems?: number;
	minimum?: number;
	maximum?: number;
	minLength?: number;
	maxLength?: number;
	$ref?: string;
	$defs?: Record<string, Schema>;
}

/** A value that a schema describes, mostly; texts are ids and names that there are, mostly. */
export function sample(
	schema: Schema,
	random: Random,
	words: readonly string[],
	root = schema,
	depth = 0
): unknown {
	const again = (of: Schema) => sample(of, random, words, root, depth + 1);
	if (schema.$ref) return depth > 8 ? null : again(root.$defs?.[schema.$ref.split('/').at(-1)!] ?? {});
	if ('const' in schema) return schema.const;
	if (schema.enum) return pick(random, schema.enum);
	const choices = schema.anyOf ?? schema.oneOf ?? schema.allOf;
	if (choices) return again(pick(random, choices));
	switch (Array.isArray(schema.type) ? pick(random, schema.type) : schema.type) {
		case 'object': {
			const made: Record<string, unknown> = {};
			for (const [name, of] of Object.entries(schema.properties ?? {}))
				if (schema.required?.includes(name) || (depth < 5 && random() < 0.6)) made[name] = again(of);
			if (typeof schema.additionalProperties === 'object' && depth < 4)
				for (let i = between(random, 0, 2); i > 0; i--)
					made[pick(random, words)] = again(schema.additionalProperties);
			return made;
		}
		case 'array':
			if (schema.prefixItems) return schema.prefixItems.map(again);
			return Array.from({ length: (schema.minItems ?? 0) + (depth < 5 ? between(random, 0, 2) : 0) }, () =>
				again(schema.items ?? {})
			);
		case 'integer':
		case 'number':
			return between(
				random,
				schema.minimum ?? 0,
				Math.min(schema.maximum ?? 200, (schema.minimum ?? 0) + 200)
			);
		case 'boolean':
			return random() < 0.5;
		case 'null':
			return null;
		default:
			return pick(random, words);
	}
}

/** A list in a list in a list … as text: some parsers fall over it, and what walks it. */
const nested = (levels: number): unknown => {
	let value: unknown = [];
	for (let i = 0; i < levels; i++) value = i % 2 === 0 ? { a: value } : [value];
	return value;
};

/** What nobody means. */
const FAULTY: ((random: Random) => unknown)[] = [
	() => null,
	() => '',
	() => [],
	() => ({}),
	() => -1,
	() => 1e308,
	() => 0.5,
	() => Number.MAX_SAFE_INTEGER,
	() => true,
	() => '\0',
	() => 'a\0b',
	() => '\ud800',
	() => '‮txt.exe',
	() => 'x'.repeat(70_000),
	() => '../../etc/passwd',
	() => "'; DROP TABLE devices; --",
	() => '%s%n%00',
	() => 'NaN',
	() => '9999-99-99T99:99:99Z',
	() => '+275760-09-14T00:00:00.000Z',
	() => Array.from({ length: 3000 }, () => 0),
	() => Array.from({ length: 500 }, () => ({})),
	() => JSON.parse('{"__proto__":{"admin":true},"constructor":1}') as unknown,
	() => nested(300),
	(random) => between(random, -1e9, 1e9)
];

/** A copy of a value with one place in it changed: replaced, left out, doubled, or added to. */
export function mutate(value: unknown, random: Random): unknown {
	if (value === null || typeof value !== 'object' || random() < 0.15) return pick(random, FAULTY)(random);
	if (Array.isArray(value)) {
		const at = between(random, 0, Math.max(0, value.length - 1));
		const kind = random();
		if (value.length === 0 || kind < 0.15) return [...value, pick(random, FAULTY)(random)];
		if (kind < 0.3) return value.filter((_, i) => i !== at);
		if (kind < 0.4) return [...value, ...value];
		return value.with(at, mutate(value[at], random));
	}
	const entries = Object.entries(value);
	const kind = random();
	if (entries.length === 0 || kind < 0.1)
		return {
			...value,
			[pick(random, ['id', 'extra', '__proto__', 'format', 'version'])]: pick(random, FAULTY)(random)
		};
	const [name] = pick(random, entries);
	if (kind < 0.25) return Object.fromEntries(entries.filter(([key]) => key !== name));
	return { ...value, [name]: mutate((value as Record<string, unknown>)[name], random) };
}

/** Ids and parameters that nobody gave out. */
export const STRANGE_IDS = [
	'none',
	'%00',
	'a%00b',
	'..%2f..%2fetc',
	'%F0%9F%8E%B9',
	'x'.repeat(3000),
	'-1',
	'0',
	'1e9',
	'__proto__',
	'constructor',
	"'%20OR%201=1",
	'null',
	'%25',
	'[object%20Object]'
];
