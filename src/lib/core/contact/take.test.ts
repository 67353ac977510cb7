import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyChanges, hostWays, indexRig, inverses } from '../rig';
import { planTake, takeSchema, whoIsFound, type Surroundings, type TakeItem } from '.';
import { catalogued, computerPorts, search, surroundings, taken, type OnWire } from './studio.fixture';

let made = 0;
const newId = () => `new-${++made}`;
const order = (
	present: ReturnType<typeof computerPorts>,
	items: Partial<TakeItem>[],
	interfaces: string[] = []
) =>
	takeSchema.parse({
		present,
		interfaces,
		items: items.map((item) => ({
			out: null,
			in: null,
			device: null,
			profileId: null,
			deviceId: null,
			...item
		}))
	});
/** Everything that answered, taken as it was found. */
const takeAll = (around: Surroundings, wires: readonly OnWire[]) => {
	const { sought } = search(around.present, wires);
	const found = whoIsFound(sought.heard, around).filter(({ heard }) => heard.units === 1);
	const taking = planTake(
		around,
		order(
			[...around.present],
			found.map(({ heard, entry }) => ({
				out: heard.out.id,
				in: heard.in.id,
				device: entry.device?.id ?? null,
				profileId: entry.profileId,
				deviceId: heard.identity.deviceId,
				answered: true
			}))
		),
		newId
	);
	return { found, taking, after: taken(around, taking) };
};
/** The ways of the studio by the computer's own ports. */
const waysOf = ({ rig, remembered, devices }: Surroundings) => {
	const portOf = (key: string | undefined, direction: 'in' | 'out') =>
		remembered.find((port) => port.key === key && port.direction === direction)?.id ?? null;
	return new Map(
		hostWays(rig).map(({ device, out, in: back }) => [
			devices.find(({ id }) => id === device)!.name,
			[portOf(out?.port, 'out'), portOf(back?.port, 'in')]
		])
	);
};

