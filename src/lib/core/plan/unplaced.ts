import { applyChange, indexRig, playingHost, type Rig, type RigDevice } from '../rig';
import { NO_GOAL } from './milp';
import { planModel } from './model';
import { placesAll } from './sets/set-solve';
import type { Unplaced } from './plan';
import type { Solver } from './solver';
import { planTask, type PlanTask } from './task';

/** A small change that might free a device, what it shows to be in the way, and how it is said. */
interface Remedy {
	because: string;
	help: string;
	change(rig: Rig, device: RigDevice): Rig | null;
}

const patch = (rig: Rig, id: string, values: Partial<RigDevice>): Rig => ({
	...rig,
	devices: rig.devices.map((device) => (device.id === id ? { ...device, ...values } : device))
});

const box = (rig: Rig, kind: string, ports: RigDevice['ports'], like: RigDevice): Rig => ({
	...rig,
	devices: [
		...rig.devices,
		{
			...like,
			id: `+${kind}`,
			name: `another ${kind}`,
			place: '',
			kind,
			model: '',
			ports,
			lock: {},
			sends: [],
			backup: false,
			softThru: false,
			wants: { return: false, bytesPerSecond: 0, tight: false }
		}
	]
});

const din = (id: string, direction: 'in' | 'out'): RigDevice['ports'][number] => ({
	id,
	name: id,
	direction,
	connector: 'din'
});

/** Remedies, the smallest first: a choice unlocked, a wish dropped, then more gear. */
const REMEDIES: readonly Remedy[] = [
	{
		because: 'its locked choice is taken or impossible',
		help: 'Unlock its port and channel.',
		change: (rig, device) =>
			Object.keys(device.lock).length > 0 ? patch(rig, device.id, { lock: {} }) : null
	},
	{
		because: 'every channel that it can receive on is taken',
		help: 'A different range of channels, if it can be set to one.',
		change: (rig, device) =>
			device.receive.channels.length < 16
				? patch(rig, device.id, {
						receive: { ...device.receive, channels: Array.from({ length: 16 }, (_, i) => i + 1) }
					})
				: null
	},
	{
		because: 'it answers to every channel and needs an out for itself',
		help: 'Switch omni off, if it can be.',
		change: (rig, device) =>
			device.receive.omni ? patch(rig, device.id, { receive: { ...device.receive, omni: false } }) : null
	},
	{
		because: 'no interface in is left for its return',
		help: 'Do without its return (it can then not be recorded or backed up by request).',
		change: (rig, device) =>
			device.wants.return ? patch(rig, device.id, { wants: { ...device.wants, return: false } }) : null
	},
	{
		because: 'the outs and ins of the host that plays it are taken',
		help: 'Let another host play it.',
		change: (rig, device) => {
			const now = playingHost(indexRig(rig), device)?.host;
			const other = rig.hosts.find(
				(host) => host !== now && host.ports.some(({ direction }) => direction === 'out')
			);
			return now && other ? patch(rig, device.id, { wants: { ...device.wants, host: other.id } }) : null;
		}
	},
	{
		because: 'the wire would carry more than its limit',
		help: 'Allow a higher load for a port, or expect less traffic.',
		change: (rig) =>
			rig.limits.load < 1 ? applyChange(rig, { do: 'limits', chain: rig.limits.chain, load: 1 }) : null
	},
	{
		because: 'no thru socket is left to hang it on',
		help: 'One thru box more (1 in, 4 outs).',
		change: (rig, device) =>
			box(
				rig,
				'thru box',
				[din('+thru.in', 'in'), ...[1, 2, 3, 4].map((n) => din(`+thru.${n}`, 'out'))],
				device
			)
	},
	{
		because: 'no interface in is left for its return',
		help: 'One interface in more, or a merge box.',
		change: (rig, device) => (device.wants.return ? box(rig, 'interface', [din('+in', 'in')], device) : null)
	},
	{
		because: 'no out is left for it',
		help: 'One interface out more.',
		change: (rig, device) => box(rig, 'interface', [din('+out', 'out')], device)
	}
];

