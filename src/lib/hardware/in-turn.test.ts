import { expect, it } from 'vitest';
import { inTurn } from './in-turn';

it('does works that share a port one after another, whatever becomes of them, and others meanwhile', async () => {
	const seen: string[] = [];
	const work = (name: string, ms: number) => async () => {
		seen.push(`${name} begins`);
		await new Promise((next) => setTimeout(next, ms));
		seen.push(`${name} ends`);
		if (name === 'b') throw new Error('torn');
		return name;
	};
	const results = await Promise.allSettled([
		inTurn(['1 out', '1 in'], work('a', 20)),
		inTurn(['2 out', '1 in'], work('b', 10)),
		inTurn(['2 out'], work('c', 1)),
		inTurn(['3 out'], work('d', 1)),
		inTurn([], work('e', 1))
	]);
	expect(results.map(({ status }) => status)).toEqual([
		'fulfilled',
		'rejected',
		'fulfilled',
		'fulfilled',
		'fulfilled'
	]);
	const at = (what: string) => seen.indexOf(what);
	expect(at('b begins')).toBeGreaterThan(at('a ends'));
	expect(at('c begins')).toBeGreaterThan(at('b ends'));
	expect(at('d begins')).toBeLessThan(at('a ends'));
	expect(at('e begins')).toBeLessThan(at('a ends'));
	await expect(inTurn(['2 out'], work('f', 1))).resolves.toBe('f');
});
