import { rigSchema, type Rig, type RigFile } from '../rig';
import { seeded } from './studio.fixture';

/** A studio small enough for trying everything, with every kind of wish in it now and then. */
export function smallStudio(seed: number): Rig {
	const random = seeded(seed);
	const chance = (share: number) => random() < share;
	const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
	const places = ['Desk', 'Rack'];
	const many = 2 + Math.floor(random() * 3);
	const outs = 1 + Math.floor(random() * 3);
	/** Now and then a studio has sockets of both TRS types. */
	const trs = chance(0.25);
	const port = (id: string, direction: 'in' | 'out' | 'thru') => ({
		id,
		name: id,
		direction,
		connector: trs && chance(0.7) ? pick(['trs-a', 'trs-b'] as const) : ('din' as const)
	});
	const devices: NonNullable<RigFile['devices']>[number][] = Array.from({ length: many }, (_, i) => {
		const id = `d${i}`;
		const parts = chance(0.2) ? 2 : 1;
		const channels = chance(0.3) ? [1, 2, 3, 4, 5].filter(() => chance(0.6)) : [1, 2, 3, 4];
		return {
			id,
			name: id,
			place: pick(places),
			kind: 'sound module',
			model: pick(['Model A', 'Model B', 'model a', '']),
			ports: [
				port(`${id}.in`, 'in'),
				...(chance(0.9) ? [port(`${id}.out`, 'out')] : []),
				...(chance(0.7) ? [port(`${id}.thru`, 'thru')] : [])
			],
			receive: {
				channels: channels.length > 0 ? channels : [2],
				parts,
				adjacent: chance(0.7),
				omni: chance(0.1)
			},
			wants: { return: chance(0.4), bytesPerSecond: Math.floor(random() * 15) * 50, tight: chance(0.25) },
			lock: {
				...(chance(0.12) ? { out: `i.out${1 + Math.floor(random() * outs)}` } : {}),
				...(chance(0.1) ? { channel: pick(channels.length > 0 ? channels : [2]) } : {}),
				...(chance(0.08) ? { in: 'i.in1' } : {})
			}
		};
	});
	const box = many < 4 && chance(0.25);
	const merge = chance(0.25);
	const player = chance(0.3);
	const usb = many < 4 && chance(0.25);
	const rig = {
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			{
				id: 'i',
				name: 'i',
				place: pick(places),
				kind: 'interface',
				ports: [
					...Array.from({ length: outs }, (_, i) => port(`i.out${i + 1}`, 'out')),
					...Array.from({ length: 1 + Math.floor(random() * 2) }, (_, i) => port(`i.in${i + 1}`, 'in'))
				]
			},
			...(box
				? [
						{
							id: 'box',
							name: 'box',
							kind: 'thru box',
							ports: [port('box.in', 'in'), port('box.out1', 'out'), port('box.out2', 'out')]
						}
					]
				: []),
			...(merge
				? [
						{
							id: 'mix',
							name: 'mix',
							kind: 'merge box',
							ports: [port('mix.in1', 'in'), port('mix.in2', 'in'), port('mix.out', 'out')]
						}
					]
				: []),
			...(player
				? [
						{
							id: 'pl',
							name: 'pl',
							kind: 'foot controller',
							ports: [port('pl.out', 'out'), port('pl.out2', 'out')],
							sends: [1]
						}
					]
				: []),
			...(usb
				? [
						{
							id: 'pc',
							name: 'pc',
							kind: 'computer',
							ports: Array.from({ length: 1 + Math.floor(random() * 2) }, (_, i) => ({
								...port(`pc.usb${i}`, 'out'),
								direction: 'both' as const,
								connector: 'usb-host' as const
							}))
						},
						...Array.from({ length: 1 + Math.floor(random() * 2) }, (_, i) => ({
							id: `u${i}`,
							name: `u${i}`,
							kind: 'sound module',
							receive: { channels: [1, 2, 3, 4, 5] },
							ports: [
								{ ...port(`u${i}.usb`, 'out'), direction: 'both' as const, connector: 'usb-device' as const }
							]
						}))
					]
				: []),
			...devices
		],
		limits: { chain: 1 + Math.floor(random() * 3), load: pick([0.2, 0.7]) }
	};
	// Today's cabling: whatever happens to fit, now and then with the wrong adapter.
	const connectors = new Map<string, string>(
		rig.devices.flatMap(({ ports }) => (ports ?? []).map(({ id, connector }) => [id, connector] as const))
	);
	const cable = (from: string, to: string) => {
		const crossing = [connectors.get(from), connectors.get(to)].sort().join() === 'trs-a,trs-b';
		return { from, to, ...(crossing && chance(0.7) ? { adapter: 'crossing' as const } : {}) };
	};
	const free = new Set(
		['d0', 'd1', 'd2', 'd3', 'box']
			.flatMap((id) => [`${id}.thru`, `${id}.out1`, `${id}.out2`])
			.concat(['i.out1', 'i.out2', 'i.out3', 'pl.out'])
	);
	const exists = new Set(connectors.keys());
	const cables: { from: string; to: string }[] = [];
	if (box && chance(0.6)) {
		free.delete('i.out1');
		cables.push(cable('i.out1', 'box.in'));
	}
	for (const { id } of devices) {
		const able = [...free].filter((socket) => exists.has(socket) && !socket.startsWith(`${id}.`));
		if (chance(0.6) && able.length > 0) {
			const from = pick(able);
			free.delete(from);
			cables.push(cable(from, `${id}.in`));
		}
		const back = pick(['i.in1', 'i.in2', 'mix.in1', 'mix.in2']);
		if (chance(0.5) && exists.has(`${id}.out`) && exists.has(back) && !cables.some(({ to }) => to === back))
			cables.push(cable(`${id}.out`, back));
	}
	if (player && chance(0.4) && !cables.some(({ to }) => to === 'i.in1'))
		cables.push(cable('pl.out2', 'i.in1'));
	if (usb && chance(0.3)) cables.push({ from: 'u0.usb', to: 'pc.usb0' });
	const shown = chance(0.3);
	const hostPort = (socket: string, direction: 'in' | 'out', n: number) => ({
		id: `${socket} ${direction}`,
		name: socket,
		number: n,
		direction,
		port: socket,
		playing: chance(0.7),
		hidden: chance(0.15)
	});
	const outPorts = Array.from({ length: outs }, (_, i) => `i.out${i + 1}`);
	/** Now and then a tablet has some of the sockets, and the computer all others, or all others with a name. */
	const tablet = shown && chance(0.6);
	const onTablet = (socket: string) => tablet && (socket === 'i.out1' || socket === 'i.in2');
	const inPorts = ['i.in1', 'i.in2'].filter((socket) => exists.has(socket));
	if (tablet) for (const device of devices) if (chance(0.25)) device.wants!.host = pick(['host', 'tablet']);
	return rigSchema.parse({
		...rig,
		cables,
		...(shown
			? {
					hosts: [
						{
							ports: [
								...outPorts
									.filter((socket) => !onTablet(socket) && (!tablet || chance(0.8)))
									.map((socket, i) => hostPort(socket, 'out', i + 1)),
								...(tablet
									? inPorts
											.filter((socket) => !onTablet(socket))
											.map((socket, i) => hostPort(socket, 'in', i + 1))
									: [])
							]
						},
						...(tablet
							? [
									{
										id: 'tablet',
										name: 'Tablet',
										ports: [
											...outPorts.filter(onTablet).map((socket, i) => hostPort(socket, 'out', i + 1)),
											...inPorts.filter(onTablet).map((socket, i) => hostPort(socket, 'in', i + 1))
										]
									}
								]
							: [])
					]
				}
			: {}),
		settings: [...devices, ...(usb ? [{ id: 'u0' }, { id: 'u1' }] : [])]
			.filter(({ id }) => rig.devices.some((device) => device.id === id) && chance(0.8))
			.map(({ id }) => ({
				device: id,
				channel: 1 + Math.floor(random() * 4),
				...(chance(0.7) ? { deviceId: Math.floor(random() * 2) } : {})
			}))
	});
}
