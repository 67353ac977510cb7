import { deviceSchema, namePorts, type Device } from '../core/gear';
import { changesBetween, rigPortId, type Rig, type RigDevice } from '../core/rig';
import type { Studio } from './db/connection';
import { newId } from './new-id';
import { changeRigIn, readStudioRig, wiringOf, type ChangedRig } from './rig';
import { devicesInOrder, insertDevice, updateDeviceRow } from './store/devices';

/** What an import would do with each device of the file. */
export interface ImportPreview {
	devices: { name: string; known: boolean }[];
	cables: number;
	/** Devices of the studio that are not in the file; they stay, without cables. */
	others: string[];
}

const match = (devices: readonly Device[], wanted: RigDevice) =>
	devices.find(({ id }) => id === wanted.id) ??
	devices.find(({ name }) => name.toLowerCase() === wanted.name.toLowerCase());

export async function previewImport(studio: Studio, rig: Rig): Promise<ImportPreview> {
	const devices = await devicesInOrder(studio, false);
	const known = rig.devices.map((device) => match(devices, device));
	return {
		devices: rig.devices.map(({ name }, i) => ({ name, known: known[i] !== undefined })),
		cables: rig.cables.length,
		others: devices.filter((device) => !known.includes(device)).map(({ name }) => name)
	};
}

/**
 * Takes a rig file over as the studio's wiring, whole or not at all: devices are matched by id or name, unknown ones
 * join the catalogue, cables and host ports become those of the file.
 */
export async function importRig(studio: Studio, rig: Rig): Promise<ChangedRig> {
	return studio.write(async (transaction) => {
		const devices = await devicesInOrder(studio, false, transaction);
		const ids = new Map<string, string>();
		const portIds = new Map<string, string>();
		for (const device of rig.devices) {
			const known = match(devices, device);
			const id = known?.id ?? newId();
			ids.set(device.id, id);
			const ports = namePorts(
				device.ports.map(({ name, id: portId, direction, connector, side }) => ({
					id: '',
					name: (name || portId).slice(0, 40),
					direction,
					connector: connector === 'virtual' ? 'usb-device' : connector,
					...(side ? { side } : {})
				}))
			);
			device.ports.forEach((port, i) => portIds.set(port.id, rigPortId(id, ports[i].id)));
			const facts = { kind: device.kind.slice(0, 40), place: device.place.slice(0, 40), ports };
			if (known) await updateDeviceRow(studio, id, facts, transaction);
			else
				await insertDevice(
					studio,
					{
						...deviceSchema.parse({
							name: device.name.slice(0, 60),
							model: device.model.slice(0, 60),
							...facts
						}),
						id,
						wiring: null,
						benchUnit: null,
						archivedAt: null,
						createdAt: studio.now().toISOString()
					},
					transaction
				);
		}
		const port = (id: string) => portIds.get(id)!;
		const fresh = await readStudioRig(studio, transaction);
		const renamed: Rig = {
			...rig,
			devices: fresh.rig.devices.map((device) => {
				const source = rig.devices.find(({ id }) => ids.get(id) === device.id);
				if (!source) return device;
				const { out, in: into, channel } = source.lock;
				return {
					...device,
					...wiringOf(source),
					lock: {
						...(out ? { out: port(out) } : {}),
						...(into ? { in: port(into) } : {}),
						...(channel ? { channel } : {})
					}
				};
			}),
			cables: rig.cables.map((cable) => ({ ...cable, from: port(cable.from), to: port(cable.to) })),
			settings: [
				...fresh.rig.settings.filter(({ device }) => ![...ids.values()].includes(device)),
				...rig.settings.map((setting) => ({ ...setting, device: ids.get(setting.device)! }))
			],
			layers: rig.layers.map(([a, b]) => [ids.get(a)!, ids.get(b)!]),
			hosts:
				rig.hosts.length > 0
					? rig.hosts.map((host) => ({
							...host,
							computer: host.computer && ids.get(host.computer)!,
							ports: host.ports.map((entry) => ({ ...entry, port: port(entry.port) }))
						}))
					: fresh.rig.hosts
		};
		return changeRigIn(
			studio,
			changesBetween(fresh.rig, renamed),
			transaction,
			'The wiring of a file taken over'
		);
	});
}
