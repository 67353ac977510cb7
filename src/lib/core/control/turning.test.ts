import { describe, expect, it } from 'vitest';
import { checkMap } from './checks';
import { applyEdits } from '../edit';
import { mapSchema } from './map';
import { assigned, link, mapOf, shippedSurface } from './map.fixture';
import { hurts } from './resolution';
import { hurtsNow, sharedTurning, turnedLines, turnedName, turnTo } from './turning';

const page = (...assignments: object[]) => [{ number: 1, name: 'Dusk', assignments }];
const larch = (...assignments: object[]) => mapOf('fallow-larch-16', { pages: page(...assignments) });

describe('how far encoders turn', () => {
	it('is worked out for each that turns a range, and for nothing else', () => {
		const map = larch(
			assigned('turn-1', 'cutoff'),
			assigned('turn-2', 'morph'),
			assigned('turn-3', 'sustain'),
			assigned('turn-4', 'cutoff', { gesture: 'push', way: 'value', value: 100 }),
			{ control: 'turn-5', empty: true },
			assigned('turn-6', 'resonance', {}, { from: 50, to: 50 })
		);
		const lines = turnedLines(map);
		expect(lines.map(({ control, steps, now }) => [control.id, steps, now])).toEqual([
			['turn-1', 127, 1],
			['turn-2', 16383, 1]
		]);
		// 127 steps on 30 notches are 4.2 turns; sixteen thousand are never within four.
		expect(lines.map(({ ways }) => ways.map(({ turns }) => Number(turns.toFixed(2))))).toEqual([
			[4.23, 2.12, 1.06, 0.53],
			[546.1, 273.05, 136.53, 68.26]
		]);
		expect(lines.map(({ best }) => best)).toEqual([2, 8]);
		for (const { steps, best } of lines)
			for (const way of [1, 2, 4, 8])
				expect(hurts(steps, 30, best)).toBeLessThanOrEqual(hurts(steps, 30, way));
		const turned = mapSchema.parse(applyEdits(map, turnTo(lines, 'best')));
		expect(turnedLines(turned).map(({ now }) => now)).toEqual([2, 8]);
		expect(hurtsNow(turnedLines(turned)[0])).toBe(0);
		expect(turnTo(turnedLines(turned), 'best')).toEqual([]);
	});

	it('has one setting where the surface has one: whom it does not suit, and what else would help', () => {
		const weir = mapOf('osier-weir-9', {
			pages: page(
				assigned('push-1', 'morph'),
				assigned('push-2', 'cutoff', {}, { from: 100, to: 200 }),
				assigned('push-3', 'turn')
			)
		});
		const shared = sharedTurning(weir)!;
		expect(shared.acceleration).toBe(3);
		expect(shared.suffers.map(({ line, helps }) => [turnedName(weir, line), helps])).toEqual([
			['layer 1, Push 1', ['a smaller range, of 240 steps at most']],
			[
				'layer 1, Push 2',
				['fine adjustment with shift: nothing is on that yet', 'turning it slowly: a slow notch counts 1']
			]
		]);
		const fixed = mapSchema.parse(applyEdits(weir, turnTo(turnedLines(weir), shared.acceleration)));
		expect(checkMap(fixed).some(({ rule }) => rule === 'acceleration-for-all')).toBe(false);
		expect(sharedTurning(larch(assigned('turn-1', 'cutoff')))).toBeNull();
		expect(sharedTurning(mapOf('osier-weir-9'))).toBeNull();
	});

	it('would be helped by 14 bits only where the control can send them, and by shift only where it has it', () => {
		const surface = { ...shippedSurface('fallow-larch-16'), oneAcceleration: true };
		const map = mapOf('fallow-larch-16', {
			surface,
			pages: page(...Array.from({ length: 6 }, (_, i) => assigned(`turn-${i + 2}`, 'morph')), {
				control: 'turn-1',
				links: [link('cutoff', { from: 100, to: 200 })]
			})
		});
		const { acceleration, suffers } = sharedTurning(map)!;
		expect(acceleration).toBe(8);
		expect(suffers.find(({ line }) => line.control.id === 'turn-1')!.helps).toEqual([
			'14 bits, which it can send',
			'turning it slowly: a slow notch counts 1'
		]);
	});
});
