import {
	findNodeAtLocation,
	getLocation,
	parse,
	parseTree,
	printParseErrorCode,
	type ParseError
} from 'jsonc-parser';
import type { z } from 'zod';

/** A fault of the text: from and to count characters. */
export interface TextFault {
	from: number;
	to: number;
	says: string;
}

/**
 * Reads the text of a document of a format. Faults of its JSON come first; then those of its content, each at the place in the text
 * that it is about.
 */
export function readText<T>(text: string, schema: z.ZodType<T>): { value: T | null; faults: TextFault[] } {
	const errors: ParseError[] = [];
	const json: unknown = parse(text, errors, { allowTrailingComma: false });
	if (errors.length > 0)
		return {
			value: null,
			faults: errors.map(({ error, offset, length }) => ({
				from: offset,
				to: Math.min(text.length, offset + Math.max(1, length)),
				says: printParseErrorCode(error)
					.replace(/([a-z])([A-Z])/g, '$1 $2')
					.toLowerCase()
			}))
		};
	const result = schema.safeParse(json);
	if (result.success) return { value: result.data, faults: [] };
	const tree = parseTree(text);
	return {
		value: null,
		faults: result.error.issues.map((issue) => {
			const path = issue.path.map((step) => (typeof step === 'number' ? step : String(step)));
			// What is missing has no place: the thing that it is missing from has.
			let node = tree && findNodeAtLocation(tree, path);
			for (let depth = path.length - 1; !node && tree && depth >= 0; depth--)
				node = findNodeAtLocation(tree, path.slice(0, depth));
			const from = node?.offset ?? 0;
			const where = path.length > 0 ? `${path.join('.')}: ` : '';
			return { from, to: from + Math.min(node?.length ?? 1, 60), says: `${where}${issue.message}` };
		})
	};
}

/** A JSON Schema, as far as it is looked into here. */
interface Schema {
	$ref?: string;
	$defs?: Record<string, Schema>;
	type?: string;
	properties?: Record<string, Schema>;
	additionalProperties?: Schema | boolean;
	items?: Schema | Schema[];
	prefixItems?: Schema[];
	anyOf?: Schema[];
	oneOf?: Schema[];
	allOf?: Schema[];
	enum?: unknown[];
	const?: unknown;
	required?: string[];
	default?: unknown;
}

export interface Offer {
	label: string;
	/** What is written for it. */
	insert: string;
	detail: string;
	from: number;
}

/** All forms that a schema may take. */
function forms(schema: Schema | undefined, root: Schema): Schema[] {
	if (!schema) return [];
	if (schema.$ref) return forms(root.$defs?.[schema.$ref.split('/').at(-1)!], root);
	const more = [...(schema.anyOf ?? []), ...(schema.oneOf ?? []), ...(schema.allOf ?? [])];
	return [schema, ...more.flatMap((form) => forms(form, root))];
}

/** The forms at a path. Where a form says by a constant which one it is, those that disagree with the text are left out. */
function formsAt(path: readonly (string | number)[], root: Schema, value: unknown): Schema[] {
	let here = forms(root, root);
	let held = value;
	for (const [depth, step] of path.entries()) {
		// What is being written says nothing yet of which form it belongs to.
		here = agreeing(here, held, root, depth === path.length - 1 ? step : undefined).flatMap((form) => {
			if (typeof step === 'number') {
				const items = form.prefixItems?.[step] ?? (Array.isArray(form.items) ? form.items[step] : form.items);
				return forms(items, root);
			}
			const more = typeof form.additionalProperties === 'object' ? form.additionalProperties : undefined;
			return forms(form.properties?.[step] ?? more, root);
		});
		held =
			typeof held === 'object' && held !== null
				? (held as Record<string | number, unknown>)[step]
				: undefined;
	}
	return agreeing(here, held, root);
}

const agreeing = (list: Schema[], value: unknown, root: Schema, ignored?: string | number): Schema[] =>
	list.filter((form) =>
		Object.entries(form.properties ?? {}).every(([name, property]) => {
			const fixed = forms(property, root).find((each) => each.const !== undefined)?.const;
			const own = (value as Record<string, unknown> | null | undefined)?.[name];
			return fixed === undefined || own === undefined || own === fixed || name === ignored;
		})
	);

const kindOf = (schema: Schema, root: Schema) =>
	forms(schema, root)
		.map(({ type, enum: values, const: fixed }) =>
			fixed !== undefined ? JSON.stringify(fixed) : values ? values.map(String).join(' | ') : type
		)
		.find(Boolean) ?? '';

/** What could be written at a place of a document's text, by its JSON Schema. */
export function completeText(text: string, offset: number, schema: object): Offer[] {
	const root = schema as Schema;
	const { path, previousNode, isAtPropertyKey } = getLocation(text, offset);
	const value: unknown = parse(text, [], { allowTrailingComma: true });
	const from =
		previousNode && offset <= previousNode.offset + previousNode.length ? previousNode.offset : offset;
	if (isAtPropertyKey) {
		const at = path.slice(0, -1);
		let held = value;
		for (const step of at) held = (held as Record<string | number, unknown> | undefined)?.[step];
		const taken = new Set(typeof held === 'object' && held !== null ? Object.keys(held) : []);
		const offers = new Map<string, Offer>();
		for (const form of formsAt(at, root, value))
			for (const [name, property] of Object.entries(form.properties ?? {})) {
				if (taken.has(name) || offers.has(name)) continue;
				const needed = form.required?.includes(name) ? ', needed' : '';
				offers.set(name, {
					label: name,
					insert: `${JSON.stringify(name)}: `,
					detail: `${kindOf(property, root)}${needed}`,
					from
				});
			}
		return [...offers.values()];
	}
	const values = new Set<unknown>();
	for (const form of formsAt(path, root, value)) {
		if (form.const !== undefined) values.add(form.const);
		for (const each of form.enum ?? []) values.add(each);
		if (form.type === 'boolean') values.add(true).add(false);
	}
	return [...values].map((each) => ({ label: String(each), insert: JSON.stringify(each), detail: '', from }));
}
