import type { Rig, RigDevice } from '../rig';
import type { Goals, Policy } from './policy';

/** All ways to choose one of each list. */
function* choices<T>(lists: readonly (readonly T[])[]): Generator<T[]> {
	if (lists.length === 0) {
		yield [];
		return;
	}
	for (const rest of choices(lists.slice(1))) for (const first of lists[0]) yield [first, ...rest];
}

function* subsets(list: readonly number[], size: number): Generator<number[]> {
	if (size === 0) {
		yield [];
		return;
	}
	for (let i = 0; i <= list.length - size; i++)
		for (const rest of subsets(list.slice(i + 1), size - 1)) yield [list[i], ...rest];
}

const less = (a: number[], b: number[]) => {
	for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i] < b[i];
	return false;
};

/**
 * The best goals of a small studio, by trying everything: each device in every socket, with every choice of channels and
 * every return. It knows DIN sockets `x.in`, `x.out`, `x.thru…`, one interface or more, thru boxes and merge boxes.
 */
export function bruteForce(rig: Rig, policy: Policy): Omit<Goals, 'broken'> {
	const interfaces = rig.devices.filter(({ kind }) => kind === 'interface');
	const outs = interfaces.flatMap((device) =>
		device.ports.filter(({ direction }) => direction === 'out').map(({ id }) => ({ id, place: device.place }))
	);
	const ins = interfaces.flatMap((device) =>
		device.ports.filter(({ direction }) => direction === 'in').map(({ id }) => ({ id, place: device.place }))
	);
	const isUsb = (device: RigDevice) => device.ports.some(({ connector }) => connector === 'usb-device');
	const modules = rig.devices.filter(({ kind }) => kind === 'sound module');
	const real = modules.filter((device) => !isUsb(device));
	const alone = policy === 'port-per-instrument';
	const boxes = rig.devices.filter(({ kind }) => kind === 'thru box');
	const merges = rig.devices.filter(({ kind }) => kind === 'merge box');
	const thrus = (device: RigDevice) =>
		device.ports
			.filter(({ direction }) => direction === 'thru' || (device.kind === 'thru box' && direction === 'out'))
			.map(({ id }) => id);
	const hasOut = (device: RigDevice) => device.ports.some(({ direction }) => direction === 'out');
	const connectors = new Map(
		rig.devices.flatMap(({ ports }) => ports.map(({ id, connector }) => [id, connector]))
	);
	const isPair = (a: string, b: string) => connectors.get(a) === 'trs-a' && connectors.get(b) === 'trs-b';
	const crossing = (a: string, b: string) => isPair(a, b) || isPair(b, a);
	const hasCable = (from: string, to: string) =>
		rig.cables.some(
			(cable) =>
				cable.from === from && cable.to === to && crossing(from, to) === (cable.adapter === 'crossing')
		);
	const plugging = (from: string, to: string, computer: string) =>
		hasCable(from, to)
			? 0
			: crossing(from, to) && interfaces.some(({ id }) => computer.startsWith(`${id}.`))
				? 2
				: 1;
	/** Cables that stay where they are: players’ own, and outs that want no return. */
	const played = (device: RigDevice) =>
		rig.cables.some(({ from, to }) => to === `${device.id}.in` && from.startsWith('pl.'));
	const wantsBack = (device: RigDevice) => device.wants.return || device.lock.in !== undefined;
	const outsider = (into: string) =>
		rig.cables.some(
			({ from, to }) =>
				to === into &&
				(from.startsWith('pl.') || real.some((device) => from === `${device.id}.out` && !wantsBack(device)))
		);
	const isOff = (socket: string, way: 'in' | 'out') => {
		const shown = rig.hosts
			.flatMap(({ ports }) => ports)
			.filter(({ port, direction }) => port === socket && direction === way);
		return shown.length > 0 && !shown.some(({ playing, hidden }) => playing && !hidden);
	};
	/** The host of a socket, by the names of the ports; both, where it has none. */
	const hostOf = (socket: string) =>
		rig.hosts.filter(({ ports }) => ports.some(({ port }) => port === socket));
	const mine = (device: RigDevice): string | null => {
		if (rig.hosts.length < 2) return null;
		const { wants, lock } = device;
		const sure = (sockets: (string | undefined)[]) => {
			const named = sockets.flatMap((socket) => (socket === undefined ? [] : hostOf(socket)));
			return new Set(named).size === 1 ? named[0].id : undefined;
		};
		return (
			wants.host ??
			sure([lock.out]) ??
			sure([lock.in]) ??
			sure(rootsToday(device, 'out')) ??
			sure(rootsToday(device, 'in')) ??
			rig.hosts.find((host) => outs.some(({ id }) => hostOf(id).length === 0 || hostOf(id).includes(host)))
				?.id ??
			rig.hosts[0].id
		);
	};
	/** The computer's sockets at the ends of today's cables: back to the out, or on to the in. */
	const rootsToday = (device: RigDevice, end: 'out' | 'in'): string[] => {
		const fits = ({ from, to }: { from: string; to: string }) => hasCable(from, to);
		const seen = new Set([device.id]);
		const waiting = [device];
		const found: string[] = [];
		for (let at = waiting.pop(); at; at = waiting.pop())
			for (const cable of rig.cables.filter(fits)) {
				const [here, there] = end === 'out' ? [cable.to, cable.from] : [cable.from, cable.to];
				const [near, far] = [here, there].map((socket) =>
					rig.devices.find(({ ports }) => ports.some(({ id }) => id === socket))!
				);
				if (near !== at || seen.has(far.id)) continue;
				const direction = near.ports.find(({ id }) => id === here)!.direction;
				if (end === 'in' && direction !== 'out') continue;
				if (far.kind === 'interface') found.push(there);
				const passes =
					end === 'out'
						? far.kind === 'thru box' || far.ports.find(({ id }) => id === there)!.direction === 'thru'
						: far.kind === 'merge box';
				if (!passes) continue;
				seen.add(far.id);
				waiting.push(far);
			}
		return found;
	};
	const hostOk = (device: RigDevice, socket: string) =>
		mine(device) === null ||
		hostOf(socket).length === 0 ||
		hostOf(socket).some(({ id }) => id === mine(device));
	const usb = modules.filter(isUsb);
	const computers = rig.devices.filter(({ kind }) => kind === 'computer').flatMap(({ ports }) => ports);
	const unplugged =
		computers.length === 0
			? 0
			: usb.filter(({ id }) => !rig.cables.some(({ from }) => from === `${id}.usb`)).length;
	const freeUsb = computers.filter(
		({ id }) => !rig.cables.some(({ from, to }) => id === to || id === from)
	).length;
	const usbMoves = Math.min(unplugged, freeUsb);
	const setting = (device: RigDevice) => rig.settings.find((entry) => entry.device === device.id);
	const today = (device: RigDevice) => {
		const channel = setting(device)?.channel;
		return channel == null
			? []
			: Array.from({ length: device.receive.parts }, (_, i) => channel + i).filter((c) => c <= 16);
	};
	const channelChoices = (device: RigDevice): number[][] => {
		const all = [
			...subsets(
				[...device.receive.channels].sort((a, b) => a - b),
				device.receive.parts
			)
		];
		return all
			.filter((set) => !device.receive.adjacent || set.every((channel, i) => channel === set[0] + i))
			.filter((set) => device.lock.channel === undefined || set[0] === device.lock.channel);
	};
	let best: number[] | null = null;

	const nodes = [...real, ...boxes];
	const sockets = [...outs.map(({ id }) => id), ...nodes.flatMap(thrus)];
	/** Alone on its out, a device may stay behind boxes that stay too. */
	const able = (node: RigDevice) =>
		!alone
			? [null, ...sockets]
			: [
					null,
					...sockets.filter(
						(socket) =>
							hasCable(socket, `${node.id}.in`) &&
							(outs.some(({ id }) => id === socket) || boxes.some((box) => thrus(box).includes(socket)))
					),
					...(boxes.includes(node)
						? []
						: outs.map(({ id }) => id).filter((id) => !hasCable(id, `${node.id}.in`)))
				];
	for (const chosen of choices(nodes.map(able))) {
		const used = chosen.filter((socket) => socket !== null);
		if (new Set(used).size < used.length) continue;
		const placed = real.filter((device, i) => chosen[i] !== null);
		const unplaced = real.length - placed.length;
		if (best && unplaced > best[0]) continue;
		// Where each node hangs, and how deep.
		const rootOf = (i: number, depth = 1): { out: string; hop: number } | null => {
			const socket = chosen[i];
			if (socket === null || depth > nodes.length) return null;
			if (outs.some(({ id }) => id === socket)) return { out: socket, hop: 1 };
			const parent = nodes.findIndex((node) => thrus(node).includes(socket));
			const above = rootOf(parent, depth + 1);
			return above && { out: above.out, hop: above.hop + 1 };
		};
		const roots = nodes.map((_, i) => rootOf(i));
		if (nodes.some((_, i) => chosen[i] !== null && (roots[i] === null || roots[i]!.hop > rig.limits.chain)))
			continue;
		if (placed.some((device) => device.lock.out && roots[nodes.indexOf(device)]!.out !== device.lock.out))
			continue;
		if (placed.some((device) => wantsBack(device) && !hasOut(device))) continue;
		if (placed.some((device) => !hostOk(device, roots[nodes.indexOf(device)]!.out))) continue;
		const company = (device: RigDevice) =>
			placed.filter(
				(other) => other !== device && roots[nodes.indexOf(other)]!.out === roots[nodes.indexOf(device)]!.out
			);
		if (placed.some((device) => (alone || device.receive.omni) && company(device).length > 0)) continue;
		const loads = outs.map(({ id }) =>
			placed
				.filter((device) => roots[nodes.indexOf(device)]!.out === id)
				.reduce((sum, device) => sum + device.wants.bytesPerSecond, 0)
		);
		if (Math.max(...loads) > rig.limits.load * 3125) continue;
		const returned = returns(placed);
		if (!returned) continue;
		const crowded = placed.filter((device) => device.wants.tight && company(device).length > 0).length;
		const feedMoves =
			usbMoves +
			nodes.reduce(
				(sum, device, i) =>
					chosen[i] === null ? sum : sum + plugging(chosen[i]!, `${device.id}.in`, chosen[i]!),
				0
			) +
			new Set(roots.flatMap((root) => (root && isOff(root.out, 'out') ? [root.out] : []))).size +
			placed.filter(played).length;
		const ids = placed.filter((device, i) =>
			placed
				.slice(0, i)
				.some(
					(other) =>
						company(device).includes(other) &&
						other.model !== '' &&
						other.model.toLowerCase() === device.model.toLowerCase() &&
						setting(other)?.deviceId != null &&
						setting(other)?.deviceId === setting(device)?.deviceId
				)
		).length;
		const feedAway = placed.filter((device) => {
			const place = outs.find(({ id }) => id === roots[nodes.indexOf(device)]!.out)!.place;
			return device.place !== '' && place !== '' && device.place !== place;
		}).length;
		const lower = [unplaced, crowded, feedMoves + ids + returned.moves];
		if (best && less(best.slice(0, 3), lower)) continue;
		// By USB alone a device has a place; studio-wide it takes channels too.
		const listening = policy === 'studio-wide-channels' ? [...placed, ...usb] : placed;
		for (const channels of choices(listening.map(channelChoices))) {
			const clash = listening.some((a, i) =>
				listening.some(
					(b, j) =>
						j > i &&
						(policy === 'studio-wide-channels' || company(a).includes(b)) &&
						channels[i].some((channel) => channels[j].includes(channel))
				)
			);
			if (clash) continue;
			const changed = listening.filter((device, i) => channels[i].join() !== today(device).join()).length;
			const value = [
				unplaced,
				crowded,
				feedMoves + ids + returned.moves + changed,
				Math.max(...loads),
				feedAway + returned.away,
				channels.flat().reduce((a, b) => a + b, 0)
			];
			if (!best || less(value, best)) best = value;
		}
	}
	const [unplaced, crowded, moves, busiest, away, channels] = best!;
	return { unplaced, crowded, moves, busiest, away, channels };

	/** The best returns of a set of devices: fewest moves, then fewest to another place. */
	function returns(placed: RigDevice[]): { moves: number; away: number } | null {
		const wanting = placed.filter(wantsBack);
		let found: number[] | null = null;
		for (const into of choices(merges.map(() => [null, ...ins.map(({ id }) => id)]))) {
			const boxed = into.filter((entry) => entry !== null);
			if (new Set(boxed).size < boxed.length) continue;
			const boxMoves = merges.filter(
				(box, i) => into[i] !== null && !hasCable(`${box.id}.out`, into[i]!)
			).length;
			const able = merges.filter((_, i) => into[i] !== null).map(({ id }) => id);
			for (const chosen of choices(
				wanting.map((device) => (device.lock.in ? [device.lock.in] : [...ins.map(({ id }) => id), ...able]))
			)) {
				const direct = chosen.filter((entry) => !able.includes(entry));
				if (new Set([...direct, ...boxed]).size < direct.length + boxed.length) continue;
				if (
					merges.some(
						(box) =>
							chosen.filter((entry) => entry === box.id).length >
							box.ports.filter(({ id, direction }) => direction === 'in' && !outsider(id)).length
					)
				)
					continue;
				const ends = chosen.map((entry) => into[merges.findIndex(({ id }) => id === entry)] ?? entry);
				if (wanting.some((device, i) => !hostOk(device, ends[i]))) continue;
				let [moves, away] = [
					boxMoves +
						[...direct, ...boxed].filter((into) => outsider(into!)).length +
						[...direct, ...boxed].filter((into) => isOff(into!, 'in')).length,
					0
				];
				wanting.forEach((device, i) => {
					const box = merges.find(({ id }) => id === chosen[i]);
					const targets = box
						? box.ports.filter(({ direction }) => direction === 'in').map(({ id }) => id)
						: [chosen[i]];
					moves += Math.min(
						...targets.map((target) => plugging(`${device.id}.out`, target, box ? '' : target))
					);
					const place = ins.find(({ id }) => id === chosen[i])?.place ?? '';
					if (device.place !== '' && place !== '' && device.place !== place) away++;
				});
				if (!found || less([moves, away], found)) found = [moves, away];
			}
		}
		return found && { moves: found[0], away: found[1] };
	}
}
