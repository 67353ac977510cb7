import type { Edit } from '../edit';
import type { Floor, FootPreset, Reading } from './floor';

/** Who reads a slot. */
export interface SlotUse {
	box: string;
	slot: number;
	/** The lines that feed it. */
	feeds: string[];
	readers: { preset: FootPreset; reading: Reading }[];
}

/** All slots that are fed or read, in the order of the boxes. */
export function slotUses(floor: Floor): SlotUse[] {
	return floor.boxes.flatMap((box) =>
		Array.from({ length: box.slots }, (_, i) => i + 1)
			.map((slot) => ({
				box: box.id,
				slot,
				feeds: floor.feeds
					.filter((feed) => feed.box === box.id && feed.slot === slot)
					.map(({ line }) => line),
				readers: floor.presets
					.filter((preset) => preset.box === box.id)
					.flatMap((preset) =>
						preset.reads
							.filter(({ from }) => 'slot' in from && from.slot === slot)
							.map((reading) => ({ preset, reading }))
					)
			}))
			.filter(({ feeds, readers }) => feeds.length + readers.length > 0)
	);
}

/** What it costs to have another pedal, or another jack, do a line’s work: what is to be edited, one by one. */
export interface ChangeCost {
	/** Presets that name the jack outright, and their parameters. */
	presets: string[];
	parameters: number;
	/** Slots that are fed by it: one setting each, whatever reads them. */
	slots: number;
	/** What the same work would cost with all its parameters on slots; and with none on them. */
	allOnSlots: number;
	noneOnSlots: number;
}

/** Counted for the line: settings to be touched where its pedal moves to another jack. */
export function costOfChange(floor: Floor, lineId: string): ChangeCost {
	const line = floor.lines.find(({ id }) => id === lineId);
	if (!line) return { presets: [], parameters: 0, slots: 0, allOnSlots: 0, noneOnSlots: 0 };
	const jacks = new Set(line.jacks.map(({ box, jack }) => `${box} ${jack}`));
	const direct = floor.presets.filter((preset) =>
		preset.reads.some(({ from }) => 'jack' in from && jacks.has(`${preset.box} ${from.jack}`))
	);
	const parameters = direct.reduce(
		(sum, preset) =>
			sum +
			preset.reads.filter(({ from }) => 'jack' in from && jacks.has(`${preset.box} ${from.jack}`)).length,
		0
	);
	const fed = floor.feeds.filter(({ line: id }) => id === lineId);
	const readers = fed.reduce(
		(sum, { box, slot }) =>
			sum +
			floor.presets
				.filter((preset) => preset.box === box)
				.reduce(
					(each, { reads }) => each + reads.filter(({ from }) => 'slot' in from && from.slot === slot).length,
					0
				),
		0
	);
	return {
		presets: direct.map(({ id }) => id),
		parameters,
		slots: fed.length,
		allOnSlots: fed.length + (parameters > 0 ? 1 : 0),
		noneOnSlots: parameters + readers
	};
}

/**
 * The edits that have every parameter which names a line's jack outright read a slot that the line feeds: one that it feeds
 * already, else the first that nothing feeds. None where its box has no slot left.
 */
export function readBySlot(floor: Floor, lineId: string): Edit[] {
	const line = floor.lines.find(({ id }) => id === lineId);
	if (!line) return [];
	const { box } = line.jacks[0];
	const slots = floor.boxes.find(({ id }) => id === box)?.slots ?? 0;
	const fed = floor.feeds.find((feed) => feed.line === lineId && feed.box === box);
	const slot =
		fed?.slot ??
		Array.from({ length: slots }, (_, i) => i + 1).find(
			(each) => !floor.feeds.some((feed) => feed.box === box && feed.slot === each)
		);
	if (slot === undefined) return [];
	const jacks = line.jacks.map(({ jack }) => jack);
	return [
		...(fed ? [] : [{ path: ['feeds', floor.feeds.length], value: { box, slot, line: lineId } }]),
		...floor.presets.flatMap((preset, p) =>
			preset.box !== box
				? []
				: preset.reads.flatMap(({ from }, r) =>
						'jack' in from && jacks.includes(from.jack)
							? [{ path: ['presets', p, 'reads', r, 'from'], value: { slot } }]
							: []
					)
		)
	];
}

/** What is odd about slots and presets. */
export function slotTroubles(floor: Floor): { at: string; says: string }[] {
	const name = (id: string) => floor.boxes.find((box) => box.id === id)?.name ?? id;
	const troubles: { at: string; says: string }[] = [];
	for (const { box, slot, feeds, readers } of slotUses(floor)) {
		if (feeds.length === 0)
			troubles.push({
				at: `${box} ${slot}`,
				says: `Slot ${slot} of ${name(box)} is read by ${readers.map(({ preset }) => preset.name).join(', ')}, and no pedal feeds it.`
			});
		if (feeds.length > 1)
			troubles.push({
				at: `${box} ${slot}`,
				says: `Slot ${slot} of ${name(box)} is fed by ${feeds.length} pedals: the one that was moved last wins.`
			});
	}
	for (const preset of floor.presets) {
		const box = floor.boxes.find(({ id }) => id === preset.box);
		for (const { from, parameter, least, most } of preset.reads) {
			if ('slot' in from && box && from.slot > box.slots)
				troubles.push({
					at: preset.id,
					says: `${preset.name}: ${parameter} reads slot ${from.slot}; ${box.name} has ${box.slots}.`
				});
			if ('jack' in from && !box?.jacks.some(({ id }) => id === from.jack))
				troubles.push({
					at: preset.id,
					says: `${preset.name}: ${parameter} reads a jack that ${name(preset.box)} has not.`
				});
			if (least === most)
				troubles.push({
					at: preset.id,
					says: `${preset.name}: ${parameter} has the same value at heel and toe.`
				});
		}
	}
	return troubles;
}
