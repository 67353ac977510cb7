import { BenchLine, factoryState, seededRandom } from '../bench';
import { profileNamed, shippedProfiles } from '../bench/bench.fixture';
import type { Device, PresentPort, RememberedPort } from '../gear';
import { deviceSchema } from '../gear';
import { applyChanges, rigDeviceOf, rigSchema, type Rig } from '../rig';
import { VirtualClock } from '../transfer';
import { seek, type SeekPorts, type Sought } from './seek';
import type { Surroundings } from './found';
import type { Taking } from './draft';

/** A device on the wire of an out, which comes back at an in; both count from 1, null where no cable is. */
export interface OnWire {
	profile: string;
	out: number;
	in: number | null;
	deviceId?: number;
}

export const computerPorts = (many: number, name = 'Ferry 8'): PresentPort[] =>
	(['in', 'out'] as const).flatMap((direction) =>
		Array.from({ length: many }, (_, i) => ({
			id: `${direction}-${i + 1}`,
			name: `${name} Port ${i + 1}`,
			manufacturer: 'Kestwick',
			direction
		}))
	);

/** Searches a made-up studio on a clock of its own. `broken` outs refuse to send, `loops` lead straight back. */
export function search(
	present: readonly PresentPort[],
	devices: readonly OnWire[],
	{ broken = [], loops = [] }: { broken?: number[]; loops?: [out: number, back: number][] } = {}
): { sought: Sought; tookMs: number } {
	const clock = new VirtualClock();
	const ears = new Set<(port: PresentPort, chunk: Uint8Array) => void>();
	const end = (direction: 'in' | 'out', number: number) =>
		present.filter((port) => port.direction === direction)[number - 1];
	const lines = devices.map(({ profile: id, out, in: back, deviceId }, i) => {
		const line = new BenchLine(`line ${i}`, clock, seededRandom(i + 1));
		const profile = profileNamed(id);
		const state = factoryState(profile, seededRandom(i + 11));
		if (deviceId !== undefined) state.settings.deviceId = deviceId;
		line.attach(profile, state);
		line.listen({
			bytes: (chunk) => back !== null && ears.forEach((ear) => ear(end('in', back), chunk)),
			unplugged: () => undefined,
			plugged: () => undefined
		});
		return { out, line };
	});
	const ports: SeekPorts = {
		outs: present.filter(({ direction }) => direction === 'out'),
		send(out, bytes) {
			const number = present.filter(({ direction }) => direction === 'out').indexOf(out) + 1;
			if (broken.includes(number)) return false;
			for (const { out: at, line } of lines) if (at === number) line.send(bytes, () => undefined);
			for (const [from, to] of loops) if (from === number) ears.forEach((ear) => ear(end('in', to), bytes));
			return true;
		},
		hear(heard) {
			ears.add(heard);
			return () => ears.delete(heard);
		}
	};
	let sought: Sought | null = null;
	seek(
		ports,
		clock,
		() => undefined,
		(found) => (sought = found),
		seededRandom(77)
	);
	clock.run(() => sought !== null);
	if (!sought) throw new Error('The search never ended.');
	return { sought, tookMs: clock.now() };
}

export const surroundings = (more: Partial<Surroundings> = {}): Surroundings => ({
	devices: [],
	rig: rigOf(more.devices ?? []),
	profiles: shippedProfiles,
	remembered: [],
	present: [],
	...more
});

const readable = (device: Device) =>
	(shippedProfiles.find(({ id }) => id === device.profileId)?.capture.length ?? 0) > 0;

const rigOf = (devices: readonly Device[], cables: Rig['cables'] = []): Rig =>
	rigSchema.parse({
		format: 'silent-drawer.rig',
		version: 2,
		devices: devices.map((device) => rigDeviceOf(device, null, readable(device))),
		cables,
		settings: devices
			.filter(({ deviceId }) => deviceId !== null)
			.map(({ id, deviceId }) => ({ device: id, deviceId }))
	});

/** The studio as it is after a taking. */
export function taken(around: Surroundings, taking: Taking): Surroundings {
	const devices: Device[] = [
		...around.devices.map((device) => ({
			...device,
			ports: taking.sockets.find((one) => one.device === device.id)?.ports ?? device.ports
		})),
		...taking.devices.map(({ id, facts, unit }) => ({ ...facts, id, benchUnit: unit, archivedAt: null }))
	];
	const rig = applyChanges({ ...rigOf(devices, around.rig.cables), hosts: around.rig.hosts }, taking.changes);
	const remembered: RememberedPort[] = [
		...around.remembered.filter(
			(old) =>
				!taking.remember.some(
					(port) =>
						port.direction === old.direction &&
						(port.key === old.key || (port.id === old.id && port.name === old.name))
				)
		),
		...taking.remember
	];
	return {
		...around,
		rig,
		remembered,
		devices: devices.map((device) => ({
			...device,
			deviceId: rig.settings.find((setting) => setting.device === device.id)?.deviceId ?? device.deviceId
		}))
	};
}

export const catalogued = (facts: Partial<Device> & { id: string; name: string }): Device => ({
	...deviceSchema.parse({
		ports: [
			{ id: 'in', name: 'MIDI in', direction: 'in', connector: 'din' },
			{ id: 'out', name: 'MIDI out', direction: 'out', connector: 'din' }
		],
		...facts
	}),
	id: facts.id,
	benchUnit: null,
	archivedAt: null
});
