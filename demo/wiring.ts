import { hostSchema, rigPortId, type RigChange, type Wiring } from '../src/lib/core/rig';
import type { Studio } from '../src/lib/server/db/connection';
import { listDevices } from '../src/lib/server/gear';
import { writeRigIn } from '../src/lib/server/rig';

/** From, to, and metres: how the planetarium is cabled. */
const CABLES: readonly [from: string, to: string, metres: number][] = [
	['Ferry 8/usb', 'Dome computer/usb-1', 1.5],
	['Ferry 2/usb', 'Dome computer/usb-2', 1],
	['Span 61/usb', 'Dome computer/usb-3', 2],
	['Tiles/usb', 'Dome computer/usb-4', 2],
	['Ferry 8/out-1', 'Orrery/midi-in', 3],
	['Orrery/midi-out', 'Ferry 8/in-1', 3],
	['Ferry 8/out-2', 'Parallax west/midi-in', 1],
	['Parallax west/midi-out', 'Ferry 8/in-2', 1],
	['Ferry 8/out-3', 'Parallax east/midi-in', 1],
	['Parallax east/midi-out', 'Ferry 8/in-3', 1],
	['Ferry 8/out-4', 'Nadir drums/midi-in', 3],
	['Nadir drums/midi-out', 'Ferry 8/in-4', 3],
	// Two instruments on one channel of one port.
	['Ferry 8/out-5', 'Halloran Reed/midi-in', 1],
	['Halloran Reed/midi-thru', 'Umbra hall/midi-in', 0.5],
	['Ferry 2/out-1', 'Lantern delay/midi-in', 4],
	// Type A meets type B without a crossing adapter.
	['Treadle/midi-out', 'Lantern swell/midi-in', 1],
	['Orrery/left', 'Weir 16/input-1', 4],
	['Orrery/right', 'Weir 16/input-2', 4],
	['Parallax west/left', 'Weir 16/input-3', 2],
	['Parallax west/right', 'Weir 16/input-4', 2],
	['Parallax east/left', 'Weir 16/input-5', 2],
	['Parallax east/right', 'Weir 16/input-6', 2],
	['Umbra hall/left', 'Weir 16/input-7', 2],
	['Umbra hall/right', 'Weir 16/input-8', 2],
	['Nadir drums/audio', 'Weir 16/input-9', 4],
	['Halloran Reed/audio', 'Weir 16/input-10', 2],
	['Feed 8/out-1', 'Lantern delay/power', 0.5],
	['Feed 8/out-2', 'Lantern swell/power', 0.5],
	['Feed 3/out-1', 'Treadle/power', 1]
];

/** What differs from what is taken for granted of such a device. */
const WIRING: Record<string, Partial<Wiring>> = {
	// Repeats what comes in, while a track of the host echoes it back: a loop.
	Orrery: { sends: [1], local: false, softThru: true },
	// Leads the tempo, as the host does.
	'Nadir drums': {
		clock: { mode: 'internal', sends: true },
		wants: { return: true, bytesPerSecond: 300, tight: true }
	},
	'Parallax west': { clock: { mode: 'external', sends: false } },
	Treadle: { sends: [6] },
	Tiles: { sends: [10] }
};

/** Cables the demo studio and sets up its host, with five honest mistakes for the user to find. */
export async function wireStudio(studio: Studio): Promise<void> {
	const devices = await listDevices(studio);
	const named = (name: string) => devices.find((device) => device.name === name)!;
	const port = (path: string) => {
		const [device, id] = path.split('/');
		return rigPortId(named(device).id, id);
	};
	const changes: RigChange[] = [
		...CABLES.map(([from, to, length]): RigChange => ({
			do: 'plug',
			from: port(from),
			to: port(to),
			length
		})),
		...Object.entries(WIRING).map(([name, wiring]): RigChange => ({
			do: 'wire',
			device: named(name).id,
			wiring
		})),
		{ do: 'host', host: hostOf(port) }
	];
	// As it is found: its cabling is no step that could be taken back.
	await studio.write((transaction) => writeRigIn(studio, changes, transaction));
}

function hostOf(port: (path: string) => string) {
	const ports = (device: string, word: 'In' | 'Out', count: number, first: number) =>
		Array.from({ length: count }, (_, i) => ({
			id: `${device} ${word} ${i + 1}`,
			name: `${device} ${word} ${i + 1}`,
			number: first + i,
			direction: word === 'In' ? ('in' as const) : ('out' as const),
			port: port(`${device}/${word.toLowerCase()}-${i + 1}`),
			clockOut: word === 'Out' && i === 1 && device === 'Ferry 8'
		}));
	return hostSchema.parse({
		clock: true,
		ports: [
			...ports('Ferry 8', 'In', 8, 1),
			...ports('Ferry 2', 'In', 2, 9),
			{ id: 'Span 61', name: 'Span 61 keys', number: 11, direction: 'in', port: port('Span 61/usb') },
			{
				id: 'Span 61 knobs',
				name: 'Span 61 knobs',
				number: 12,
				direction: 'in',
				port: port('Span 61/usb'),
				playing: false,
				control: true
			},
			{ id: 'Tiles', name: 'Tiles', number: 13, direction: 'in', port: port('Tiles/usb') },
			...ports('Ferry 8', 'Out', 8, 1),
			...ports('Ferry 2', 'Out', 2, 9)
		],
		instruments: [
			{ id: 'dome-piano', name: 'Dome piano', input: 11, channel: null, on: true },
			{ id: 'star-pad', name: 'Star pad', input: 11, channel: null, on: false }
		],
		tracks: [
			{ id: 'track-orrery', name: 'Orrery', input: 'Ferry 8 In 1', output: 'Ferry 8 Out 1', echo: true },
			{
				id: 'track-west',
				name: 'West',
				input: 'Span 61',
				output: 'Ferry 8 Out 2',
				outputChannel: 2,
				echo: true
			},
			{ id: 'track-east', name: 'East', input: 'Span 61', output: 'Ferry 8 Out 3', outputChannel: 3 },
			{
				id: 'track-drums',
				name: 'Drums',
				input: 'Tiles',
				output: 'Ferry 8 Out 4',
				outputChannel: 10,
				echo: true
			},
			{ id: 'track-reed', name: 'Reed', output: 'Ferry 8 Out 5', outputChannel: 4 },
			{ id: 'track-delay', name: 'Delay times', output: 'Ferry 2 Out 1', outputChannel: 5 }
		]
	});
}
