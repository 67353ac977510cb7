import { expect, it } from 'vitest';
import { sceneCalled } from './scene-calls';

it('a program change on its channel calls the scene with its number, counted from 0 or 1, and nothing else does', () => {
	const call = (first: 0 | 1, ...bytes: number[]) =>
		sceneCalled(Uint8Array.from(bytes), { channel: 16, first });
	expect(call(1, 0xcf, 0)).toBe(1);
	expect(call(0, 0xcf, 0)).toBe(0);
	expect(call(1, 0xcf, 127)).toBe(128);
	expect(call(1, 0xce, 3)).toBeNull();
	expect(call(1, 0xbf, 3, 1)).toBeNull();
	expect(call(1, 0xdf, 3)).toBeNull();
});
