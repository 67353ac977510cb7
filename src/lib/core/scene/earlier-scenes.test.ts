import { describe, expect, it } from 'vitest';
import { applyEdits, inverseEdits, type Edit } from '../edit';
import { earlierScenes, type PastStep } from './earlier-scenes';
import { dropScene, putScene, storeScene } from './scenes';
import { setSchema, type ShowSet } from './set';

/** A set that is changed step by step, and its history, the latest first. */
function lived(changes: ((set: ShowSet) => Edit[])[]): { now: ShowSet; steps: PastStep[] } {
	let now = setSchema.parse({});
	const steps = changes.map((change, i): PastStep => {
		const edits = change(now);
		const undo = inverseEdits(now, edits);
		now = applyEdits(now, edits);
		return { at: `2026-01-0${i + 1}`, says: `step ${i + 1}`, undo };
	});
	return { now, steps: steps.reverse() };
}
const tempo = (value: number) => () => [{ path: ['tempo'], value }];
const told = ({ now, steps }: ReturnType<typeof lived>, number = 1) =>
	earlierScenes(now, steps, number).map(({ scene, until, ended }) => [scene.name, scene.tempo, until, ended]);
const store = (number: number, name: string) => (set: ShowSet) => storeScene(set, number, name);

describe('what a scene held before', () => {
	it('is told from the latest on, with the change that ended it; other scenes and changes leave it alone', () => {
		const life = lived([
			tempo(90),
			store(1, 'Doors'),
			tempo(100),
			store(1, 'Gates'),
			store(2, 'Other'),
			tempo(110),
			store(1, 'Walls')
		]);
		expect(told(life)).toEqual([
			['Gates', 100, '2026-01-07', 'step 7'],
			['Doors', 90, '2026-01-04', 'step 4']
		]);
		expect(told(life, 2)).toEqual([]);
		expect(told(life, 3)).toEqual([]);
	});
	it('comes back, also where the scene is gone, and what it holds now is not told', () => {
		const life = lived([store(1, 'Doors'), tempo(100), store(1, 'Gates'), (set) => dropScene(set, 1)]);
		expect(told(life).map(([name]) => name)).toEqual(['Gates', 'Doors']);
		const [, { scene }] = earlierScenes(life.now, life.steps, 1);
		const back = applyEdits(life.now, putScene(life.now, scene));
		expect(back.scenes).toEqual([scene]);
		const undo = inverseEdits(life.now, putScene(life.now, scene));
		const steps = [{ at: '2026-02-01', says: 'back', undo }, ...life.steps];
		expect(told({ now: back, steps }).map(([name]) => name)).toEqual(['Gates']);
	});
});
