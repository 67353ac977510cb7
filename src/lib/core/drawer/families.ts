import { areaOf, readValue, type Profile, type ProfileParameter } from '../profile';

/** A sound to be grouped. */
export interface Patch {
	key: string;
	bytes: Uint8Array;
}

export interface Family {
	/** Keys of its sounds, as given. */
	members: string[];
	/** `same`: every parameter is equal (names may differ). */
	kind: 'same' | 'near';
	/** Ids of the parameters in which members differ. */
	differing: string[];
	/** Largest distance of a member to the first one, 0–1. */
	spread: number;
}

export interface FamilyOptions {
	/** Sounds of one family differ in this many parameters at most. */
	parameters?: number;
	/** And this much, as the mean share of the ranges. */
	distance?: number;
}

/** A bucket that is compared pair by pair. */
const SMALL = 48;

/** Comparisons between two pauses. */
const STEP = 20_000;

/** Mean distance of two vectors of parameters, 0–1: share of the range, named values equal or not. */
function distanceOf(parameters: readonly ProfileParameter[], a: Int32Array, b: Int32Array): number {
	let sum = 0;
	for (let i = 0; i < parameters.length; i++) {
		if (a[i] === b[i]) continue;
		const { range, values } = parameters[i];
		sum += values || range[1] === range[0] ? 1 : Math.abs(a[i] - b[i]) / (range[1] - range[0]);
	}
	return sum / parameters.length;
}

/**
 * Groups sounds that are the same or nearly the same. Exact: of two sounds that differ in `k` parameters at most, one
 * of `k + 1` parts of their parameters is equal, so candidates come from equal parts (again and again in large
 * groups), and are then measured. Sounds alone are left out; families come largest first.
 */
export function findFamilies(
	profile: Profile,
	areaId: string,
	patches: readonly Patch[],
	options: FamilyOptions = {}
): Family[] {
	const grouping = groupFamilies(profile, areaId, patches, options);
	for (;;) {
		const step = grouping.next();
		if (step.done) return step.value;
	}
}

/** As `findFamilies`, in steps of a few milliseconds: whoever runs it may do something else in between. */
export function* groupFamilies(
	profile: Profile,
	areaId: string,
	patches: readonly Patch[],
	options: FamilyOptions = {}
): Generator<void, Family[]> {
	let work = 0;
	/** Whether it is time for a pause, after so many more comparisons. */
	const due = (more: number): boolean => {
		work += more;
		if (work < STEP) return false;
		work = 0;
		return true;
	};
	const { parameters } = profile.records[areaOf(profile, areaId).record];
	if (parameters.length === 0) return [];
	const most = options.parameters ?? 3;
	const limit = options.distance ?? 0.08;

	// Sounds with equal parameters are one from here on.
	const unique: Int32Array[] = [];
	const keysOf: string[][] = [];
	const known = new Map<string, number>();
	for (const { key, bytes } of patches) {
		const vector = Int32Array.from(parameters, (parameter) => readValue(parameter, bytes));
		const text = String.fromCharCode(...vector);
		const at = known.get(text);
		if (at !== undefined) {
			keysOf[at].push(key);
			continue;
		}
		known.set(text, unique.length);
		unique.push(vector);
		keysOf.push([key]);
		if (due(parameters.length)) yield;
	}

	const parent = Int32Array.from(unique, (_, i) => i);
	const find = (i: number): number => {
		let root = i;
		while (parent[root] !== root) root = parent[root];
		while (parent[i] !== root) [parent[i], i] = [root, parent[i]];
		return root;
	};
	const near = (a: number, b: number): boolean => {
		const [x, y] = [unique[a], unique[b]];
		let differing = 0;
		for (let i = 0; i < x.length; i++) if (x[i] !== y[i] && ++differing > most) return false;
		return distanceOf(parameters, x, y) <= limit;
	};

	function* join(group: number[], open: number[]): Generator<void, void> {
		if (group.length <= SMALL || open.length <= most) {
			for (let i = 0; i < group.length; i++) {
				for (let j = i + 1; j < group.length; j++) {
					const [a, b] = [find(group[i]), find(group[j])];
					if (a !== b && near(group[i], group[j])) parent[a] = b;
				}
				if (due(group.length - i)) yield;
			}
			return;
		}
		for (let part = 0; part <= most; part++) {
			const chosen = open.filter((_, i) => i % (most + 1) === part);
			const rest = open.filter((_, i) => i % (most + 1) !== part);
			const buckets = new Map<string, number[]>();
			for (const i of group) {
				let text = '';
				for (const at of chosen) text += String.fromCharCode(unique[i][at]);
				const bucket = buckets.get(text);
				if (bucket) bucket.push(i);
				else buckets.set(text, [i]);
				if (due(chosen.length)) yield;
			}
			for (const bucket of buckets.values()) if (bucket.length > 1) yield* join(bucket, rest);
		}
	}
	yield* join(
		unique.map((_, i) => i),
		parameters.map((_, i) => i)
	);

	const groups = new Map<number, number[]>();
	for (let i = 0; i < unique.length; i++) {
		const root = find(i);
		const list = groups.get(root);
		if (list) list.push(i);
		else groups.set(root, [i]);
	}
	const families: Family[] = [];
	for (const list of groups.values()) {
		const members = list.flatMap((i) => keysOf[i]);
		if (members.length < 2) continue;
		const first = unique[list[0]];
		families.push({
			members,
			kind: list.length === 1 ? 'same' : 'near',
			differing: parameters
				.filter((_, at) => list.some((i) => unique[i][at] !== first[at]))
				.map(({ id }) => id),
			spread: list.reduce((most, i) => Math.max(most, distanceOf(parameters, first, unique[i])), 0)
		});
		if (due(list.length * parameters.length)) yield;
	}
	return families.sort((a, b) => b.members.length - a.members.length);
}
