import { addressMap } from '../addresses';
import { isCarrier } from '../carrier';
import { isDescribed, strayFromDescription } from '../described';
import { namesSlot } from '../layout';
import { messagesOf } from '../parcels';
import type { Profile, ProfileArea, ToldValue } from '../schema';
import { isSelecting } from '../told';
import type { Fault } from './fault';

export function areaFaults(profile: Profile): Fault[] {
	const faults: Fault[] = [];
	profile.areas.forEach((area, i) => {
		if (!profile.records[area.record])
			faults.push({ path: ['areas', i, 'record'], says: `there is no record “${area.record}”` });
		if (profile.areas.findIndex((other) => other.id === area.id) !== i)
			faults.push({ path: ['areas', i, 'id'], says: `“${area.id}” is used twice` });
		const labels = area.labels;
		const room =
			labels.style === 'grid'
				? labels.places.reduce((all, place) => all * place.length, 1)
				: labels.style === 'list'
					? labels.labels.length
					: Infinity;
		if (room < area.slots)
			faults.push({ path: ['areas', i, 'labels'], says: `only ${room} labels for ${area.slots} slots` });
		faults.push(
			...recallFaults(area, i),
			...editBufferFaults(profile, area, i),
			...playingFaults(profile, area, i),
			...addressFaults(area, i),
			...calledFaults(profile, area, i),
			...toldFaults(profile, area, i),
			...describedFaults(profile, area, i),
			...panelFaults(profile, area, i)
		);
	});
	return faults;
}

function recallFaults({ recall, slots }: ProfileArea, i: number): Fault[] {
	return (recall ?? []).flatMap(({ from, program }, n) => {
		const path = ['areas', i, 'recall', n];
		const end = recall![n + 1]?.from ?? slots;
		if (n === 0 && from !== 0) return [{ path: [...path, 'from'], says: 'the first begins at slot 0' }];
		if (from >= end)
			return [{ path: [...path, 'from'], says: 'they go upwards, and none begins past the last slot' }];
		return program + end - from > 128
			? [
					{
						path: [...path, 'program'],
						says: `program changes go to 127, and this reaches ${program + end - from - 1}`
					}
				]
			: [];
	});
}

function editBufferFaults(profile: Profile, area: ProfileArea, i: number): Fault[] {
	if (!area.editBuffer) return [];
	const { send } = area.editBuffer;
	const path = ['areas', i, 'editBuffer', 'send'];
	const message = profile.messages[send];
	if (!message) return [{ path, says: `there is no message “${send}”` }];
	const body = message.parts.find(isCarrier);
	if (body?.part !== 'body' || body.area !== area.id || body.records !== 1)
		return [{ path, says: `“${send}” holds no single record of the area “${area.id}”` }];
	if (namesSlot(message)) return [{ path, says: `“${send}” names a slot; an edit buffer has none` }];
	const stored = [
		...profile.capture.flatMap(({ expect }) => messagesOf(expect)),
		...profile.restore.flatMap((way) => messagesOf(way.send))
	];
	return stored.includes(send) ? [{ path, says: `“${send}” is what slots travel in` }] : [];
}

/** A message that asks for a place, or tells one: what it must not, or must, hold. */
function placeFault({ messages }: Profile, name: string, asks: boolean): string | null {
	const message = messages[name];
	if (!message) return `there is no message “${name}”`;
	if (message.parts.some(isCarrier)) return `“${name}” carries a body; it only tells of a place`;
	if (!asks && !namesSlot(message)) return `“${name}” names no slot`;
	return asks && namesSlot(message) ? `“${name}” names a slot; it asks which one is shown` : null;
}

function playingFaults(profile: Profile, { playing, recall }: ProfileArea, i: number): Fault[] {
	if (!playing) return [];
	const path = ['areas', i, 'playing'];
	const faults = (['ask', 'says'] as const).flatMap((field) => {
		const name = playing[field];
		const says = name === undefined ? null : placeFault(profile, name, field === 'ask');
		return says ? [{ path: [...path, field], says }] : [];
	});
	if (playing.ask !== undefined && playing.says === undefined)
		faults.push({ path: [...path, 'says'], says: 'what it answers is needed beside what it is asked' });
	if (playing.says !== undefined && playing.ask === undefined && playing.tells !== 'says')
		faults.push({ path: [...path, 'says'], says: 'nobody asks for it, and it does not come by itself' });
	if (playing.ask === undefined && playing.tells === undefined)
		faults.push({ path, says: 'it is neither asked, nor does it tell by itself' });
	if (playing.tells === 'says' && playing.says === undefined)
		faults.push({ path: [...path, 'tells'], says: 'there is no “says” that it could be' });
	if (playing.tells === 'program-change' && !recall)
		faults.push({ path: [...path, 'tells'], says: 'which slot a program change is, “recall” would say' });
	return faults;
}

