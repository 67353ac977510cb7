import { indexRig, type Placed } from './rig-index';
import { roleOf } from './roles';
import type { Rig, RigDevice } from './schema';

/** An audio output and the input that it goes to. */
export interface AudioReturn {
	device: RigDevice;
	outs: { port: string; side: 'mono' | 'left' | 'right'; into: Placed | null; number: number | null }[];
	/** Left on an odd input and right on the next one; always so for mono. */
	paired: boolean;
}

export interface AudioPlan {
	/** Inputs of all audio interfaces, in order; their number counts from 1 within the interface. */
	inputs: { placed: Placed; number: number; taken: string | null }[];
	returns: AudioReturn[];
}

/** Audio interfaces and mixers, and interfaces with audio inputs beside their MIDI. */
const takesAudio = (device: RigDevice) => ['audio', 'interface'].includes(roleOf(device));

/** Which inputs the instruments use (field guide 3.2: left and right sit on an odd input and the next). */
export function audioOf(rig: Rig): AudioPlan {
	const index = indexRig(rig);
	const inputs = rig.devices.filter(takesAudio).flatMap((device) =>
		device.ports
			.filter(({ connector, direction }) => connector === 'audio' && direction === 'in')
			.map((port, i) => ({
				placed: index.ports.get(port.id)!,
				number: i + 1,
				taken: null as string | null
			}))
	);
	const numberOf = new Map(inputs.map(({ placed, number }) => [placed.port.id, number]));
	const returns = rig.devices
		.filter((device) => !takesAudio(device))
		.map((device): AudioReturn => {
			const outs = device.ports
				.filter(({ connector, direction }) => connector === 'audio' && direction === 'out')
				.map((port) => {
					const cable = (index.cablesAt.get(port.id) ?? [])[0];
					const into = cable
						? (index.ports.get(cable.from === port.id ? cable.to : cable.from) ?? null)
						: null;
					return {
						port: port.id,
						side: port.side ?? ('mono' as const),
						into,
						number: into ? (numberOf.get(into.port.id) ?? null) : null
					};
				});
			const left = outs.find(({ side }) => side === 'left');
			const right = outs.find(({ side }) => side === 'right');
			const both = left?.number != null && right?.number != null;
			return {
				device,
				outs,
				paired:
					!both ||
					(left.into!.device === right.into!.device &&
						left.number! % 2 === 1 &&
						right.number === left.number! + 1)
			};
		})
		.filter(({ outs }) => outs.length > 0);
	for (const { device, outs } of returns)
		for (const { into } of outs) {
			const input = inputs.find(({ placed }) => placed === into);
			if (input) input.taken = device.id;
		}
	return { inputs, returns };
}

/** Pairs (odd and the next input) of one interface that nothing uses, or nothing but `device`. */
export function freePairs({ inputs }: AudioPlan, device: string | null = null): [Placed, Placed][] {
	const free = ({ taken }: { taken: string | null }) => taken === null || taken === device;
	return inputs.flatMap((left, i): [Placed, Placed][] => {
		const right = inputs[i + 1];
		return left.number % 2 === 1 && right?.placed.device === left.placed.device && free(left) && free(right)
			? [[left.placed, right.placed]]
			: [];
	});
}
