import { rigSchema, type Rig, type RigFile } from '../rig';
import { seeded } from './studio.fixture';

/**
 * A made-up studio with everything that makes planning hard: several parts, loose or adjacent, wide thru sockets, thru
 * boxes, merge boxes, locks, reserved channels, and most of it cabled today.
 */
export function mixedStudio(devices: number, outs: number, seed: number): Rig {
	const random = seeded(seed);
	const chance = (share: number) => random() < share;
	const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)];
	const places = ['Desk', 'Rack', 'Floor'];
	const port = (id: string, direction: 'in' | 'out' | 'thru') => ({
		id,
		name: id.split('.')[1],
		direction,
		connector: 'din' as const
	});
	const outIds = Array.from({ length: outs }, (_, i) => `i${Math.floor(i / 8)}.out${(i % 8) + 1}`);
	const inIds = outIds.map((id) => id.replace('out', 'in'));
	const boxes = Math.ceil(devices / 24);
	const free = [...outIds];
	const freeIns = [...inIds];
	const cables: { from: string; to: string }[] = [];
	const settings: NonNullable<RigFile['settings']> = [];
	const take = (list: string[]) => list.splice(Math.floor(random() * list.length), 1)[0];
	let returns = 0;
	const instruments = Array.from({ length: devices }, (_, i) => {
		const id = `d${i}`;
		const parts = chance(0.2) ? pick([2, 3, 4]) : 1;
		const thrus = chance(0.12) ? 0 : chance(0.15) ? 2 : 1;
		const back = chance(0.4) && returns < outs + 2 * boxes;
		if (back) returns++;
		if (chance(0.85)) {
			if (free.length > 0) cables.push({ from: take(free), to: `${id}.in` });
			if (thrus > 0 && chance(0.3)) free.push(`${id}.thru1`);
			if (back && freeIns.length > 0 && chance(0.8)) cables.push({ from: `${id}.out`, to: take(freeIns) });
			settings.push({ device: id, channel: 1 + Math.floor(random() * (parts > 1 ? 12 : 6)) });
		}
		const channels = chance(0.15)
			? Array.from({ length: 16 }, (_, c) => c + 1).filter((channel) => channel <= 10 || chance(0.5))
			: undefined;
		return {
			id,
			name: `Device ${i + 1}`,
			place: pick(places),
			kind: 'sound module',
			model: chance(0.2) ? pick(['Tarn', 'Weir']) : '',
			ports: [
				port(`${id}.in`, 'in'),
				port(`${id}.out`, 'out'),
				...Array.from({ length: thrus }, (_, n) => port(`${id}.thru${n + 1}`, 'thru'))
			],
			receive: {
				parts,
				adjacent: parts === 1 || chance(0.5),
				omni: chance(0.02),
				...(channels ? { channels } : {})
			},
			wants: { return: back, bytesPerSecond: 20 * Math.ceil(random() * 25), tight: chance(0.06) },
			lock: {
				...(chance(0.06) ? { out: pick(outIds) } : {}),
				...(chance(0.05) && parts === 1 ? { channel: 1 + Math.floor(random() * 10) } : {})
			}
		};
	});
	return rigSchema.parse({
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			...Array.from({ length: Math.ceil(outs / 8) }, (_, i) => ({
				id: `i${i}`,
				name: `Interface ${i + 1}`,
				place: places[i % places.length],
				kind: 'interface',
				ports: [...outIds, ...inIds]
					.filter((id) => id.startsWith(`i${i}.`))
					.map((id) => port(id, id.includes('.out') ? 'out' : 'in'))
			})),
			...Array.from({ length: boxes }, (_, i) => ({
				id: `t${i}`,
				name: `Box ${i + 1}`,
				place: pick(places),
				kind: 'thru box',
				ports: [port(`t${i}.in`, 'in'), ...[1, 2, 3].map((n) => port(`t${i}.out${n}`, 'out'))]
			})),
			...Array.from({ length: boxes }, (_, i) => ({
				id: `m${i}`,
				name: `Merge ${i + 1}`,
				place: pick(places),
				kind: 'merge box',
				ports: [port(`m${i}.in1`, 'in'), port(`m${i}.in2`, 'in'), port(`m${i}.out`, 'out')]
			})),
			...instruments
		],
		cables,
		settings,
		host: {
			ports: outIds.map((id, i) => ({
				id: `h${i}`,
				name: id,
				number: i + 1,
				direction: 'out',
				port: id,
				reserved: chance(0.1) ? 16 : null
			}))
		}
	});
}
