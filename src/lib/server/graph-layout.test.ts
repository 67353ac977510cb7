import { expect, it } from 'vitest';
import { layOut } from './graph-layout';

const chain = (boxes: number) => ({
	id: 'studio',
	layoutOptions: { 'elk.algorithm': 'layered', 'elk.direction': 'RIGHT' },
	children: Array.from({ length: boxes }, (_, i) => ({ id: `box ${i}`, width: 100, height: 40 })),
	edges: Array.from({ length: boxes - 1 }, (_, i) => ({
		id: `way ${i}`,
		sources: [`box ${i}`],
		targets: [`box ${i + 1}`]
	}))
});

it('lays the same graph out once, another one anew, and a changed one as it is now', async () => {
	const [first, again, other] = await Promise.all([layOut(chain(3)), layOut(chain(3)), layOut(chain(4))]);
	expect(again).toBe(first);
	expect(other).not.toBe(first);
	const x = other.children!.map((box) => box.x!);
	expect(x).toEqual(x.toSorted((a, b) => a - b));
	expect(new Set(x).size).toBe(4);
});

it('answers other things meanwhile, and a graph that cannot be laid out is refused each time', async () => {
	let turns = 0;
	const turning = setInterval(() => turns++, 1);
	await layOut(chain(300));
	clearInterval(turning);
	expect(turns).toBeGreaterThan(10);
	const wrong = () =>
		layOut({ ...chain(2), edges: [{ id: 'way', sources: ['box 0'], targets: ['nowhere'] }] });
	await expect(wrong()).rejects.toThrow();
	await expect(wrong()).rejects.toThrow();
});