describe('taking what was found', () => {
	it('makes the interface, the devices, the cables, the ports and the device IDs from nothing', () => {
		const around = surroundings({ present: computerPorts(4) });
		const { taking, after } = takeAll(around, [
			{ profile: 'vellbrook-orrery', out: 1, in: 3 },
			{ profile: 'tarnow-parallax', out: 2, in: 1, deviceId: 5 },
			{ profile: 'tarnow-parallax', out: 4, in: 2, deviceId: 6 }
		]);
		expect(after.devices.map(({ name, kind }) => [name, kind])).toEqual([
			['Orrery', 'synthesiser'],
			['Parallax', 'sound module'],
			['Parallax 2', 'sound module'],
			['Ferry 8', 'interface']
		]);
		const ways = waysOf(after);
		expect(ways.get('Orrery')).toEqual(['out-1', 'in-3']);
		expect(ways.get('Parallax')).toEqual(['out-2', 'in-1']);
		expect(ways.get('Parallax 2')).toEqual(['out-4', 'in-2']);
		expect(after.devices.map(({ deviceId }) => deviceId)).toEqual([0, 4, 5, null]);
		// All ports of the interface are noted, used or not.
		expect(taking.remember).toHaveLength(8);
	});

	it('moves a cable that is noted elsewhere to where the device answered, and leaves the others', () => {
		const present = computerPorts(4);
		const first = takeAll(surroundings({ present }), [
			{ profile: 'vellbrook-orrery', out: 2, in: 2 },
			{ profile: 'ternhill-umbra', out: 1, in: 1 }
		]).after;
		const { found, after } = takeAll(first, [
			{ profile: 'vellbrook-orrery', out: 3, in: 4 },
			{ profile: 'ternhill-umbra', out: 1, in: 1 }
		]);
		expect(found.map(({ entry, news }) => [entry.device?.name, news])).toEqual([
			['Umbra', []],
			['Orrery', ['cables']]
		]);
		expect(waysOf(after).get('Orrery')).toEqual(['out-3', 'in-4']);
		expect(waysOf(after).get('Umbra')).toEqual(['out-1', 'in-1']);
	});

	it('hangs the second of two at one out on the thru of the first', () => {
		const { after } = takeAll(surroundings({ present: computerPorts(2) }), [
			{ profile: 'vellbrook-orrery', out: 1, in: 1 },
			{ profile: 'ternhill-umbra', out: 1, in: 2 }
		]);
		expect(waysOf(after).get('Orrery')).toEqual(['out-1', 'in-1']);
		expect(waysOf(after).get('Umbra')).toEqual(['out-1', 'in-2']);
		const index = indexRig(after.rig);
		const thrus = after.rig.cables.filter(({ from }) => index.ports.get(from)!.port.direction === 'thru');
		expect(thrus).toHaveLength(1);
	});

	it('knows an instrument’s own USB port, and the computer that it hangs on', () => {
		const ferry = computerPorts(2);
		const own = (['in', 'out'] as const).map((direction) => ({
			id: `${direction}-3`,
			name: 'Orrery',
			manufacturer: 'Vellbrook',
			direction
		}));
		const present = [
			...ferry.filter((p) => p.direction === 'in'),
			own[0],
			...ferry.filter((p) => p.direction === 'out'),
			own[1]
		];
		const { after, taking } = takeAll(surroundings({ present }), [
			{ profile: 'ternhill-umbra', out: 1, in: 1 },
			{ profile: 'vellbrook-orrery', out: 3, in: 3 }
		]);
		expect(waysOf(after).get('Orrery')).toEqual(['out-3', 'in-3']);
		expect(waysOf(after).get('Umbra')).toEqual(['out-1', 'in-1']);
		expect(taking.devices.map(({ facts }) => facts.name).sort()).toEqual([
			'Computer',
			'Ferry 8',
			'Orrery',
			'Umbra'
		]);
	});

	it('notes an interface by itself, once', () => {
		const present = computerPorts(4);
		const around = surroundings({ present });
		const after = taken(around, planTake(around, order(present, [], ['Ferry 8']), newId));
		expect(after.devices.map(({ name, ports }) => [name, ports.length])).toEqual([['Ferry 8', 9]]);
		expect(planTake(after, order(present, [], ['Ferry 8']), newId)).toMatchObject({
			devices: [],
			sockets: [],
			remember: [],
			changes: []
		});
	});

	it('gives an interface of the catalogue the sockets that it lacks, and keeps the others', () => {
		const small = catalogued({
			id: 'ferry',
			name: 'Ferry 8',
			kind: 'interface',
			ports: [
				{ id: 'a', name: 'In 1', direction: 'in', connector: 'din' },
				{ id: 'b', name: 'Out 1', direction: 'out', connector: 'din' }
			]
		});
		const around = surroundings({ devices: [small], present: computerPorts(2) });
		const { after } = takeAll(around, [{ profile: 'vellbrook-orrery', out: 2, in: 1 }]);
		expect(after.devices.find(({ id }) => id === 'ferry')!.ports.map(({ name }) => name)).toEqual([
			'In 1',
			'Out 1',
			'In 2',
			'Out 2'
		]);
		expect(waysOf(after).get('Orrery')).toEqual(['out-2', 'in-1']);
	});

	it('refuses what is no longer there', () => {
		const around = surroundings({ present: computerPorts(1) });
		expect(() => planTake(around, order(computerPorts(1), [{ out: 'out-9', in: 'in-1' }]), newId)).toThrow(
			'no longer shows'
		);
		expect(() => planTake(around, order(computerPorts(1), [{ device: 'gone' }]), newId)).toThrow('no longer');
		expect(() => planTake(around, order(computerPorts(1), [{ profileId: 'gone' }]), newId)).toThrow(
			'no longer'
		);
	});

	it('leads every device by exactly the ports that it answered on, whatever was noted before, and can be undone', () => {
		const models = ['vellbrook-orrery', 'tarnow-parallax', 'ternhill-umbra'];
		const wiring = fc.uniqueArray(
			fc.record({
				profile: fc.constantFrom(...models),
				out: fc.integer({ min: 1, max: 6 }),
				in: fc.integer({ min: 1, max: 6 }),
				deviceId: fc.integer({ min: 1, max: 9 })
			}),
			// One on each out and each in, and every ID of a model once: otherwise nobody could say who is who.
			{
				maxLength: 5,
				selector: ({ profile, deviceId }) => `${profile} ${deviceId}`
			}
		);
		const apart = (wires: readonly OnWire[]) =>
			wires.filter(
				(wire, i) =>
					wires.findIndex(({ out }) => out === wire.out) === i &&
					wires.findIndex((other) => other.in === wire.in) === i
			);
		fc.assert(
			fc.property(wiring, wiring, (before, now) => {
				const present = computerPorts(6);
				const start = takeAll(surroundings({ present }), apart(before)).after;
				const { found, taking, after } = takeAll(start, apart(now));
				const ways = waysOf(after);
				for (const { heard, entry } of found) {
					const name = entry.device?.name ?? taking.met.find(({ item }) => item.out === heard.out.id)!.name;
					expect(ways.get(name)).toEqual([heard.out.id, heard.in.id]);
				}
				// Taken once more, nothing is new.
				const again = takeAll(after, apart(now));
				expect(again.found.flatMap(({ news }) => news)).toEqual([]);
				expect(again.taking.changes).toEqual([]);
				// The way back restores cables and settings.
				const between = { ...after.rig, cables: start.rig.cables, settings: start.rig.settings };
				const undone = applyChanges(applyChanges(between, taking.changes), inverses(between, taking.changes));
				const sorted = (cables: typeof undone.cables) => cables.map(({ from, to }) => `${from} ${to}`).sort();
				expect(sorted(undone.cables)).toEqual(sorted(start.rig.cables));
			}),
			{ numRuns: 60 }
		);
	});
});
