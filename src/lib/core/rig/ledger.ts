import { firstFeeds } from './feeds';
import { channelsOf } from './heard';
import { isHostSocket } from './host-socket';
import { loadsOf, type PortLoad } from './load';
import { canReceive, indexRig, isMidi, portName } from './rig-index';
import { hasVoice } from './roles';
import { checkRig, type Trouble } from './rules';
import type { Rig, RigDevice } from './schema';

/** A device on a row of the ledger: a block over its channels. */
export interface Block {
	device: RigDevice;
	/** Channels that it answers to; empty when none is noted. */
	channels: number[];
	/** First column, and how many it spans; a device without a channel stands before column 1. */
	first: number;
	span: number;
	/** Blocks of one lane do not overlap. */
	lane: number;
	/** Columns to the right that nothing in its lane takes: room for its name. */
	room: number;
	hop: number;
	/** Channels on which somebody else answers too, against the musician's wish. */
	clash: number[];
	locked: boolean;
}

export interface LedgerRow {
	port: string;
	name: string;
	device: string;
	place: string;
	/** A USB device's own port: nothing else can hang on it. */
	usb: boolean;
	blocks: Block[];
	lanes: number;
	load: PortLoad | null;
	/** What is wrong on this row, in words. */
	troubles: Trouble[];
}

export interface Ledger {
	rows: LedgerRow[];
	/** Devices with a voice that hang on no row. */
	unplugged: RigDevice[];
}

const ON_ROW = new Set([
	'channel.clash',
	'channel.blocks',
	'channel.omni',
	'id.same',
	'host.reserved',
	'load.high',
	'load.over',
	'chain.deep'
]);

/** The channel ledger: interface outs against channels, who is where, and what clashes. */
export function ledgerOf(rig: Rig): Ledger {
	const index = indexRig(rig);
	const feeds = firstFeeds(rig);
	const loads = new Map(loadsOf(rig).map((load) => [load.port, load]));
	const troubles = checkRig(rig);
	const rows = [...index.ports.values()]
		.filter(
			(placed) =>
				(isHostSocket(index, placed) && placed.port.direction === 'out') ||
				(placed.port.connector === 'usb-device' &&
					hasVoice(placed.device) &&
					feeds.some(({ out }) => out.port === placed.port))
		)
		.map((placed): LedgerRow => {
			const { port, device } = placed;
			const here = troubles.filter(({ rule, about }) => ON_ROW.has(rule) && about.includes(port.id));
			const clashing = new Set(
				here.filter(({ rule }) => rule.startsWith('channel.')).flatMap(({ about }) => about)
			);
			const hearers = feeds.find(({ out }) => out.port.id === port.id)?.hearers ?? [];
			const channels = new Map(
				hearers.map((hearer) => [
					hearer.device.id,
					channelsOf(hearer.device, index.settings.get(hearer.device.id))
				])
			);
			const blocks = hearers.map((hearer): Block => {
				const own = channels.get(hearer.device.id)!;
				const others = hearers.filter((other) => other.device !== hearer.device);
				const omni = others.some((other) => other.device.receive.omni);
				return {
					device: hearer.device,
					channels: own,
					first: own[0] ?? 0,
					span: own.length > 0 ? own.at(-1)! - own[0] + 1 : 1,
					lane: 0,
					room: 0,
					hop: hearer.hop,
					locked: hearer.device.lock.channel !== undefined || hearer.device.lock.out !== undefined,
					clash: clashing.has(hearer.device.id)
						? own.filter(
								(channel) => omni || others.some((other) => channels.get(other.device.id)!.includes(channel))
							)
						: []
				};
			});
			return {
				port: port.id,
				name: port.connector === 'usb-device' ? `${device.name} USB` : portName(placed),
				device: device.id,
				place: device.place,
				usb: port.connector === 'usb-device',
				blocks,
				lanes: stack(blocks),
				load: loads.get(port.id) ?? null,
				troubles: here
			};
		});
	const placed = new Set(rows.flatMap(({ blocks }) => blocks.map(({ device }) => device.id)));
	return {
		rows,
		unplugged: rig.devices.filter(
			(device) =>
				hasVoice(device) &&
				!placed.has(device.id) &&
				device.ports.some((port) => isMidi(port) && canReceive(port))
		)
	};
}

/** Gives each block the first lane that is free over its span; says how many lanes there are. */
function stack(blocks: Block[]): number {
	const ends: number[] = [];
	for (const block of [...blocks].sort((a, b) => a.first - b.first)) {
		let lane = ends.findIndex((end) => end < block.first);
		if (lane < 0) lane = ends.length;
		ends[lane] = block.first + block.span - 1;
		block.lane = lane;
	}
	for (const block of blocks) {
		const end = block.first + block.span - 1;
		const next = blocks
			.filter((other) => other.lane === block.lane && other.first > end)
			.map(({ first }) => first);
		block.room = Math.max(0, Math.min(17, ...next) - end - 1);
	}
	return Math.max(1, ends.length);
}
