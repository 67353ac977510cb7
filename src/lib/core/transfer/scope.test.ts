import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { countSlots, scopeSchema, slotsInScope } from '.';

const orrery = profileNamed('vellbrook-orrery');
const slots = (area: string, ...indices: number[]) => new Map([[area, indices]]);

describe('scope', () => {
	it('names the slots of everything, of an area, or the chosen ones in order', () => {
		expect(countSlots(slotsInScope(orrery, { kind: 'all' }))).toBe(65);
		expect(slotsInScope(orrery, { kind: 'area', area: 'system' })).toEqual(new Map([['system', [0]]]));
		expect(
			slotsInScope(orrery, {
				kind: 'slots',
				slots: [
					{ area: 'programs', index: 9 },
					{ area: 'programs', index: 2 },
					{ area: 'programs', index: 9 }
				]
			})
		).toEqual(slots('programs', 2, 9));
	});

	it('is refused where it makes no sense', () => {
		expect(scopeSchema.safeParse({ kind: 'slots', slots: [] }).success).toBe(false);
		expect(scopeSchema.safeParse({ kind: 'slots', slots: [{ area: 'x', index: -1 }] }).success).toBe(false);
		expect(scopeSchema.safeParse({ kind: 'everything' }).success).toBe(false);
		expect(() => slotsInScope(orrery, { kind: 'area', area: 'nowhere' })).toThrow(
			'has no memory area “nowhere”'
		);
	});
});
