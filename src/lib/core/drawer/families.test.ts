import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { profileNamed } from '../bench/bench.fixture';
import { readValue, writeName, writeParameter } from '../profile';
import { findFamilies, type Patch } from '.';

const profile = profileNamed('tarnow-parallax');
const area = profile.areas[0].id;
const record = profile.records[profile.areas[0].record];
const { parameters } = record;
const sounds = factoryState(profile, seededRandom(9)).memory[area];

/** Compares every pair. */
function brute(patches: Patch[], most: number, limit: number): string[][] {
	const parent = patches.map((_, i) => i);
	const find = (i: number): number => (parent[i] === i ? i : find(parent[i]));
	for (let i = 0; i < patches.length; i++)
		for (let j = i + 1; j < patches.length; j++) {
			let differing = 0;
			let sum = 0;
			for (const parameter of parameters) {
				const [x, y] = [patches[i], patches[j]].map(({ bytes }) => readValue(parameter, bytes));
				if (x === y) continue;
				differing++;
				sum += parameter.values ? 1 : Math.abs(x - y) / (parameter.range[1] - parameter.range[0]);
			}
			if (differing <= most && sum / parameters.length <= limit) parent[find(i)] = find(j);
		}
	const groups = new Map<number, string[]>();
	patches.forEach(({ key }, i) => groups.set(find(i), [...(groups.get(find(i)) ?? []), key]));
	return [...groups.values()].filter((group) => group.length > 1).map((group) => group.toSorted());
}

describe('families of sounds', () => {
	it('are those that comparing every pair gives', () => {
		const edit = fc.tuple(
			fc.nat(7),
			fc.array(fc.tuple(fc.nat(parameters.length - 1), fc.nat(1000)), { maxLength: 5 })
		);
		fc.assert(
			fc.property(
				fc.array(edit, { minLength: 60, maxLength: 110 }),
				fc.integer({ min: 0, max: 4 }),
				(edits, most) => {
					const patches = edits.map(([from, changes], i): Patch => ({
						key: String(i),
						bytes: changes.reduce((bytes, [p, value]) => {
							const [low, high] = parameters[p].range;
							return writeParameter(parameters[p], bytes, low + (value % (high - low + 1)));
						}, sounds[from])
					}));
					const found = findFamilies(profile, area, patches, { parameters: most, distance: 0.06 });
					expect(found.map(({ members }) => members.toSorted()).toSorted()).toEqual(
						brute(patches, most, 0.06).toSorted()
					);
				}
			),
			{ numRuns: 40 }
		);
	});

	it('sounds that differ in name alone are the same; what differs is named', () => {
		const [p] = parameters;
		const turned = readValue(p, sounds[0]) === p.range[0] ? p.range[0] + 1 : p.range[0];
		const renamed = writeName(profile, record, sounds[0], 'Other');
		const [family] = findFamilies(profile, area, [
			{ key: 'a', bytes: sounds[0] },
			{ key: 'b', bytes: renamed }
		]);
		expect(family).toMatchObject({ members: ['a', 'b'], kind: 'same', differing: [], spread: 0 });
		const [near] = findFamilies(profile, area, [
			{ key: 'a', bytes: sounds[0] },
			{ key: 'c', bytes: writeParameter(p, sounds[0], turned) }
		]);
		expect(near).toMatchObject({ kind: 'near', differing: [p.id] });
	});
});
