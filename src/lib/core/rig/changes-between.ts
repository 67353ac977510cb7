import { samePair, type RigChange } from './change';
import { wiringSchema, type Cable, type Rig } from './schema';

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

const sameCable = (a: Cable, b: Cable) =>
	a.from === b.from && a.to === b.to && a.adapter === b.adapter && a.length === b.length;

/** What a panel is set to, as it is told in a change; what was never noted is told as nothing. */
const setting = (rig: Rig, device: string) => {
	const {
		channel = null,
		deviceId = null,
		channels
	} = rig.settings.find((one) => one.device === device) ?? {};
	return { channel, deviceId, ...(channels ? { channels } : {}) };
};

/** What of a device's wiring differs: its new values by name. */
function wiringBetween(before: Rig['devices'][number] | undefined, after: Rig['devices'][number]) {
	const [then, now] = [before && wiringSchema.parse(before), wiringSchema.parse(after)];
	return (Object.keys(now) as (keyof typeof now)[])
		.filter((key) => !same(then?.[key], now[key]))
		.map((key) => [key, now[key]] as const);
}

/**
 * The changes that make one rig's wiring into another's, in an order that fits: pulled before plugged, hosts before
 * who is played by them. Devices and their sockets must be the same in both.
 */
export function changesBetween(before: Rig, after: Rig): RigChange[] {
	const changes: RigChange[] = [];
	for (const cable of before.cables)
		if (!after.cables.some((other) => sameCable(cable, other)))
			changes.push({ do: 'pull', from: cable.from, to: cable.to });
	for (const cable of after.cables)
		if (!before.cables.some((other) => sameCable(cable, other))) changes.push({ do: 'plug', ...cable });
	for (const [at, host] of after.hosts.entries())
		if (!before.hosts.some((other) => same(other, host))) changes.push({ do: 'host', host, at });
	for (const { id } of before.hosts)
		if (!after.hosts.some((host) => host.id === id)) changes.push({ do: 'host-gone', host: id });
	for (const device of after.devices) {
		const old = before.devices.find(({ id }) => id === device.id);
		const wiring = old === device ? [] : wiringBetween(old, device);
		if (wiring.length > 0)
			changes.push({ do: 'wire', device: device.id, wiring: Object.fromEntries(wiring) });
		if (!same(setting(before, device.id), setting(after, device.id)))
			changes.push({ do: 'set', device: device.id, ...setting(after, device.id) });
	}
	for (const devices of before.layers)
		if (!after.layers.some((pair) => samePair(pair, devices)))
			changes.push({ do: 'layer', devices, intended: false });
	for (const devices of after.layers)
		if (!before.layers.some((pair) => samePair(pair, devices)))
			changes.push({ do: 'layer', devices, intended: true });
	if (!same(before.limits, after.limits)) changes.push({ do: 'limits', ...after.limits });
	return changes;
}

/** Whether two rigs are of the same devices with the same sockets, so that changes for one can be made on the other. */
export const sameGear = (a: Rig, b: Rig): boolean => {
	const gear = (rig: Rig) =>
		rig.devices
			.map(({ id, ports }) =>
				JSON.stringify([id, ports.map((port) => [port.id, port.direction, port.connector])])
			)
			.sort();
	return same(gear(a), gear(b));
};
