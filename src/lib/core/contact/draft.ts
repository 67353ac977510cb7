import { freeName, namePorts, type DeviceFacts, type Port, type RememberedPort } from '../gear';
import { catalogueIds, indexRig, rigPortId, roleOf, samePair, type Rig, type RigChange } from '../rig';
import type { Surroundings } from './found';
import { groupPorts, type PortGroup } from './port-groups';
import { knownSockets, portKey } from './sockets';
import type { TakeItem, TakeOrder } from './take-order';

/** Everything that a take writes, as one change. */
export interface Taking {
	devices: { id: string; facts: DeviceFacts; unit: string | null }[];
	/** Sockets that devices of the catalogue gain: all that they have from then on. */
	sockets: { device: string; ports: Port[] }[];
	/** To be made when devices and sockets are there. */
	changes: RigChange[];
	remember: RememberedPort[];
	/** Where each was met, by ports of the rig. */
	met: { device: string; name: string; out: string | null; in: string | null; item: TakeItem }[];
	/** Units of the bench that devices of the catalogue are plugged in to. */
	units: { device: string; unit: string }[];
	/** Devices of the catalogue that are another variant of their model by now. */
	profiles: { device: string; profileId: string }[];
}

/** A taking while it is put together: the catalogue and the cables as they would be. */
export class Draft {
	readonly taking: Taking = {
		devices: [],
		sockets: [],
		changes: [],
		remember: [],
		met: [],
		units: [],
		profiles: []
	};
	readonly #ports: Map<string, Port[]>;
	readonly #names: Set<string>;
	#cables: { from: string; to: string }[];
	hosts: Rig['hosts'];
	/** The interface of each group of ports that was asked for already. */
	readonly interfaces = new Map<PortGroup, string>();
	readonly groups: PortGroup[];
	/** Socket of each port of the computer, as it is known and as it is taken. */
	readonly sockets: Map<string, string>;

	constructor(
		readonly around: Surroundings,
		readonly order: TakeOrder,
		readonly newId: () => string
	) {
		this.#ports = new Map(around.devices.map((device) => [device.id, device.ports]));
		this.#names = new Set(around.devices.map(({ name }) => name));
		this.#cables = around.rig.cables.map(({ from, to }) => ({ from, to }));
		this.hosts = around.rig.hosts;
		this.groups = groupPorts(order.present);
		this.sockets = new Map(knownSockets(around.remembered, order.present));
	}

	portsOf = (device: string): readonly Port[] => this.#ports.get(device) ?? [];
	cablesAt = (port: string) => this.#cables.filter(({ from, to }) => from === port || to === port);

	add(facts: DeviceFacts, unit: string | null = null): string {
		const device = this.newId();
		const named = { ...facts, name: freeName(facts.name, this.#names), ports: namePorts(facts.ports) };
		this.#names.add(named.name);
		this.#ports.set(device, named.ports);
		this.taking.devices.push({ id: device, facts: named, unit });
		return device;
	}

	/** A socket more for a device; gives its port of the rig. */
	addSocket(device: string, port: Omit<Port, 'id'>): string {
		const ports = namePorts([...this.portsOf(device), { ...port, id: '' }]);
		this.#ports.set(device, ports);
		const fresh = this.taking.devices.find((one) => one.id === device);
		if (fresh) fresh.facts = { ...fresh.facts, ports };
		else {
			this.taking.sockets = this.taking.sockets.filter((one) => one.device !== device);
			this.taking.sockets.push({ device, ports });
		}
		return rigPortId(device, ports.at(-1)!.id);
	}

	plug(from: string, to: string): void {
		if (this.#cables.some((cable) => samePair([cable.from, cable.to], [from, to]))) return;
		this.#cables.push({ from, to });
		this.taking.changes.push({ do: 'plug', from, to });
	}

	/** Whether the computer is behind a port: one of an interface's. */
	isInterface(port: string): boolean {
		const { device } = catalogueIds(port);
		const fresh = this.taking.devices.find(({ id }) => id === device);
		const known = indexRig(this.around.rig).devices.get(device);
		return fresh ? roleOf(fresh.facts) === 'interface' : known !== undefined && roleOf(known) === 'interface';
	}

	pull(port: string): void {
		for (const { from, to } of this.cablesAt(port)) this.taking.changes.push({ do: 'pull', from, to });
		this.#cables = this.#cables.filter(({ from, to }) => from !== port && to !== port);
	}

	/** Notes which socket a port of the computer is. */
	remember(portId: string, direction: 'in' | 'out', key: string): void {
		const port = this.order.present.find((one) => one.id === portId && one.direction === direction);
		if (!port || this.sockets.get(portKey({ direction, id: portId })) === key) return;
		this.sockets.set(portKey({ direction, id: portId }), key);
		this.taking.remember.push({ ...port, key });
	}
}