/** Whether all these devices are found a place together, others left out. */
function haveRoom(task: PlanTask, wanted: ReadonlySet<string>, solver: Solver): boolean {
	const only = { ...task, devices: task.devices.filter(({ id, box: isBox }) => isBox || wanted.has(id)) };
	const found = placesAll(only, solver);
	if (found !== null) return found;
	const model = planModel(only);
	for (const column of model.placed.values()) model.milp.row([[column, 1]], 1, 1);
	return solver.run(model.milp, { goal: NO_GOAL, seconds: 1.5 }).values !== null;
}

/** Whether those that have a place, and those on a USB cable of their own, take all the channels that there are. */
function channelsAreTaken(task: PlanTask, placed: readonly string[]): boolean {
	if (task.policy !== 'studio-wide-channels') return false;
	const parts = task.devices.flatMap(({ id, parts, into }) =>
		placed.includes(id) && into !== null ? [parts] : []
	);
	const direct = task.direct.map(({ present }) => present.length);
	return [...parts, ...direct].reduce((sum, many) => sum + many, 0) >= 16;
}

/** How much of the time for a plan goes into what would help, at most. */
const SHARE = 0.2;
/** Devices beyond this many are told about in general words only: each costs a handful of solver runs. */
const MOST = 8;
/** Ways out that are named for a device; the smallest come first. */
const ENOUGH = 3;

/**
 * For each device without a place: which constraints collide, found by loosening one at a time and solving again, and
 * the smallest things that would free it without costing another its place.
 */
export function findHelp(rig: Rig, task: PlanTask, unplaced: readonly string[], solver: Solver): Unplaced[] {
	const index = indexRig(rig);
	const placed = task.devices.flatMap(({ id, box: isBox }) => (isBox || unplaced.includes(id) ? [] : [id]));
	const full = channelsAreTaken(task, placed);
	const until = solver.options.now() + SHARE * 1000 * solver.options.seconds;
	return unplaced.map((id, i): Unplaced => {
		const device = index.devices.get(id)!;
		const candidate = task.devices.find((entry) => entry.id === id)!;
		if (candidate.noOut)
			return {
				device: id,
				because: ['a return is asked for, but it has no MIDI out'],
				wouldHelp: ['Do without its return.']
			};
		if (candidate.into !== null && candidate.blocks.length === 0 && candidate.loose.length === 0)
			return {
				device: id,
				because: [`its ${candidate.parts} parts do not fit into the channels that it can receive on`],
				wouldHelp: ['A different range of channels, or fewer parts.']
			};
		if (i >= MOST || solver.cancelled || solver.options.now() > until)
			return {
				device: id,
				because: [full ? 'the sixteen channels of the studio are taken' : 'there is not room for all'],
				wouldHelp: ['Free a place for the devices above first.']
			};
		if (full)
			return {
				device: id,
				because: ['the sixteen channels of the studio are taken'],
				wouldHelp: haveRoom(planTask(rig, 'shared-ports'), new Set([...placed, id]), solver)
					? ['Let instruments share ports instead, with sixteen channels on each.']
					: ['A free channel, and a place besides.']
			};
		const found: Remedy[] = [];
		for (const remedy of REMEDIES) {
			const loosened = found.length < ENOUGH ? remedy.change(rig, device) : null;
			if (loosened && haveRoom(planTask(loosened, task.policy), new Set([...placed, id]), solver))
				found.push(remedy);
		}
		return {
			device: id,
			because:
				found.length > 0
					? [...new Set(found.map(({ because }) => because))]
					: ['none of the changes that were tried frees it alone'],
			wouldHelp:
				found.length > 0
					? found.map(({ help }) => help)
					: ['Several changes together: another interface, and looser wishes.']
		};
	});
}
