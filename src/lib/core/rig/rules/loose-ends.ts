import { indexRig, portName } from '../rig-index';
import { hasVoice, roleOf } from '../roles';
import type { Rig, RigDevice, RigPort } from '../schema';
import type { Cure, Rule } from './rule';

const isCabled = (rig: Rig, ports: readonly RigPort[]) =>
	ports.some(({ id }) => indexRig(rig).cablesAt.has(id));

/** The plugs of a pedal: pedal jacks that send. A box has jacks that receive. */
const plugsOf = ({ ports }: RigDevice) =>
	ports.filter(({ connector, direction }) => connector === 'pedal' && direction !== 'in');

const outputsOf = ({ ports }: RigDevice) =>
	ports.filter(({ connector, direction }) => connector === 'power' && direction !== 'in');

/** Into the first free jack, of a box at the same place before others. */
function intoFreeJack(rig: Rig, pedal: RigDevice): Cure[] {
	const index = indexRig(rig);
	const [jack] = [...index.ports.values()]
		.filter(
			({ port, device }) =>
				device.id !== pedal.id &&
				port.connector === 'pedal' &&
				port.direction === 'in' &&
				!index.cablesAt.has(port.id)
		)
		.sort((a, b) => Number(b.device.place === pedal.place) - Number(a.device.place === pedal.place));
	return jack
		? [
				{
					title: `Note it in ${portName(jack)}`,
					changes: [{ do: 'plug', from: plugsOf(pedal)[0].id, to: jack.port.id }]
				}
			]
		: [];
}

/** What lies there with nothing at its other end, as far as the wiring says. */
export const looseEndRules: readonly Rule[] = [
	{
		id: 'pedal.nowhere',
		title: 'A pedal leads nowhere',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter((device) => plugsOf(device).length > 0 && !isCabled(rig, plugsOf(device)))
				.map((device) => ({
					says: `No jack is noted that ${device.name} is plugged into: as far as the wiring knows, nothing feels the foot on it.`,
					about: [device.id],
					cures: intoFreeJack(rig, device)
				}))
	},
	{
		id: 'supply.nowhere',
		title: 'A supply leads nowhere',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter((device) => roleOf(device) === 'supply' && !isCabled(rig, outputsOf(device)))
				.map((device) => ({
					says:
						outputsOf(device).length > 0
							? `Nothing is noted at the outputs of ${device.name}. Note its cables; the labels on the supply and on each device decide what may be plugged in.`
							: `No output of ${device.name} is noted, so nothing is known to be fed by it. Give it its sockets in the catalogue.`,
					about: [device.id],
					// Which device an output suits is read off labels, not off what is free.
					cures: []
				}))
	},
	{
		id: 'controller.no-sockets',
		title: 'A controller has no socket',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter(
					(device) => roleOf(device) === 'instrument' && !hasVoice(device) && device.ports.every(isNoWayOut)
				)
				.map((device) => ({
					says: `No socket of ${device.name} is noted that sends, so no cable can lead from it. Give it its sockets in the catalogue.`,
					about: [device.id],
					cures: []
				}))
	}
];

/** A socket that what is played cannot leave by. */
const isNoWayOut = ({ connector, direction }: RigPort) =>
	direction === 'in' || direction === 'thru' || connector === 'audio' || connector === 'power';
