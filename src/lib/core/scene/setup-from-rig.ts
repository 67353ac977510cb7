import { channelsOf, hasVoice, indexRig, roleOf, type Rig } from '../rig';
import { uniqueId } from '../unique-id';
import { instrumentSchema, playerSchema, type Instrument, type Player, type Setup } from './setup';

/** What hands play, and not feet or a computer. */
const PLAYED = /keyboard|synth|controller|piano|organ|wind|string/i;
const NOT_PLAYED = /foot|pedal/i;

/** Players and instruments that the wiring knows and a setup does not have yet. */
export function setupFromRig(rig: Rig, setup: Setup): { players: Player[]; instruments: Instrument[] } {
	const index = indexRig(rig);
	const midi = (direction: 'in' | 'out', id: string) =>
		index.devices
			.get(id)!
			.ports.some(
				({ connector, direction: is }) => /din|trs|usb/.test(connector) && (is === direction || is === 'both')
			);
	const taken = new Set([...setup.players, ...setup.instruments].map(({ id }) => id));
	const idOf = (name: string) => {
		const id = uniqueId(name, taken, 'part');
		taken.add(id);
		return id;
	};
	const instruments = rig.devices
		.filter((device) => hasVoice(device) && midi('in', device.id))
		.filter(({ id }) => !setup.instruments.some(({ device }) => device === id))
		.map(({ id, name }) => instrumentSchema.parse({ id: idOf(name), name: name.slice(0, 60), device: id }));
	const all = [...setup.instruments, ...instruments];
	const players = rig.devices
		.filter(
			(device) =>
				roleOf(device) === 'instrument' &&
				(device.sends.length > 0 || PLAYED.test(device.kind)) &&
				!NOT_PLAYED.test(device.kind) &&
				midi('out', device.id)
		)
		.filter(({ id }) => !setup.players.some(({ device }) => device === id))
		.map((device) =>
			playerSchema.parse({
				id: idOf(`${device.name} keys`),
				name: device.name.slice(0, 60),
				device: device.id,
				sends: device.sends[0] ?? null,
				own: all.find((each) => each.device === device.id)?.id ?? null,
				local: device.local
			})
		);
	return { players, instruments };
}

/** The channel that an instrument is set to by the wiring; the first where it has several, or none is noted. */
export function usualChannelOf(rig: Rig, { device }: Pick<Instrument, 'device'>): number {
	const index = indexRig(rig);
	const one = device === null ? undefined : index.devices.get(device);
	return (one && channelsOf(one, index.settings.get(one.id))[0]) ?? 1;
}
