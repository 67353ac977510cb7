import { hostWays, isUsb, type HostPort, type Rig, type RigPort } from '../rig';
import { assignmentsOf, linked, type ControlMap, type Link } from './map';
import { portNamed, type Surface, type SurfaceControl } from './surface';

/** What a map needs of a port that the host shows. */
export interface HostNeed {
	/** A port of the surface, by its name. */
	port: string;
	direction: 'in' | 'out';
	use: 'playing' | 'control' | 'clock';
	why: string;
}

/** The same, and whether the wiring has it so. */
export interface HostNeedState extends HostNeed {
	is: 'so' | 'off' | 'hidden' | 'not listed' | 'no port';
	says: string;
}

const USES = { playing: 'playing', control: 'a control surface', clock: 'clock' } as const;

/** Everything that each control tells, on any page. */
function toldBy(map: ControlMap): { control: SurfaceControl; links: Link[] }[] {
	const all = assignmentsOf(map);
	return map.surface.controls
		.map((control) => ({
			control,
			links: all.filter((each) => each.control === control.id).flatMap(({ links }) => links)
		}))
		.filter(({ links }) => links.length > 0);
}

/**
 * What a map needs of its host's ports: where its controls tell the host, an in as a control surface, and an out where the
 * host shows something at them; where they play software, or devices by way of the computer, an in for playing; an out with
 * clock where the surface follows it. A map that tells devices alone, with no computer between, needs nothing.
 */
export function hostNeeds(map: ControlMap): HostNeed[] {
	const { surface } = map;
	const needs: HostNeed[] = [];
	const need = (port: string, direction: HostNeed['direction'], use: HostNeed['use'], why: string) => {
		if (!needs.some((each) => each.port === port && each.direction === direction && each.use === use))
			needs.push({ port, direction, use, why });
	};
	const through = map.hosted === 'computer';
	for (const { control, links } of toldBy(map)) {
		const { name } = portNamed(surface, control.port);
		const whose = new Set(links.map((link) => linked(map, link).list?.whose ?? 'device'));
		if (whose.has('host')) {
			need(name, 'in', 'control', `${control.name} tells the host.`);
			if (control.shows.length > 0)
				need(
					portNamed(surface, control.shownOn ?? control.port).name,
					'out',
					'control',
					`${control.name} shows what the host tells it.`
				);
		}
		if (whose.has('software')) need(name, 'in', 'playing', `${control.name} plays software.`);
		if (whose.has('device') && through)
			need(name, 'in', 'playing', `${control.name} reaches its device by way of the computer.`);
	}
	const keys = surface.controls.find(({ kind }) => kind === 'keys');
	if (keys && map.keys && through)
		need(portNamed(surface, keys.port).name, 'in', 'playing', 'Its keys play by way of the computer.');
	if (surface.followsClock && through)
		need(surface.ports[0].name, 'out', 'clock', `The ${surface.model} follows the clock.`);
	return needs;
}

/** The port of a device in the rig that a port of its surface is: by name, else the only one of its connector. */
function rigPort(surface: Surface, named: string, ports: readonly RigPort[]): RigPort | null {
	const same = ports.find(({ name }) => name === named);
	if (same) return same;
	const connector = surface.ports.find(({ name }) => name === named)?.connector;
	const alike = ports.filter((port) => port.connector === connector);
	return alike.length === 1 ? alike[0] : null;
}

const on = (port: HostPort, use: HostNeed['use']): boolean =>
	use === 'playing' ? port.playing : use === 'control' ? port.control : port.clockOut;

/** Each need of a map, and whether the wiring's list of the host's ports has it so for a device. */
export function hostNeedStates(map: ControlMap, rig: Rig, deviceId: string): HostNeedState[] {
	const device = rig.devices.find(({ id }) => id === deviceId);
	const way = hostWays(rig).find((each) => each.device === deviceId);
	return hostNeeds(map).map((need): HostNeedState => {
		const port = device && rigPort(map.surface, need.port, device.ports);
		const as = (is: HostNeedState['is'], says: string) => ({ ...need, is, says });
		if (!device || !port) return as('no port', `${device?.name ?? 'It'} has no port “${need.port}” in Gear.`);
		// A port of its own where it is plugged in by USB; else that of the interface in between.
		const ends = isUsb(port) ? [port.id] : [need.direction === 'in' ? way?.in?.port : way?.out?.port];
		const shown = rig.hosts
			.flatMap(({ ports }) => ports)
			.filter((each) => each.direction === need.direction && ends.includes(each.port));
		const words = need.direction === 'in' ? 'an input' : 'an output';
		if (shown.length === 0) return as('not listed', `The host’s ports have no ${words.slice(3)} for it.`);
		const names = (ports: HostPort[]) => ports.map(({ name, number }) => `${number} “${name}”`).join(', ');
		// Of several ports on one socket, those that carry the surface's own name for it.
		const named = shown.filter(({ name }) => name.toLowerCase().includes(need.port.toLowerCase()));
		const meant = named.length > 0 ? named : shown;
		const seen = meant.filter(({ hidden }) => !hidden);
		if (seen.length === 0) return as('hidden', `The system hides ${names(meant)}.`);
		const switched = seen.filter((each) => on(each, need.use));
		return switched.length > 0
			? as('so', `${names(switched)} is on for ${USES[need.use]}.`)
			: as('off', `${names(seen)} is off for ${USES[need.use]}.`);
	});
}