/** Dumps of the slot that the panel stands at: what says where it stands, and how such dumps travel. */
function panelFaults(profile: Profile, { id: area, panel }: ProfileArea, i: number): Fault[] {
	if (!panel) return [];
	const faults: Fault[] = [];
	for (const field of ['ask', 'says', 'select'] as const) {
		const name = panel[field];
		if (name === undefined) continue;
		const says = placeFault(profile, name, field === 'ask');
		if (says) faults.push({ path: ['areas', i, 'panel', field], says });
	}
	const isLoose = (id: string) => profile.messages[id] && !namesSlot(profile.messages[id]);
	profile.capture.forEach((way, at) => {
		if (way.area === area && way.start.by === 'panel' && messagesOf(way.expect).some(isLoose))
			faults.push({
				path: ['capture', at, 'expect'],
				says: `a dump that is started by hand names its slot; “${messagesOf(way.expect).find(isLoose)}” does not`
			});
	});
	for (const [id, { parts }] of Object.entries(profile.messages))
		for (const part of parts)
			if (part.part === 'body' && part.area === area && part.records > 1 && isLoose(id))
				faults.push({
					path: ['messages', id],
					says: 'what goes to the slot on the panel holds one record'
				});
	return faults;
}

/** Slots at addresses: each bank from a slot on, with a stride where it has more than one slot. */
function addressFaults({ addresses, slots }: ProfileArea, i: number): Fault[] {
	return (addresses ?? []).flatMap(({ from, stride }, n): Fault[] => {
		const path = ['areas', i, 'addresses', n];
		const end = addresses![n + 1]?.from ?? slots;
		if (n === 0 && from !== 0) return [{ path: [...path, 'from'], says: 'the first begins at slot 0' }];
		if (from >= end)
			return [{ path: [...path, 'from'], says: 'they go upwards, and none begins past the last slot' }];
		return end - from > 1 && stride === undefined
			? [{ path: [...path, 'stride'], says: `${end - from} slots need a distance from one to the next` }]
			: [];
	});
}

/** Bytes of two records at one address: nobody could say whose they are. */
export function overlapFaults(profile: Profile): Fault[] {
	const map = addressMap(profile);
	const at = map.findIndex((stretch, i) => i > 0 && stretch.address < map[i - 1].address + map[i - 1].size);
	if (at < 0) return [];
	const [one, other] = [map[at - 1], map[at]].map(({ area, slot }) => `slot ${slot + 1} of “${area}”`);
	return [
		{
			path: ['areas', profile.areas.findIndex(({ id }) => id === map[at].area), 'addresses'],
			says: `${other} begins where ${one} has not ended`
		}
	];
}

/** What is called up by program change: that is described, its dumps name no slot, and the store command does. */
function calledFaults(profile: Profile, { id, called, recall, panel }: ProfileArea, i: number): Fault[] {
	if (!called) return [];
	const path = ['areas', i, 'called'];
	const store = placeFault(profile, called.store, false);
	return [
		...(recall ? [] : [{ path, says: 'its slots are called up by `recall`, which is not there' }]),
		...(panel ? [{ path, says: 'a panel that says where it stands is another way' }] : []),
		...(store ? [{ path: [...path, 'store'], says: store }] : []),
		...profile.capture.flatMap((way, at): Fault[] =>
			way.area === id && way.start.by === 'panel'
				? [{ path: ['capture', at, 'start'], says: 'what a hand starts names no slot here' }]
				: []
		)
	];
}

/** What is told: one slot of values that nothing else says, and what asks for them. */
function toldFaults(profile: Profile, { told, slots, record }: ProfileArea, i: number): Fault[] {
	if (!told) return [];
	const path = ['areas', i, 'told'];
	return [
		...(slots === 1 ? [] : [{ path: ['areas', i, 'slots'], says: 'what is told is one state, not several' }]),
		// Where its values were spelled out they are gone.
		...(told.values && profile.records[record]
			? [{ path: [...path, 'values'], says: `“${record}” is described as a record already` }]
			: []),
		...bankFaults(told.values ?? [], path),
		...(told.ask === undefined || profile.messages[told.ask]
			? []
			: [{ path: [...path, 'ask'], says: `there is no message “${told.ask}”` }]),
		...(told.ask === undefined && told.instruction === undefined
			? [{ path, says: 'either a message asks for its values, or a hand has it send them' }]
			: [])
	];
}

/** The bank of a program change stands just before it, as it is sent. */
function bankFaults(values: readonly ToldValue[], path: Fault['path']): Fault[] {
	const places = values.flatMap((value, n) => (isSelecting(value) ? [n] : []));
	const last = places.at(-1);
	if (last === undefined || !places.some((n) => 'cc' in values[n].by)) return [];
	const together = last - places[0] === places.length - 1;
	return together && 'program' in values[last].by
		? []
		: [
				{
					path: [...path, 'values', places[0]],
					says: 'a bank (controllers 0 and 32) stands just before the program change that it belongs to'
				}
			];
}

/** What is described: as many states as slots, each once; record and messages as they follow from that. */
function describedFaults(profile: Profile, area: ProfileArea, i: number): Fault[] {
	if (!isDescribed(area)) return [];
	const { described, slots, told, called, panel, addresses } = area;
	const stray = profile.records[area.record] ? strayFromDescription(profile, area) : null;
	const path = ['areas', i, 'described'];
	return [
		...(described.states.length === slots
			? []
			: [
					{ path: [...path, 'states'], says: `it names ${described.states.length} states for ${slots} slots` }
				]),
		...(new Set(described.states).size === described.states.length
			? []
			: [{ path: [...path, 'states'], says: 'it names a state twice' }]),
		...(stray ? [{ path, says: stray }] : []),
		...(told || called || panel || addresses
			? [{ path, says: 'what is described is read and written as properties, and in no other way' }]
			: [])
	];
}
