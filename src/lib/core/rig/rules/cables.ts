import { feedsOf, firstFeeds } from '../feeds';
import { freeIn } from '../free';
import { hostWays, returnSockets } from '../host-ways';
import { checkJoin, type Join } from '../join';
import { canReceive, indexRig, isUsb, isWire, portName } from '../rig-index';
import { hasVoice, roleOf } from '../roles';
import type { Cable, Rig } from '../schema';
import { hasComputer, reachesComputer } from '../usb';
import { intoComputer, toFreeOut, whereItAnswered } from './cures';
import type { Cure, Finding, Rule } from './rule';

const pull = ({ from, to }: Cable): Cure => ({
	title: 'Pull the cable',
	changes: [{ do: 'pull', from, to }]
});

/** One finding for each cable whose join has the fault. */
const faulty = (
	rig: Rig,
	fault: Join['fault'],
	cures: (cable: Cable) => Cure[] = (cable) => [pull(cable)]
): Finding[] => {
	const index = indexRig(rig);
	return rig.cables.flatMap((cable) => {
		const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!];
		const join = checkJoin(from, to, cable.adapter);
		return join.fault === fault
			? [
					{
						says: join.says,
						about: [from.device.id, to.device.id, cable.from, cable.to],
						cures: cures(cable)
					}
				]
			: [];
	});
};

/** For a cable of two ins: the out that was meant, if it is free; for one noted backwards, the other way round. */
function turned(rig: Rig, cable: Cable): Cure[] {
	const index = indexRig(rig);
	const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!];
	const away: Cure = pull(cable);
	const replug = (a: string, b: string, title: string): Cure => ({
		title,
		changes: [...away.changes, { do: 'plug', from: a, to: b }]
	});
	if (from.port.direction === 'in' && to.port.direction !== 'in')
		return [replug(cable.to, cable.from, 'Note it the other way round'), away];
	const meant = [
		{ near: from, far: to },
		{ near: to, far: from }
	].flatMap(({ near, far }) =>
		far.role !== 'interface'
			? []
			: near.device.ports
					.filter((port) => isWire(port) && port.direction === 'out' && !index.cablesAt.has(port.id))
					.map((port) =>
						replug(port.id, far.port.id, `Plug it into ${near.device.name} ${port.name} instead`)
					)
	);
	return [...meant.slice(0, 1), away];
}

/** What is proved is better than what is merely free. */
const firstOf = (proved: Cure[], others: () => Cure[]): Cure[] => (proved.length > 0 ? proved : others());

