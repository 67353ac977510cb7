import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyChanges, changesBetween, inverse, type Rig, type RigChange } from '../rig';
import { followed } from './follow';
import { mixedStudio } from './mixed-studio.fixture';
import { seeded } from './studio.fixture';

/** Ends of cables without what is on them, in no order: what a person would compare. */
const cablesOf = (rig: Rig) =>
	rig.cables.map(({ from, to, adapter }) => `${from} ${to} ${adapter ?? ''}`).sort();

/** Changes that a hand could make, each fitting the rig as it is by then. */
function randomChanges(rig: Rig, seed: number, count: number): { changes: RigChange[]; after: Rig } {
	const random = seeded(seed);
	const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)];
	let after = rig;
	const changes: RigChange[] = [];
	for (let i = 0; i < count; i++) {
		const device = pick(after.devices);
		const kind = Math.floor(random() * 6);
		const cable = pick(after.cables);
		const change: RigChange =
			kind === 0 && cable
				? { do: 'pull', from: cable.from, to: cable.to }
				: kind === 1 && device.ports.length > 0
					? {
							do: 'plug',
							from: pick(pick(after.devices).ports)?.id ?? device.ports[0].id,
							to: device.ports[0].id
						}
					: kind === 2
						? { do: 'set', device: device.id, channel: 1 + Math.floor(random() * 16) }
						: kind === 3
							? { do: 'set', device: device.id, deviceId: Math.floor(random() * 100), channels: [1, 5] }
							: kind === 4
								? { do: 'wire', device: device.id, wiring: { softThru: !device.softThru } }
								: { do: 'layer', devices: [device.id, pick(after.devices).id], intended: random() < 0.7 };
		try {
			after = applyChanges(after, [change]);
			changes.push(change);
		} catch {
			// It does not fit this rig: another one is tried.
		}
	}
	return { changes, after };
}

describe('the changes between two rigs', () => {
	it('make the one into the other, whatever was done between', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 30 }), (seed, steps) => {
				const before = mixedStudio(8, 6, seed);
				const { after } = randomChanges(before, seed + 1, steps);
				const made = applyChanges(before, changesBetween(before, after));
				expect(cablesOf(made)).toEqual(cablesOf(after));
				expect(made.devices).toEqual(after.devices);
				for (const { id } of after.devices) {
					const of = (rig: Rig) => rig.settings.find(({ device }) => device === id);
					expect(of(made)?.channel ?? null).toBe(of(after)?.channel ?? null);
					expect(of(made)?.deviceId ?? null).toBe(of(after)?.deviceId ?? null);
					expect(of(made)?.channels).toEqual(of(after)?.channels);
				}
				expect(made.layers.map((pair) => [...pair].sort().join()).sort()).toEqual(
					after.layers.map((pair) => [...pair].sort().join()).sort()
				);
			}),
			{ numRuns: 150 }
		);
	});
});

describe('a plan that is followed', () => {
	const made = mixedStudio(6, 4, 3);
	const [a, b] = made.devices.filter(({ id }) => id.startsWith('d'));
	const cable = made.cables[0];
	const steps = [
		{ says: 'Pull.', change: { do: 'pull', from: cable.from, to: cable.to } },
		{
			says: 'Put it back crossed.',
			change: { do: 'plug', from: cable.from, to: cable.to, adapter: 'crossing' }
		},
		{ says: 'Channel.', change: { do: 'set', device: a.id, channel: 13 } },
		{ says: 'ID.', change: { do: 'set', device: a.id, deviceId: 77 } },
		{ says: 'Soft thru.', change: { do: 'wire', device: b.id, wiring: { softThru: !b.softThru } } }
	] satisfies { says: string; change: RigChange }[];
	const after = (...which: number[]) =>
		applyChanges(
			made,
			which.map((i) => steps[i].change)
		);

	it('has done what the wiring shows, in whatever order it was done', () => {
		expect(followed(steps, made, made)).toEqual({ done: steps.map(() => false), stands: true });
		expect(followed(steps, made, after(3, 0))).toEqual({
			done: [true, false, false, true, false],
			stands: true
		});
		// The cable is back, with an adapter: the pull stays done.
		expect(followed(steps, made, after(0, 1, 4)).done).toEqual([true, true, false, false, true]);
		expect(followed(steps, made, after(4, 3, 2, 0, 1))).toEqual({
			done: steps.map(() => true),
			stands: true
		});
	});

	it('is open again where a step is undone, and leaves its neighbour alone', () => {
		const rig = applyChanges(after(2, 3), [inverse(made, steps[2].change)]);
		expect(followed(steps, made, rig).done).toEqual([false, false, false, true, false]);
	});

	it('does not stand where it is no plan for the rig that it names', () => {
		const gone = [{ says: 'Pull what is not there.', change: { do: 'pull' as const, from: 'x', to: 'y' } }];
		expect(followed(gone, made, made)).toEqual({ done: [true], stands: false });
	});

	it('no longer stands when something else was changed, and still knows what was done', () => {
		const other = made.devices.find(({ id }) => id !== a.id && id !== b.id)!;
		const rig = applyChanges(after(2), [{ do: 'wire', device: other.id, wiring: { local: !other.local } }]);
		expect(followed(steps, made, rig)).toEqual({ done: [false, false, true, false, false], stands: false });
		const gone = { ...made, devices: made.devices.filter(({ id }) => id !== a.id) };
		expect(followed(steps, made, gone)).toMatchObject({ stands: false });
		expect(followed(steps, made, gone).done[2]).toBe(false);
	});
});
