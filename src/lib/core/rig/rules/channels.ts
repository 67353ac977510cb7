import { firstFeeds, type Hearer } from '../feeds';
import { freeChannel, freeDeviceId, freeDeviceIds } from '../free';
import { panelId } from '../catalogue-ids';
import { channelWords, channelsOf } from '../heard';
import { indexRig, portName, type Placed } from '../rig-index';
import { hasVoice } from '../roles';
import { sameModel } from '../same-model';
import type { Rig, RigDevice } from '../schema';
import { toFreeOut } from './cures';
import type { Cure, Finding, Rule } from './rule';

/** Moves a device to the lowest channel that is free where it hangs. */
export function toFreeChannel(rig: Rig, device: RigDevice): Cure[] {
	if (device.lock.channel !== undefined) return [];
	const channel = freeChannel(rig, device);
	return channel === null
		? []
		: [
				{
					title: `Set ${device.name} to channel ${channel}`,
					changes: [{ do: 'set', device: device.id, channel }]
				}
			];
}

interface Pair {
	out: Placed;
	a: Hearer;
	b: Hearer;
}

/** Pairs that hear one port, each once, in the first port where they meet. */
function pairs(rig: Rig): Pair[] {
	const found = new Map<string, Pair>();
	for (const { out, hearers } of firstFeeds(rig))
		hearers.forEach((a, i) =>
			hearers.slice(i + 1).forEach((b) => {
				const key = [a.device.id, b.device.id].sort().join('|');
				if (!found.has(key)) found.set(key, { out, a, b });
			})
		);
	return [...found.values()];
}

function overlaps(rig: Rig, blocks: boolean): Finding[] {
	const index = indexRig(rig);
	const layered = (a: RigDevice, b: RigDevice) =>
		rig.layers.some((pair) => pair.includes(a.id) && pair.includes(b.id));
	return pairs(rig).flatMap(({ out, a, b }) => {
		const [first, second] = [a.device, b.device];
		if ((first.receive.parts > 1 || second.receive.parts > 1) !== blocks) return [];
		if (first.receive.omni || second.receive.omni || layered(first, second)) return [];
		const others = channelsOf(second, index.settings.get(second.id));
		const shared = channelsOf(first, index.settings.get(first.id)).filter((channel) =>
			others.includes(channel)
		);
		if (shared.length === 0) return [];
		const way: Finding = {
			says: `${first.name} and ${second.name} both answer to channel ${channelWords(shared)} on ${portName(out)}: they sound together.`,
			about: [first.id, second.id, out.port.id],
			cures: [
				...toFreeChannel(rig, second),
				...toFreeChannel(rig, first),
				{
					title: 'Keep it: a layer on purpose',
					changes: [{ do: 'layer', devices: [first.id, second.id], intended: true }]
				}
			]
		};
		return [way];
	});
}

export const channelRules: readonly Rule[] = [
	{
		id: 'channel.clash',
		title: 'Two instruments on one channel',
		severity: 'error',
		check: (rig) => overlaps(rig, false)
	},
	{
		id: 'channel.blocks',
		title: 'Blocks of parts overlap',
		severity: 'error',
		check: (rig) => overlaps(rig, true)
	},
	{
		id: 'channel.omni',
		title: 'An instrument that answers to every channel shares a port',
		severity: 'error',
		check: (rig) =>
			firstFeeds(rig).flatMap(({ out, hearers }) =>
				hearers.length < 2
					? []
					: hearers
							.filter(({ device }) => device.receive.omni)
							.map(({ device, via, into }) => ({
								says: `${device.name} answers to every channel, so it plays along with everything on ${portName(out)}.`,
								about: [device.id, out.port.id],
								cures: toFreeOut(rig, device, { via, into }, (free) => `Give it ${free} for itself`)
							}))
			)
	},
	{
		id: 'channel.impossible',
		title: 'A channel that the device cannot receive on',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			return rig.devices.flatMap((device) => {
				const setting = index.settings.get(device.id);
				const set = channelsOf(device, setting);
				const wrong = set.filter((channel) => !device.receive.channels.includes(channel));
				const cut = set.length > 0 && set.length < device.receive.parts;
				if (wrong.length === 0 && !cut) return [];
				return [
					{
						says: cut
							? `${device.name} has ${device.receive.parts} parts, but from channel ${set[0]} only ${set.length} fit below 17.`
							: `${device.name} is noted on channel ${channelWords(wrong)}, but it can only receive on ${channelWords(device.receive.channels)}.`,
						about: [device.id],
						cures: toFreeChannel(rig, device)
					}
				];
			});
		}
	},
	{
		id: 'channel.unknown',
		title: 'No receive channel is noted',
		severity: 'note',
		check(rig) {
			const index = indexRig(rig);
			const heard = new Set(firstFeeds(rig).flatMap(({ hearers }) => hearers.map(({ device }) => device.id)));
			return rig.devices
				.filter((device) => hasVoice(device) && heard.has(device.id) && !device.receive.omni)
				.filter((device) => channelsOf(device, index.settings.get(device.id)).length === 0)
				.map((device) => ({
					says: `No receive channel is noted for ${device.name}, so nobody can say what it clashes with.`,
					about: [device.id],
					cures: toFreeChannel(rig, device)
				}));
		}
	},
	{
		id: 'id.same',
		title: 'Two of a model answer to one device ID',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			return pairs(rig).flatMap(({ out, a, b }) => {
				const [first, second] = [a.device, b.device];
				const ids = [first, second].map(({ id }) => index.settings.get(id)?.deviceId ?? null);
				if (!sameModel(first.model, second.model) || ids[0] === null || ids[0] !== ids[1]) return [];
				const deviceId = freeDeviceId(rig, second);
				return [
					{
						says: `${first.name} and ${second.name} are both ${first.model} with device ID ${panelId(first, ids[0])} on ${portName(out)}: both answer one dump request.`,
						about: [first.id, second.id, out.port.id],
						cures: [
							{
								title: `Set ${second.name} to device ID ${panelId(second, deviceId)}`,
								changes: [{ do: 'set' as const, device: second.id, deviceId }]
							}
						]
					}
				];
			});
		}
	},
	{
		id: 'id.unknown',
		title: 'Two of a model, and nobody knows their device IDs',
		severity: 'note',
		check(rig) {
			const index = indexRig(rig);
			return pairs(rig).flatMap(({ out, a, b }) => {
				const both = [a.device, b.device];
				const unknown = both.filter(({ id }) => (index.settings.get(id)?.deviceId ?? null) === null);
				if (!sameModel(a.device.model, b.device.model) || unknown.length === 0) return [];
				const free = freeDeviceIds(rig, a.device, unknown.length);
				return [
					{
						says: `${both[0].name} and ${both[1].name} are both ${a.device.model} on ${portName(out)}, and no device ID is noted for ${unknown.map(({ name }) => name).join(' and ')}: with one ID both answer a dump request.`,
						about: [a.device.id, b.device.id, out.port.id],
						cures: [
							{
								title: unknown
									.map((device, i) => `Set ${device.name} to device ID ${panelId(device, free[i])}`)
									.join(' and '),
								changes: unknown.map(({ id }, i) => ({ do: 'set' as const, device: id, deviceId: free[i] }))
							}
						]
					}
				];
			});
		}
	}
];