export const cableRules: readonly Rule[] = [
	{
		id: 'cable.direction',
		title: 'A cable joins two ins, or two outs',
		severity: 'error',
		check: (rig) => faulty(rig, 'direction', (cable) => turned(rig, cable))
	},
	{
		id: 'cable.usb-devices',
		title: 'Two USB devices are plugged into each other',
		severity: 'error',
		check: (rig) => faulty(rig, 'usb-device')
	},
	{
		id: 'cable.usb-needs-host',
		title: 'A USB-only device needs a host on its way',
		severity: 'error',
		check: (rig) => faulty(rig, 'usb-needs-host')
	},
	{
		id: 'cable.trs-crossing',
		title: 'TRS type A meets type B',
		severity: 'error',
		check: (rig) =>
			faulty(rig, 'trs-crossing', (cable) => {
				const { adapter, ...plain } = cable;
				const index = indexRig(rig);
				const trs = [cable.from, cable.to].filter((id) =>
					index.ports.get(id)!.port.connector.startsWith('trs')
				).length;
				const right: Cable = trs === 2 && !adapter ? { ...plain, adapter: 'crossing' } : plain;
				return [
					{
						title: right.adapter ? 'Put a crossing adapter on it' : 'Use the right adapter',
						changes: [...pull(cable).changes, { do: 'plug', ...right }]
					}
				];
			})
	},
	{
		id: 'cable.connector',
		title: 'The plugs do not fit',
		severity: 'error',
		check: (rig) => [...faulty(rig, 'connector'), ...faulty(rig, 'usb-hosts')]
	},
	{
		id: 'cable.socket',
		title: 'Two cables in one socket',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			return [...index.cablesAt].flatMap(([id, cables]) => {
				if (cables.length < 2) return [];
				const placed = index.ports.get(id)!;
				return [
					{
						says: `${portName(placed)} has ${cables.length} cables: a socket takes one. Sharing it needs a thru box (outs) or a merge box (ins).`,
						about: [placed.device.id, id],
						cures: [{ ...pull(cables.at(-1)!), title: 'Pull the later one' }]
					}
				];
			});
		}
	},
	{
		id: 'chain.deep',
		title: 'Too many devices behind one another',
		severity: 'warning',
		check: (rig) =>
			firstFeeds(rig).flatMap(({ out, hearers }) =>
				hearers
					.filter(({ hop }) => hop > rig.limits.chain)
					.map(({ device, hop, via, into }) => ({
						says: `${device.name} is ${hop} deep on ${portName(out)}. Each thru socket blurs the edges; ${rig.limits.chain} is the limit.`,
						about: [device.id, out.port.id],
						cures: toFreeOut(rig, device, { via, into }, (free) => `Move it to ${free}`)
					}))
			)
	},
	{
		id: 'device.unfed',
		title: 'Nothing is plugged into it',
		severity: 'warning',
		check(rig) {
			const index = indexRig(rig);
			const fed = new Set(feedsOf(rig).flatMap(({ hearers }) => hearers.map(({ device }) => device.id)));
			return rig.devices
				.filter((device) => hasVoice(device) && !fed.has(device.id))
				.filter((device) => device.ports.some((port) => isWire(port) && canReceive(port)))
				.filter((device) =>
					device.ports.every(
						(port) => !canReceive(port) || (!isWire(port) && !isUsb(port)) || !index.cablesAt.has(port.id)
					)
				)
				.map((device) => ({
					says: `Nothing is plugged into the in of ${device.name}, so it stays silent.`,
					about: [device.id],
					cures: firstOf(whereItAnswered(rig, device), () =>
						toFreeOut(rig, device, null, (free) => `Plug it into ${free}`)
					)
				}));
		}
	},
	{
		id: 'interface.no-usb',
		title: 'An interface is not connected to the computer',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			if (!hasComputer(index)) return [];
			return rig.devices
				.filter(
					(device) =>
						roleOf(device) === 'interface' && device.ports.some(({ connector }) => connector === 'usb-device')
				)
				.filter((device) => !reachesComputer(index, device))
				.map((device) => ({
					says: `No USB cable leads from ${device.name} to the computer: nothing behind it can be reached.`,
					about: [device.id],
					cures: intoComputer(rig, device)
				}));
		}
	},
	{
		id: 'return.missing',
		title: 'A backup is wanted, but nothing comes back',
		severity: 'error',
		check(rig) {
			const returned = returnSockets(rig);
			return rig.devices
				.filter(
					(device) =>
						roleOf(device) === 'instrument' &&
						(device.backup || device.wants.return) &&
						!returned.has(device.id)
				)
				.map((device) => {
					const free = freeIn(rig, device);
					const hasOut = device.ports.some(
						(port) => (isWire(port) || isUsb(port)) && (port.direction === 'out' || port.direction === 'both')
					);
					const why = device.backup
						? 'its memory can never be asked for'
						: 'nothing it plays can be recorded';
					return {
						says: hasOut
							? `The out of ${device.name} goes to no interface in: ${why}.`
							: `${device.name} has no out at all: ${why}.`,
						about: [device.id],
						cures: firstOf(whereItAnswered(rig, device), () =>
							free
								? [
										{
											title: `Plug its out into ${portName(free.to)}`,
											changes: [{ do: 'plug' as const, from: free.from.port.id, to: free.to.port.id }]
										}
									]
								: []
						)
					};
				});
		}
	},
	{
		id: 'line.elsewhere',
		title: 'It answered elsewhere than its cables say',
		severity: 'error',
		check: (rig) =>
			rig.answers.flatMap(({ device: id }) => {
				const device = rig.devices.find((one) => one.id === id);
				const way = hostWays(rig).find((one) => one.device === id);
				// Without any cable noted, that is what is said of it.
				if (!device || !way?.out) return [];
				const cures = whereItAnswered(rig, device);
				if (cures.length === 0) return [];
				return [
					{
						says: `When it was last asked, ${device.name} answered by another way than its cables say (${way.out.name}${way.in ? `, back at ${way.in.name}` : ''}).`,
						about: [id],
						cures
					}
				];
			})
	}
];
