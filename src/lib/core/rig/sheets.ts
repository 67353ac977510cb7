import { firstFeeds } from './feeds';
import { panelId } from './catalogue-ids';
import { channelWords, channelsOf } from './heard';
import { checkJoin } from './join';
import { loadsOf } from './load';
import { indexRig, isMidi, portName } from './rig-index';
import { roleOf } from './roles';
import type { Rig, RigDevice } from './schema';
import { RIG_CONNECTORS, type RigConnector } from './words';

/** A table to print or to save: rows of text, header first. */
export type Table = string[][];

/** What a cable's label begins with; M for what carries MIDI messages. */
const LABEL_LETTERS: Partial<Record<RigConnector, string>> = {
	audio: 'A',
	'usb-device': 'U',
	'usb-host': 'U',
	pedal: 'F',
	power: 'P'
};

/** Every cable with the label to stick on both ends, from, to, plugs, adapter and length. */
export function cableList(rig: Rig): Table {
	const index = indexRig(rig);
	const rows = rig.cables.map((cable) => {
		const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!];
		const join = checkJoin(from, to, cable.adapter);
		const kind = LABEL_LETTERS[from.port.connector] ?? 'M';
		return {
			kind,
			cells: [
				portName(from),
				from.device.place,
				portName(to),
				to.device.place,
				RIG_CONNECTORS[from.port.connector],
				RIG_CONNECTORS[to.port.connector],
				join.fits ? join.adapter : 'does not fit',
				cable.length === undefined ? '' : `${cable.length} m`
			]
		};
	});
	const count: Record<string, number> = {};
	const sorted = rows.sort(
		(a, b) => a.kind.localeCompare(b.kind) || a.cells[0].localeCompare(b.cells[0], 'en', { numeric: true })
	);
	return [
		['Label', 'From', 'Place', 'To', 'Place', 'Plug', 'Plug', 'Adapter', 'Length'],
		...sorted.map(({ kind, cells }) => [
			`${kind}${String((count[kind] = (count[kind] ?? 0) + 1)).padStart(2, '0')}`,
			...cells
		])
	];
}

/** Who answers on which channel of which port, and how busy the port is. */
export function channelChart(rig: Rig): Table {
	const index = indexRig(rig);
	const loads = new Map(loadsOf(rig).map(({ port, share }) => [port, share]));
	return [
		['Port', ...Array.from({ length: 16 }, (_, i) => String(i + 1)), 'Load'],
		...firstFeeds(rig)
			.filter(({ out }) => out.role === 'interface' || out.port.direction === 'both')
			.map(({ out, hearers }) => [
				portName(out),
				...Array.from({ length: 16 }, (_, i) =>
					hearers
						.filter(
							({ device }) =>
								device.receive.omni || channelsOf(device, index.settings.get(device.id)).includes(i + 1)
						)
						.map(({ device }) => device.name)
						.join(' + ')
				),
				loads.has(out.port.id) ? `${Math.round(loads.get(out.port.id)! * 100)} %` : ''
			])
	];
}

/** Panel settings of every device, to walk round with. */
export function settingsList(rig: Rig): Table {
	const index = indexRig(rig);
	return [
		['Device', 'Place', 'Channel', 'Device ID on its panel', 'Local control', 'Soft thru', 'Clock'],
		...rig.devices
			.filter((device) => roleOf(device) === 'instrument')
			.map((device) => {
				const setting = index.settings.get(device.id);
				return [
					device.name,
					device.place,
					device.receive.omni ? 'all' : channelWords(channelsOf(device, setting)),
					setting?.deviceId == null ? '' : String(panelId(device, setting.deviceId)),
					device.sends.length > 0 ? (device.local ? 'on' : 'off') : '',
					device.softThru ? 'on' : 'off',
					device.clock.mode === 'none' ? '' : `${device.clock.mode}${device.clock.sends ? ', sends' : ''}`
				];
			})
	];
}

const escaped = (text: string) =>
	text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign]!);

/** Name that fits beside a socket. */
const short = (text: string, letters: number) =>
	text.length > letters ? `${text.slice(0, letters - 1)}…` : text;

/** The front of an interface: each socket with its name and what is plugged in, as SVG to print and stick beside it. */
export function frontView(rig: Rig, device: RigDevice): string {
	const index = indexRig(rig);
	const rows = (['in', 'out'] as const)
		.map((direction) => ({
			direction,
			ports: device.ports.filter((port) => isMidi(port) && port.direction === direction)
		}))
		.filter(({ ports }) => ports.length > 0);
	const columns = Math.max(1, ...rows.map(({ ports }) => ports.length));
	const [cell, high] = [112, 118];
	const [width, height] = [columns * cell + 24, rows.length * high + 46];
	const socket = (x: number, y: number, name: string, far: string) =>
		`<g transform="translate(${x} ${y})"><circle cx="44" cy="34" r="17" fill="none" stroke="currentColor" stroke-width="2"/>` +
		[-60, -30, 0, 30, 60]
			.map((angle) => {
				const turn = ((angle + 90) * Math.PI) / 180;
				return `<circle cx="${(44 + 10 * Math.cos(turn)).toFixed(1)}" cy="${(34 + 10 * Math.sin(turn)).toFixed(1)}" r="2" fill="currentColor"/>`;
			})
			.join('') +
		`<text x="44" y="12" text-anchor="middle" font-size="12" font-weight="600">${escaped(name)}</text>` +
		`<text x="44" y="70" text-anchor="middle" font-size="11">${escaped(short(far, 17))}</text></g>`;
	const body = rows
		.map(({ ports }, r) =>
			ports
				.map((port, i) => {
					const cable = (index.cablesAt.get(port.id) ?? [])[0];
					const far = cable ? index.ports.get(cable.from === port.id ? cable.to : cable.from)! : null;
					return socket(12 + i * cell, 40 + r * high, port.name, far?.device.name ?? '—');
				})
				.join('')
		)
		.join('');
	return (
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="Front of ${escaped(device.name)}" font-family="sans-serif" fill="currentColor">` +
		`<rect x="1" y="1" width="${width - 2}" height="${height - 2}" rx="6" fill="none" stroke="currentColor"/>` +
		`<text x="14" y="24" font-size="16" font-weight="600">${escaped(device.name)}</text>${body}</svg>`
	);
}
