import { rigSchema } from './schema';
import { describe, expect, it } from 'vitest';
import { applyChange, applyChanges, inverses, type RigChange } from './change';
import { readRig, readRigText } from './read-rig';
import { cable, host, module, port, studio } from './rig.fixture';
import { trace, whySilent } from './trace';

const keys = { id: 'keys', name: 'keys', kind: 'controller', sends: [1], ports: [port('keys.out', 'out')] };
const rig = studio([keys, module('a'), module('b'), module('c'), module('d')], {
	cables: [
		cable('keys.out', 'ferry.in1'),
		cable('ferry.out1', 'a.in'),
		cable('a.thru', 'b.in'),
		cable('ferry.out2', 'c.in')
	],
	settings: [
		{ device: 'a', channel: 1 },
		{ device: 'b', channel: 2 },
		{ device: 'c', channel: 1 },
		{ device: 'd', channel: 1 }
	],
	host: host({
		tracks: [
			{ id: 't1', name: 'Keys', input: 'hi1', output: 'ho1', echo: true },
			{ id: 't2', name: 'Pad', output: 'ho2' }
		]
	})
});

describe('trace', () => {
	it('follows a key to everybody, with the time of each hop', () => {
		const { reached, silent } = trace(rig, { device: 'keys' }, 1);
		expect(reached.map(({ id }) => id)).toEqual(['a']);
		// Wire to the interface, a USB frame, the host, a USB frame, wire to the instrument.
		expect(reached[0].delayMs).toBeCloseTo(0.96 + 1 + 3 + 1 + 0.96, 9);
		expect(reached[0].hops.at(-1)).toMatchObject({ says: 'a receives it', atMs: reached[0].delayMs });
		expect(silent.find(({ id }) => id === 'b')!.stop.says).toBe(
			'b listens on channel 2, the message is on 1.'
		);
		expect(silent.find(({ id }) => id === 'c')!.stop.says).toBe(
			'The track “Pad” does not echo what comes in.'
		);
		expect(silent.find(({ id }) => id === 'd')!.stop.says).toBe('Nothing is plugged into d (in).');
	});

	it('says backwards what would have to change, the least first', () => {
		const answers = whySilent(rig, 'b');
		expect(answers[0]).toMatchObject({
			name: 'keys',
			changes: [{ says: 'b listens on channel 2, the message is on 1.' }]
		});
		expect(whySilent(rig, 'a')[0].changes).toEqual([]);
	});

	it('starts from a socket, a host port and a track', () => {
		expect(trace(rig, { port: 'ferry.out2' }, 1).reached.map(({ id }) => id)).toEqual(['c']);
		expect(trace(rig, { port: 'ho1' }, 2).reached.map(({ id }) => id)).toEqual(['b']);
		expect(trace(rig, { track: 't2' }, 1).reached.map(({ id }) => id)).toEqual(['c']);
	});
});

it('counts the audio buffer and the driver before a software instrument is heard', () => {
	const played = (audio: object) =>
		trace(
			rigSchema.parse({
				...rig,
				hosts: [{ ...rig.hosts[0], latencyMs: 4, audio, instruments: [{ id: 'piano', name: 'Piano' }] }]
			}),
			{ port: 'hi1' },
			1
		).reached.find(({ id }) => id === 'piano')!.delayMs;
	expect(played({})).toBe(4);
	expect(played({ buffer: 480, driverMs: 2.5 })).toBe(4 + 10 + 2.5);
	expect(played({ buffer: 441, rate: 44_100 })).toBe(4 + 10);
});

it('undoes any list of changes', () => {
	const changes: RigChange[] = [
		{ do: 'pull', from: 'ferry.out2', to: 'c.in' },
		{ do: 'plug', from: 'ferry.out3', to: 'd.in' },
		{ do: 'set', device: 'a', channel: 5 },
		{ do: 'wire', device: 'a', wiring: { softThru: true } },
		{ do: 'layer', devices: ['a', 'b'], intended: true },
		{ do: 'host', host: { ...rig.hosts[0], clock: true } },
		{ do: 'host', host: { ...rig.hosts[0], id: 'tablet', name: 'Tablet', ports: [], tracks: [] } },
		{ do: 'host-gone', host: rig.hosts[0].id }
	];
	const after = applyChanges(rig, changes);
	const back = applyChanges(after, inverses(rig, changes));
	expect({ ...back, cables: [...back.cables].sort((a, b) => a.from.localeCompare(b.from)) }).toEqual({
		...rig,
		cables: [...rig.cables].sort((a, b) => a.from.localeCompare(b.from))
	});
	expect(() => applyChange(rig, { do: 'pull', from: 'ferry.out3', to: 'd.in' })).toThrow('pulled already');
	expect(() => applyChange(rig, { do: 'plug', from: 'a.in', to: 'ferry.out1' })).toThrow(
		'plugged in already'
	);
});

describe('a rig file', () => {
	const faultsOf = (raw: unknown) => {
		try {
			readRig(raw);
			return [];
		} catch (problem) {
			return (problem as { detail: { faults: { at: string; says: string }[] } }).detail.faults;
		}
	};
	const file = {
		format: 'silent-drawer.rig',
		version: 1,
		devices: [{ id: 'a', name: 'A', ports: [{ id: 'p', direction: 'in', connector: 'din' }] }]
	};

	it('is read with everything that is left out filled in, and unknown fields named', () => {
		const { rig: read, ignored } = readRig({ ...file, devices: [{ ...file.devices[0], recieve: {} }] });
		expect(read.devices[0].receive).toEqual({
			channels: expect.any(Array),
			parts: 1,
			adjacent: true,
			omni: false
		});
		expect(read.limits).toEqual({ chain: 3, load: 0.7 });
		expect(ignored).toEqual(['devices[0].recieve']);
	});

	it('names the path of each fault, and what was expected', () => {
		expect(
			faultsOf({
				...file,
				devices: [
					{
						...file.devices[0],
						receive: { channels: [1, 17] },
						ports: [{ id: 'p', direction: 'inn', connector: 'din' }]
					}
				]
			})
		).toEqual([
			{
				at: 'devices[0].ports[0].direction',
				says: 'expected one of "in", "out", "thru", "both", found "inn"'
			},
			{ at: 'devices[0].receive.channels[1]', says: 'expected at most 16, found 17' }
		]);
		expect(faultsOf({ ...file, format: 'other' })).toEqual([
			{ at: 'format', says: 'expected one of "silent-drawer.rig", found "other"' }
		]);
		expect(faultsOf([])).toEqual([{ at: 'the file', says: 'expected object, found []' }]);
	});

	it('refuses what points at nothing, and ids that are used twice', () => {
		expect(faultsOf({ ...file, cables: [{ from: 'q', to: 'p' }], settings: [{ device: 'z' }] })).toEqual([
			{ at: 'cables[0].from', says: 'expected the id of a port, but none is called “q”' },
			{ at: 'settings[0].device', says: 'expected the id of a device, but none is called “z”' }
		]);
		expect(faultsOf({ ...file, devices: [file.devices[0], file.devices[0]] })[0]).toEqual({
			at: 'devices[1].ports[0].id',
			says: 'expected an id of its own, but devices[0].ports[0].id is “p” too'
		});
		expect(() => readRigText('{')).toThrow('not JSON');
	});
});
