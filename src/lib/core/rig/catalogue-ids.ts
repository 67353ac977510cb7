import type { RigDevice } from './schema';

/** Port of the catalogue as the rig names it. */
export const rigPortId = (device: string, port: string): string => `${device}:${port}`;

/** Device and port of a rig port's id. */
export function catalogueIds(rigPort: string): { device: string; port: string } {
	const at = rigPort.indexOf(':');
	return { device: rigPort.slice(0, at), port: rigPort.slice(at + 1) };
}

/** A device ID as the device's own panel shows it. */
export const panelId = (device: Pick<RigDevice, 'panelAdd'>, wire: number): number => wire + device.panelAdd;
