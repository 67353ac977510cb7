import { rigSchema, type Rig } from '../rig';

/** A number between 0 and 1 each time. */
export type Random = () => number;

export function seeded(seed: number): Random {
	let state = seed >>> 0;
	return () => {
		state = (Math.imul(state ^ (state >>> 15), 0x2c1b3c6d) + 0x9e3779b9) >>> 0;
		let z = state;
		z = Math.imul(z ^ (z >>> 16), 0x21f0aaad);
		z = Math.imul(z ^ (z >>> 15), 0x735a2d97);
		return ((z ^ (z >>> 15)) >>> 0) / 4294967296;
	};
}

/**
 * A made-up studio of some size.
 * @param cabled share of the devices that are cabled today
 */
export function madeStudio(devices: number, outs: number, seed: number, cabled = 0.6): Rig {
	const random = seeded(seed);
	const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)];
	const places = ['Desk', 'Rack', 'Floor'];
	const interfaces = Math.ceil(outs / 8);
	const outIds = Array.from({ length: outs }, (_, i) => `i${Math.floor(i / 8)}.out${(i % 8) + 1}`);
	const inIds = outIds.map((id) => id.replace('out', 'in'));
	const freeOuts = [...outIds];
	const freeIns = [...inIds];
	const cables: { from: string; to: string }[] = [];
	const settings: { device: string; channel: number; deviceId?: number }[] = [];
	let returns = 0;
	const list = Array.from({ length: devices }, (_, i) => {
		const id = `d${i}`;
		const back = random() < 0.35 && returns < outs;
		if (back) returns++;
		const parts = random() < 0.08 ? 4 : 1;
		const today = random() < cabled;
		if (today && freeOuts.length > 0) {
			cables.push({ from: freeOuts.splice(Math.floor(random() * freeOuts.length), 1)[0], to: `${id}.in` });
			settings.push({ device: id, channel: parts > 1 ? 1 : 1 + Math.floor(random() * 4) });
			if (back && freeIns.length > 0) cables.push({ from: `${id}.out`, to: freeIns.splice(0, 1)[0] });
		}
		return {
			id,
			name: `Device ${i + 1}`,
			place: pick(places),
			kind: 'sound module',
			ports: [
				{ id: `${id}.in`, name: 'In', direction: 'in' as const, connector: 'din' as const },
				{ id: `${id}.out`, name: 'Out', direction: 'out' as const, connector: 'din' as const },
				...(random() < 0.85
					? [{ id: `${id}.thru`, name: 'Thru', direction: 'thru' as const, connector: 'din' as const }]
					: [])
			],
			receive: { parts, omni: random() < 0.02 },
			wants: { return: back, bytesPerSecond: 20 * Math.ceil(random() * 25), tight: random() < 0.06 }
		};
	});
	return rigSchema.parse({
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			...Array.from({ length: interfaces }, (_, i) => ({
				id: `i${i}`,
				name: `Interface ${i + 1}`,
				place: places[i % places.length],
				kind: 'interface',
				ports: [
					...outIds
						.filter((id) => id.startsWith(`i${i}.`))
						.map((id) => ({ id, name: id.split('.')[1], direction: 'out', connector: 'din' })),
					...inIds
						.filter((id) => id.startsWith(`i${i}.`))
						.map((id) => ({ id, name: id.split('.')[1], direction: 'in', connector: 'din' }))
				]
			})),
			...list
		],
		cables,
		settings
	});
}
