import { channelWords, indexRig, panelId, portName, type Rig } from '../rig';
import type { Layout } from './layout';
import type { PlanAssignment } from './plan';
import { GOALS } from './policy';
import { Pricer } from './sets/price';
import type { PlanTask } from './task';

const ORDER = ['crowded', 'moves', 'busiest', 'away', 'channels'] as const;

/** For each placed device, why it is where it is: what it keeps, whom it shares with, and what every other out would cost. */
export function explain(
	rig: Rig,
	task: PlanTask,
	layout: Layout,
	assignments: readonly PlanAssignment[]
): Record<string, string> {
	const index = indexRig(rig);
	const name = (id: string) => portName(index.ports.get(id)!);
	const others = alternatives(task, layout);
	return Object.fromEntries(
		assignments.map(({ device: id, out, in: into, hop, via, channels, deviceId }) => {
			const device = index.devices.get(id)!;
			const candidate = task.devices.find((entry) => entry.id === id);
			const says: string[] = [];
			if (!candidate)
				return [id, `${device.name} hangs on the computer by its own USB cable and needs no out.`];
			if (out !== null) {
				const { feed, channels: today } = candidate.present;
				const kept =
					feed !== null &&
					('out' in feed ? via === null && feed.out === out : via !== null && feed.socket === via);
				says.push(
					kept
						? `stays on ${name(via ?? out)}, where it is today`
						: feed
							? `moves to ${name(via ?? out)}`
							: `goes to ${name(via ?? out)}`
				);
				const { player } = candidate.present;
				if (player) says.push(`in place of ${index.devices.get(player)!.name}, whose cable is in it today`);
				if (device.lock.out) says.push('which is locked');
				if (candidate.host !== null) says.push(`played by ${index.hosts.get(candidate.host)!.name}`);
				const company = assignments.filter((other) => other.out === out && other.device !== id);
				if (company.length > 0)
					says.push(
						`shares the port with ${company.map((other) => index.devices.get(other.device)!.name).join(' and ')}`
					);
				else if (candidate.tight) says.push('alone, because its timing is tight');
				else if (candidate.omni) says.push('alone, because it answers to every channel');
				if (hop > 1) says.push(`${hop} deep in the chain`);
				if (channels.join() !== today.join())
					says.push(
						`on channel ${channelWords(channels)}${today.length > 0 ? ` instead of ${channelWords(today)}` : ''}`
					);
			}
			if (into !== null) says.push(`comes back at ${name(into)}`);
			if (deviceId !== null)
				says.push(`with device ID ${panelId(device, deviceId)}, to be told from the other one`);
			const other = others.get(id);
			return [id, `${device.name} ${says.join(', ')}.${other ? ` ${other}` : ''}`];
		})
	);
}

/** What the least costly other out would cost each device, everything else staying as it is. */
function alternatives(task: PlanTask, layout: Layout): Map<string, string> {
	const says = new Map<string, string>();
	if (task.policy === 'studio-wide-channels') return says;
	const pricer = new Pricer(task);
	const onOut = task.outs.map(({ id }) =>
		pricer.nodes.flatMap((node, i) =>
			(layout.feeds.get(node.id) ?? layout.boxes.get(node.id))?.out === id ? [i] : []
		)
	);
	const prices = onOut.map((set, out) => pricer.price(out, set));
	if (prices.includes(null)) return says;
	const load = (skip: readonly number[]) =>
		Math.max(0, ...prices.map((price, out) => (skip.includes(out) ? 0 : price!.load)));
	const index = indexRig(task.rig);
	pricer.devices.forEach((device, i) => {
		const from = onOut.findIndex((set) => set.includes(i));
		if (from < 0 || device.lockOut !== null) return;
		const left = pricer.price(
			from,
			onOut[from].filter((other) => other !== i)
		);
		if (!left) return;
		let best: { out: number; more: number[] } | null = null;
		onOut.forEach((set, out) => {
			if (out === from) return;
			const joined = pricer.price(
				out,
				[...set, i].sort((a, b) => a - b)
			);
			if (!joined) return;
			const rest = load([from, out]);
			const before = [prices[from]!, prices[out]!];
			const change = (pick: (price: NonNullable<typeof joined>) => number) =>
				pick(left) + pick(joined) - pick(before[0]) - pick(before[1]);
			const more = [
				change((price) => price.crowded),
				change((price) => price.moves),
				Math.max(rest, left.load, joined.load) - Math.max(rest, before[0].load, before[1].load),
				change((price) => price.away),
				change((price) => price.channels)
			];
			const at = more.findIndex((value) => value !== 0);
			const was = best ? best.more.findIndex((value) => value !== 0) : -1;
			if (!best || at > was || (at === was && at >= 0 && more[at] < best.more[at])) best = { out, more };
		});
		if (!best) {
			says.set(device.id, 'No other out could take it as things are.');
			return;
		}
		const { out, more } = best as { out: number; more: number[] };
		const at = more.findIndex((value) => value !== 0);
		const there = portName(index.ports.get(task.outs[out].id)!);
		says.set(
			device.id,
			at < 0
				? `${there} would do as well.`
				: `The next best, ${there}, would cost ${more[at]} more in ${GOALS[ORDER[at]]}.`
		);
	});
	return says;
}
