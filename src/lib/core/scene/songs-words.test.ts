import { expect, it } from 'vitest';
import { movedInList, sceneNumbers } from './songs-words';

it('reads numbers of scenes, and moves songs without losing one', () => {
	expect(sceneNumbers(' 3, 4;5  12 ')).toEqual([3, 4, 5, 12]);
	expect(sceneNumbers('')).toEqual([]);
	expect(['3, x', '1000', '-1', '1.5'].map(sceneNumbers)).toEqual([null, null, null, null]);
	const list = ['a', 'b', 'c', 'd'];
	expect(movedInList(list, 0, 3)).toEqual(['b', 'c', 'd', 'a']);
	expect(movedInList(list, 3, 0)).toEqual(['d', 'a', 'b', 'c']);
	expect(movedInList(list, 1, 1)).toEqual(list);
});
