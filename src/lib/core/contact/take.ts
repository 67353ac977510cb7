import { deviceSchema, factsFromProfile } from '../gear';
import { Problem } from '../problem';
import { sameFamily } from '../profile';
import { hostWays, rigPortId } from '../rig';
import { Draft, type Taking } from './draft';
import type { Surroundings } from './found';
import { isOwnPort, type PortGroup } from './port-groups';
import { interfaceOf, interfacePorts, knownSockets, portKey, socketNumbered } from './sockets';
import { cableFrom, cableTo } from './take-cables';
import type { TakeOrder } from './take-order';
import { intoComputer, takeOwnPort } from './take-usb';

/** The interface that a group of ports is, with all its ports noted; made where the catalogue has none. */
function takeInterface(draft: Draft, group: PortGroup): void {
	const { around, order } = draft;
	if (draft.interfaces.has(group)) return;
	const known = knownSockets(around.remembered, order.present);
	const found = interfaceOf(group, around.devices, known, around.remembered);
	const device =
		found?.id ??
		draft.add(
			deviceSchema.parse({
				name: group.name.slice(0, 60),
				maker: group.maker.slice(0, 60),
				model: group.name.slice(0, 60),
				kind: 'interface',
				ports: interfacePorts(group)
			})
		);
	draft.interfaces.set(group, device);
	if (!found) intoComputer(draft, device);
	for (const direction of ['in', 'out'] as const)
		for (const { port, number } of direction === 'in' ? group.ins : group.outs) {
			if (draft.sockets.has(portKey(port))) continue;
			const word = direction === 'in' ? 'In' : 'Out';
			const socket = socketNumbered(draft.portsOf(device), direction, number);
			const key = socket
				? rigPortId(device, socket.id)
				: draft.addSocket(device, { name: `${word} ${number}`, direction, connector: 'din' });
			draft.remember(port.id, direction, key);
		}
}

/**
 * What taking what was found into the catalogue writes: devices, the interface that the ports are those of (made from
 * the computer's own port names), cables, which port is which, device IDs. Nothing is written here.
 * @throws Problem `take.no-port`, `take.no-device`, `take.no-profile`
 */
export function planTake(around: Surroundings, order: TakeOrder, newId: () => string): Taking {
	const draft = new Draft(around, order, newId);
	const port = (portId: string | null, direction: 'in' | 'out') => {
		if (portId === null) return null;
		const found = order.present.find((one) => one.id === portId && one.direction === direction);
		if (!found)
			throw new Problem(
				'take.no-port',
				'The computer no longer shows the port that it was found at.',
				'Look again what is plugged in.'
			);
		return found;
	};
	const groupOf = (portId: string | null, direction: 'in' | 'out') =>
		portId === null
			? undefined
			: draft.groups.find((group) =>
					(direction === 'in' ? group.ins : group.outs).some(({ port: one }) => one.id === portId)
				);
	for (const name of order.interfaces) {
		const group = draft.groups.find((one) => one.name === name);
		if (group) takeInterface(draft, group);
	}
	const ways = new Map(hostWays(around.rig).map((way) => [way.device, way]));
	/** Who answered at which out, by device: those keep their place there. */
	const metAt = new Map<string, Set<string>>();
	const placed = order.items.map((item) => {
		port(item.out, 'out');
		port(item.in, 'in');
		const profile =
			item.profileId === null ? null : around.profiles.find(({ id: one }) => one === item.profileId);
		if (profile === undefined)
			throw new Problem(
				'take.no-profile',
				'That profile is no longer there.',
				'Look again what is plugged in.'
			);
		const known = item.device === null ? null : around.devices.find(({ id: one }) => one === item.device);
		if (known === undefined)
			throw new Problem(
				'take.no-device',
				'That device is no longer in the catalogue.',
				'Look again what is plugged in.'
			);
		const group = groupOf(item.out, 'out') ?? groupOf(item.in, 'in');
		const names = [
			known?.name ?? '',
			item.name,
			...(profile ? [profile.model, `${profile.maker} ${profile.model}`] : [])
		].filter(Boolean);
		const wanted = item.name || (profile ? profile.model : `Unknown on ${group?.name ?? 'the bench'}`);
		const usual = profile && factsFromProfile(profile, wanted);
		const device =
			known?.id ??
			draft.add(
				usual
					? { ...usual, deviceId: item.deviceId ?? usual.deviceId }
					: deviceSchema.parse({
							name: wanted.slice(0, 60),
							deviceId: item.deviceId,
							ports: [
								{ id: 'in', name: 'MIDI in', direction: 'in', connector: 'din' },
								{ id: 'out', name: 'MIDI out', direction: 'out', connector: 'din' }
							]
						}),
				item.unit
			);
		if (known && item.unit !== null && known.benchUnit !== item.unit)
			draft.taking.units.push({ device, unit: item.unit });
		const was = known && around.profiles.find(({ id: one }) => one === known.profileId);
		if (profile && was && was.id !== profile.id && sameFamily(was, profile))
			draft.taking.profiles.push({ device, profileId: profile.id });
		if (item.out !== null) metAt.set(item.out, (metAt.get(item.out) ?? new Set()).add(device));
		return { item, device, known, profile, group, own: group !== undefined && isOwnPort(group, names) };
	});
	for (const { item, device, known, profile, group, own } of placed) {
		let ends: { out: string | null; in: string | null } = { out: null, in: null };
		if (group && own) ends = takeOwnPort(draft, device, group);
		else if (item.out !== null || item.in !== null) {
			for (const [portId, direction] of [
				[item.out, 'out'],
				[item.in, 'in']
			] as const) {
				const its = groupOf(portId, direction);
				if (its) takeInterface(draft, its);
			}
			ends = {
				out: item.out === null ? null : draft.sockets.get(portKey({ direction: 'out', id: item.out }))!,
				in: item.in === null ? null : draft.sockets.get(portKey({ direction: 'in', id: item.in }))!
			};
			const way = ways.get(device);
			if (ends.out && way?.out?.port !== ends.out) cableTo(draft, ends.out, device, metAt.get(item.out!)!);
			if (ends.in && way?.in?.port !== ends.in) cableFrom(draft, device, ends.in);
		}
		if (known && item.deviceId !== null && profile?.addressing.deviceId && known.deviceId !== item.deviceId)
			draft.taking.changes.push({ do: 'set', device, deviceId: item.deviceId });
		const name = known?.name ?? draft.taking.devices.find(({ id: one }) => one === device)!.facts.name;
		draft.taking.met.push({ device, name, ...ends, item });
	}
	return draft.taking;
}
