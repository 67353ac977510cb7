import { indexRig, portName, sameModel, type Rig } from '../rig';
import type { Assembled } from './assemble';
import type { Plan } from './plan';
import type { PlanTask } from './task';

/** What a plan cannot know: device IDs of twins on one port, which of several hosts plays what, and sockets that the computer does not have. */
export function asksOf(rig: Rig, task: PlanTask, { assignments }: Assembled): Plan['asks'] {
	const index = indexRig(rig);
	const device = (id: string) => index.devices.get(id)!;
	const known = ({ device: id, deviceId }: Assembled['assignments'][number]) =>
		deviceId ?? index.settings.get(id)?.deviceId ?? null;
	const fed = assignments.filter(({ out, via, hop }) => out !== null && (via !== null || hop > 0));
	const twins = fed.flatMap((a, i) =>
		fed
			.slice(i + 1)
			.filter((b) => b.out === a.out && sameModel(device(a.device).model, device(b.device).model))
			.filter((b) => known(a) === null || known(b) === null)
			.map((b) => ({
				says: `${device(a.device).name} and ${device(b.device).name} are both ${device(a.device).model} on ${portName(index.ports.get(a.out!)!)}, and a device ID of them is not known. Look them up: with one ID both answer a dump request.`,
				devices: [a.device, b.device]
			}))
	);
	return [
		...twins,
		...task.supposed.map(({ device: id, host }) => ({
			says: `Nobody said which host plays ${device(id).name}: it is taken to be ${index.hosts.get(host)!.name}. Say so on the page Channels (Played by), whichever it is.`,
			devices: [id]
		})),
		...task.unpluggable.map((id) => ({
			says: `${device(id).name} is reached by USB alone, and no USB socket of the computer is free for it. A hub would give one.`,
			devices: [id]
		}))
	];
}
