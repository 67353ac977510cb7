import { indexRig, type RigIndex } from './rig-index';
import { roleOf } from './roles';
import type { Rig, RigDevice } from './schema';

const audio = (device: RigDevice, direction: 'in' | 'out') =>
	device.ports.filter((port) => port.connector === 'audio' && port.direction === direction);

/** Whether sound that comes in is at its end: recorded, mixed, made loud, or taken in by an instrument for good. */
const isEnd = (device: RigDevice): boolean =>
	['audio', 'interface', 'host'].includes(roleOf(device)) || audio(device, 'out').length === 0;

/** Devices that the audio of a device comes to, those right behind it. */
function behind(index: RigIndex, device: RigDevice): RigDevice[] {
	return audio(device, 'out').flatMap(({ id }) =>
		(index.cablesAt.get(id) ?? []).flatMap((cable) => {
			const there = index.ports.get(cable.from === id ? cable.to : cable.from)!;
			return there.port.connector === 'audio' && there.port.direction === 'in' ? [there.device] : [];
		})
	);
}

/** Where the audio of a device stops on its way, or `null` where some of it comes to an end that is one. */
export function audioStops(rig: Rig, device: RigDevice): RigDevice | null {
	const index = indexRig(rig);
	const seen = new Set<string>();
	let last = device;
	const waiting = [device];
	for (let at = waiting.shift(); at; at = waiting.shift()) {
		if (seen.has(at.id)) continue;
		seen.add(at.id);
		last = at;
		for (const next of behind(index, at)) {
			if (isEnd(next)) return null;
			waiting.push(next);
		}
	}
	return last;
}

/** Whether anybody noted where audio goes: without, nothing can be said of it. */
export const notesAudio = (rig: Rig): boolean => {
	const index = indexRig(rig);
	return rig.cables.some(({ from }) => index.ports.get(from)?.port.connector === 'audio');
};
