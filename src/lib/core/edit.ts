/** A change of a map, or of any plain data: the value at a path becomes another, or goes where there is none. */
export interface Edit {
	path: readonly (string | number)[];
	/** Left out: what is there is taken away. */
	value?: unknown;
}

const at = (data: unknown, key: string | number): unknown => (data as Record<string | number, unknown>)[key];

function edited(data: unknown, path: readonly (string | number)[], value: unknown): unknown {
	if (path.length === 0) return value;
	const [key, ...rest] = path;
	if (Array.isArray(data)) {
		const index = Number(key);
		if (rest.length === 0 && value === undefined) return data.filter((_, i) => i !== index);
		return [...data.slice(0, index), edited(data[index], rest, value), ...data.slice(index + 1)];
	}
	const copy = { ...(data as Record<string, unknown>) };
	if (rest.length === 0 && value === undefined) delete copy[key];
	else copy[key] = edited(copy[key], rest, value);
	return copy;
}

/** The data with the edits made one after another; what it was stays as it is. */
export const applyEdits = <T>(data: T, edits: readonly Edit[]): T =>
	edits.reduce<unknown>((now, { path, value }) => edited(now, path, value), data) as T;

/** What is at a path. */
export const valueAt = (data: unknown, path: readonly (string | number)[]): unknown =>
	path.reduce<unknown>((now, key) => at(now, key), data);

/** What brings back what an edit changes: a list as a whole, so that nothing in it moves. */
function backFrom(data: unknown, { path }: Edit): Edit {
	if (path.length === 0) return { path, value: data };
	const parent = path.slice(0, -1);
	const holder = valueAt(data, parent);
	if (Array.isArray(holder)) return { path: parent, value: holder };
	const was = at(holder, path.at(-1)!);
	return was === undefined ? { path } : { path, value: was };
}

/** The edits that bring the data back, to be made on what the given ones have made of it. */
export function inverseEdits(data: unknown, edits: readonly Edit[]): Edit[] {
	let now = data;
	return edits
		.map((edit) => {
			const back = backFrom(now, edit);
			now = applyEdits(now, [edit]);
			return back;
		})
		.reverse();
}

/** The edits that make one document another, field by field. */
export const editsInto = (before: object, after: object): Edit[] =>
	[...new Set([...Object.keys(before), ...Object.keys(after)])].map((key) => ({
		path: [key],
		value: (after as Record<string, unknown>)[key]
	}));
