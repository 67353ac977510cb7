import type { Pairing } from './circuit';
import { jackOf, type Floor, type FootLine } from './floor';

/** What is plugged together in a line; null where something of it is not on the floor any more. */
export function pairingOf(floor: Floor, line: FootLine): Pairing | null {
	const jacks = line.jacks.map((at) => jackOf(floor, at)?.jack ?? null);
	const pedals = line.pedals.map((id) => floor.pedals.find((pedal) => pedal.id === id) ?? null);
	const cable = line.cable === null ? null : floor.cables.find(({ id }) => id === line.cable);
	if (cable === undefined || jacks.includes(null) || pedals.includes(null)) return null;
	return {
		jacks: jacks as Pairing['jacks'],
		cable: cable?.kind ?? null,
		pedals: pedals as Pairing['pedals']
	};
}

/** A line in words: jack, cable, pedal. */
export function lineName(floor: Floor, line: FootLine): string {
	const jacks = line.jacks.map((at) => {
		const found = jackOf(floor, at);
		return found ? `${found.box.name} ${found.jack.name}` : 'a jack that is gone';
	});
	const pedals = line.pedals.map(
		(id) => floor.pedals.find((pedal) => pedal.id === id)?.name ?? 'a pedal that is gone'
	);
	return `${jacks.join(' and ')} – ${pedals.join(' and ')}`;
}
