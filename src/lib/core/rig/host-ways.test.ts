import { describe, expect, it } from 'vitest';
import { hostWays, linesOf } from '.';
import { cable, module, port, studio } from './rig.fixture';

describe('ways between the computer and a device', () => {
	it('go out over the interface and come back, also through a merge box', () => {
		const rig = studio(
			[
				module('a'),
				module('b'),
				module('lonely'),
				{
					id: 'merge',
					name: 'merge',
					kind: 'merge box',
					ports: [port('merge.in1', 'in'), port('merge.in2', 'in'), port('merge.out', 'out')]
				}
			],
			{
				cables: [
					cable('ferry.out1', 'a.in'),
					cable('a.thru', 'b.in'),
					cable('a.out', 'merge.in1'),
					cable('b.out', 'merge.in2'),
					cable('merge.out', 'ferry.in2')
				]
			}
		);
		const ways = new Map(
			hostWays(rig).map((way) => [way.device, [way.out?.name ?? null, way.in?.name ?? null]])
		);
		expect(ways.get('a')).toEqual(['ferry out1', 'ferry in2']);
		expect(ways.get('b')).toEqual(['ferry out1', 'ferry in2']);
		expect(ways.get('lonely')).toEqual([null, null]);
	});
});

it('a way without a return shares its out with one that has a return', () => {
	const out = { name: 'Ferry 8 Out 3' };
	expect(linesOf({ out, in: { name: 'Ferry 8 In 5' } })).toEqual(['Ferry 8 Out 3 out', 'Ferry 8 In 5 in']);
	expect(linesOf({ out, in: null })).toEqual(['Ferry 8 Out 3 out']);
});
