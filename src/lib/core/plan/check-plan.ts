import type { Rig, RigDevice } from '../rig/schema';
import { countGoals, isGiven, isPlayer } from './count-goals';
import type { Plan } from './plan';
import type { Goals } from './policy';

/**
 * Checks a plan against a rig from first principles, with none of the planner's code: every hard rule, and every goal
 * counted anew. What it finds is a list of sentences; an empty one means that the plan is what it says.
 */
export function checkPlan(rig: Rig, plan: Plan): { faults: string[]; goals: Goals } {
	const faults: string[] = [];
	const complain = (says: string) => faults.push(says);
	const deviceOfPort = new Map<string, RigDevice>();
	for (const device of rig.devices) for (const port of device.ports) deviceOfPort.set(port.id, device);
	const device = (id: string) => rig.devices.find((entry) => entry.id === id)!;
	const setting = (id: string) => rig.settings.find((entry) => entry.device === id);
	const port = (id: string) => deviceOfPort.get(id)?.ports.find((entry) => entry.id === id);
	const reserved = (out: string) =>
		rig.hosts
			.flatMap((host) => host.ports)
			.filter((entry) => entry.port === out && entry.reserved !== null)
			.map((entry) => entry.reserved!);

	/** Hosts with a port for a socket, or else for another one of its device. */
	const hostsAt = (socket: string): string[] => {
		const beside = deviceOfPort.get(socket)!.ports.map(({ id }) => id);
		const naming = (sockets: string[]) =>
			rig.hosts
				.filter(({ ports }) => ports.some((entry) => sockets.includes(entry.port)))
				.map(({ id }) => id);
		return naming([socket]).length > 0 ? naming([socket]) : naming(beside);
	};
	const belongs = (socket: string, host: string) =>
		hostsAt(socket).length === 0 || hostsAt(socket).includes(host);

	// Each device once, each with a place that exists.
	const seen = new Set<string>();
	const onWire = plan.assignments.filter(({ out }) => out !== null && isGiven(rig, out));
	const nodes = [...onWire, ...plan.boxes.filter(({ out }) => out !== null)];
	for (const { device: id } of [...plan.assignments, ...plan.boxes]) {
		if (seen.has(id)) complain(`${id} has two places.`);
		seen.add(id);
	}
	for (const { device: id } of plan.unplaced) if (seen.has(id)) complain(`${id} is placed and unplaced.`);

	// Outs, chains and thru sockets.
	const usedSockets = new Map<string, string>();
	for (const { device: id, out, via, hop } of nodes) {
		if (deviceOfPort.get(out!)?.id === id) complain(`${id} is fed from itself.`);
		if (port(out!)?.direction === 'in') complain(`${id} is fed from ${out}, which is an in.`);
		const source = via ?? out!;
		if (usedSockets.has(source)) complain(`${source} feeds ${usedSockets.get(source)} and ${id}.`);
		usedSockets.set(source, id);
		if (hop > rig.limits.chain) complain(`${id} is ${hop} deep.`);
		if ((via === null) !== (hop === 1)) complain(`${id} is on hop ${hop} by ${via}.`);
		if (via !== null) {
			const parent = deviceOfPort.get(via);
			const above = nodes.find((node) => node.device === parent?.id);
			if (!above || above.out !== out || above.hop !== hop - 1)
				complain(`${id} hangs on ${via}, which is not one hop above it on ${out}.`);
			const socket = port(via);
			if (socket?.direction !== 'thru' && !/thru|splitter/i.test(parent?.kind ?? ''))
				complain(`${via} passes nothing on.`);
		}
		const own = device(id);
		if (own.lock.out && own.lock.out !== out) complain(`${id} is locked to ${own.lock.out}.`);
		const wireless = own.ports.some((entry) => entry.connector === 'wireless' && entry.direction !== 'out');
		if (wireless !== (port(out!)?.connector === 'wireless')) complain(`${id} cannot be joined to ${out}.`);
		if (plan.policy === 'port-per-instrument' && onWire.filter((node) => node.out === out).length > 1)
			complain(`${out} has more than one instrument.`);
	}

	// Channels.
	for (const { device: id, channels, out } of plan.assignments) {
		if (out === null) continue;
		const { receive, lock } = device(id);
		const direct = !isGiven(rig, out);
		if (direct && plan.policy !== 'studio-wide-channels') continue;
		if (channels.length !== receive.parts)
			complain(`${id} has ${channels.length} channels for ${receive.parts} parts.`);
		if (channels.some((channel) => !receive.channels.includes(channel)))
			complain(`${id} cannot receive on ${channels}.`);
		if (receive.adjacent && channels.some((channel, i) => channel !== channels[0] + i))
			complain(`The channels of ${id} are not adjacent.`);
		if (lock.channel !== undefined && !direct && channels[0] !== lock.channel)
			complain(`${id} is locked to channel ${lock.channel}.`);
		if (channels.some((channel) => reserved(out).includes(channel)))
			complain(`${id} uses a reserved channel.`);
	}
	const clashes = (a: number[], b: number[]) => a.some((channel) => b.includes(channel));
	const fed = plan.assignments.filter(({ out }) => out !== null);
	fed.forEach((a, i) =>
		fed.slice(i + 1).forEach((b) => {
			const together = a.out === b.out;
			if (plan.policy === 'studio-wide-channels' && clashes(a.channels, b.channels))
				complain(`${a.device} and ${b.device} share a channel.`);
			if (!together) return;
			if (clashes(a.channels, b.channels)) complain(`${a.device} and ${b.device} clash on ${a.out}.`);
			if (device(a.device).receive.omni || device(b.device).receive.omni)
				complain(`An omni receiver shares ${a.out}.`);
			const ids = [a, b].map((entry) => entry.deviceId ?? setting(entry.device)?.deviceId ?? null);
			const [first, second] = [device(a.device), device(b.device)];
			if (
				first.model.trim() !== '' &&
				first.model.trim().toLowerCase() === second.model.trim().toLowerCase() &&
				ids[0] !== null &&
				ids[0] === ids[1]
			)
				complain(`${a.device} and ${b.device} answer to one device ID on ${a.out}.`);
		})
	);

	// Returns.
	const ins = new Map<string, string>();
	const mergeLoad = new Map<string, number>();
	for (const { device: id, in: into, merge, out } of plan.assignments) {
		const own = device(id);
		const direct = out !== null && !isGiven(rig, out);
		if (direct) continue;
		if ((own.wants.return || own.lock.in) && into === null) complain(`${id} has no return.`);
		if (own.lock.in && merge !== null) complain(`${id} is locked to ${own.lock.in}.`);
		if (into === null) continue;
		if (merge !== null) {
			mergeLoad.set(merge, (mergeLoad.get(merge) ?? 0) + 1);
			if (plan.boxes.find((box) => box.device === merge)?.in !== into)
				complain(`${id} comes back by ${merge}, which does not go to ${into}.`);
			continue;
		}
		if (own.lock.in && own.lock.in !== into) complain(`${id} is locked to ${own.lock.in}.`);
		if (ins.has(into)) complain(`${into} takes ${ins.get(into)} and ${id}.`);
		ins.set(into, id);
	}
	for (const { device: id, in: into } of plan.boxes) {
		if (into === null) continue;
		if (ins.has(into)) complain(`${into} takes ${ins.get(into)} and ${id}.`);
		ins.set(into, id);
		const sockets = device(id).ports.filter((entry) => entry.direction === 'in').length;
		if ((mergeLoad.get(id) ?? 0) > sockets) complain(`${id} merges more than its ${sockets} ins.`);
	}

	// Hosts: a device is played by the one that it is meant for, and comes back to the one that plays it.
	if (rig.hosts.length > 1)
		for (const { device: id, out, in: into } of onWire) {
			const meant = device(id).wants.host;
			if (meant !== undefined && !belongs(out!, meant)) complain(`${id} is not played by ${meant}.`);
			if (into !== null && meant !== undefined && !belongs(into, meant))
				complain(`${id} does not come back to ${meant}.`);
			const both = hostsAt(out!);
			if (
				into !== null &&
				both.length > 0 &&
				hostsAt(into).length > 0 &&
				!both.some((host) => belongs(into, host))
			)
				complain(`${id} comes back to another host than the one that plays it.`);
		}

	// Nobody who plays is left without any cable, but where a lock wants the place.
	const pulled = (cable: { from: string; to: string }) =>
		plan.steps.some(
			({ change }) => change.do === 'pull' && change.from === cable.from && change.to === cable.to
		);
	for (const player of rig.devices) {
		if (!isPlayer(player) || player.sends.length === 0) continue;
		const mine = rig.cables.filter((cable) =>
			player.ports.some(
				({ id, direction, connector }) =>
					direction !== 'in' && connector !== 'audio' && (id === cable.from || id === cable.to)
			)
		);
		const plugged = plan.steps.some(
			({ change }) => change.do === 'plug' && player.ports.some(({ id }) => id === change.from)
		);
		const locked = mine.some(({ to }) => rig.devices.some(({ lock }) => lock.in === to || lock.out === to));
		const own = rig.hosts.some(({ ports }) =>
			ports.some(({ port: socket }) =>
				player.ports.some(({ id, direction }) => id === socket && direction !== 'in')
			)
		);
		if (mine.length > 0 && mine.every(pulled) && !plugged && !locked && !own)
			complain(`${player.id} is left without a cable.`);
	}

	// Loads.
	const loads = new Map<string, number>();
	for (const { device: id, out } of onWire)
		loads.set(out!, (loads.get(out!) ?? 0) + device(id).wants.bytesPerSecond);
	for (const [out, load] of loads) {
		if (load > rig.limits.load * 3125 + 1e-6) complain(`${out} is asked for ${load} bytes/s.`);
		if (Math.abs((plan.loads.find((entry) => entry.port === out)?.bytesPerSecond ?? 0) - load) > 1e-6)
			complain(`The load of ${out} is ${load}.`);
	}

	const goals: Goals = {
		...countGoals(rig, { ...plan, unplaced: plan.unplaced.map((entry) => entry.device) }),
		broken: 0
	};
	for (const [goal, value] of Object.entries(goals))
		if (goal !== 'broken' && Math.abs(value - plan.goals[goal as keyof Goals]) > 1e-6)
			complain(`The plan says ${plan.goals[goal as keyof Goals]} for “${goal}”, it is ${value}.`);
	if (plan.moves !== goals.moves) complain(`The plan says ${plan.moves} moves, it is ${goals.moves}.`);
	goals.broken = faults.length;
	return { faults, goals };
}
