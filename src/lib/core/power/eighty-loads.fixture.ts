import { pick, seededRandom } from '../bench';
import { powerSchema, type Power } from './power';

/** A studio’s floor and racks: 80 loads, 8 supplies of 5 outputs with so many plugs each, fifty of them plugged in at random. */
export function eightyLoads(seed: number, plugs = 3): Power {
	const random = seededRandom(seed);
	const loads = Array.from({ length: 80 }, (_, i) => ({
		id: `l${i}`,
		name: `Load ${i}`,
		volts: pick<[number, number]>(random, [
			[9, 9],
			[9, 9],
			[9, 18],
			[12, 12]
		]),
		kind: 'DC' as const,
		polarity: pick(random, ['negative', 'negative', 'negative', 'positive'] as const),
		ma: pick(random, [15, 30, 60, 100, 120, 180, 250]),
		isolated: random() < 0.15
	}));
	const supplies = Array.from({ length: 8 }, (_, s) => ({
		id: `s${s}`,
		name: `Supply ${s}`,
		groups: [{ id: 'g', ma: 2000 }],
		outputs: Array.from({ length: 5 }, (_, o) => ({
			id: `o${o}`,
			name: `${o + 1}`,
			volts: o === 4 ? [12] : o === 3 ? [9, 12] : [9],
			kind: 'DC' as const,
			polarity: s >= 6 ? ('positive' as const) : ('negative' as const),
			ma: pick(random, [300, 400, 500]),
			isolated: o < 2,
			group: 'g',
			plugs
		}))
	}));
	const cables = loads.slice(0, 50).map(({ id }, i) => ({
		load: id,
		supply: `s${i % 8}`,
		output: `o${Math.floor(i / 8) % 5}`
	}));
	return powerSchema.parse({ loads, supplies, cables });
}
