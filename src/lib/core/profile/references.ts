import { PACKINGS } from '../sysex';
import type { TextField } from './charset';
import { namesSlot } from './layout';
import { CELL_FIELDS, MOST_FIELDS, type Profile, type ProfileArea } from './schema';

export interface ReferenceFault {
	path: (string | number)[];
	says: string;
}

/** Faults that one part of a profile has because of another: missing names, sizes that cannot fit. */
export function referenceFaults(profile: Profile): ReferenceFault[] {
	return [
		...areaFaults(profile),
		...recordFaults(profile),
		...messageFaults(profile),
		...wayFaults(profile),
		...surfaceFaults(profile),
		...targetFaults(profile)
	];
}

function areaFaults(profile: Profile): ReferenceFault[] {
	const faults: ReferenceFault[] = [];
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
			...panelFaults(profile, area, i)
		);
	});
	return faults;
}

function recallFaults({ recall, slots }: ProfileArea, i: number): ReferenceFault[] {
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

function editBufferFaults(profile: Profile, area: ProfileArea, i: number): ReferenceFault[] {
	if (!area.editBuffer) return [];
	const { send } = area.editBuffer;
	const path = ['areas', i, 'editBuffer', 'send'];
	const message = profile.messages[send];
	if (!message) return [{ path, says: `there is no message “${send}”` }];
	const body = message.parts.find((part) => part.part === 'body');
	if (body?.area !== area.id || body.records !== 1)
		return [{ path, says: `“${send}” holds no single record of the area “${area.id}”` }];
	if (namesSlot(message)) return [{ path, says: `“${send}” names a slot; an edit buffer has none` }];
	const stored = [...profile.capture.map(({ expect }) => expect), ...profile.restore.map((way) => way.send)];
	return stored.includes(send) ? [{ path, says: `“${send}” is what slots travel in` }] : [];
}

/** A message that asks for a place, or tells one: what it must not, or must, hold. */
function placeFault({ messages }: Profile, name: string, asks: boolean): string | null {
	const message = messages[name];
	if (!message) return `there is no message “${name}”`;
	if (message.parts.some(({ part }) => part === 'body'))
		return `“${name}” carries a body; it only tells of a place`;
	if (!asks && !namesSlot(message)) return `“${name}” names no slot`;
	return asks && namesSlot(message) ? `“${name}” names a slot; it asks which one is shown` : null;
}

function playingFaults(profile: Profile, { playing }: ProfileArea, i: number): ReferenceFault[] {
	if (!playing) return [];
	return (['ask', 'says'] as const).flatMap((field) => {
		const says = placeFault(profile, playing[field], field === 'ask');
		return says ? [{ path: ['areas', i, 'playing', field], says }] : [];
	});
}

/** Dumps of the slot that the panel stands at: what says where it stands, and how such dumps travel. */
function panelFaults(profile: Profile, { id: area, panel }: ProfileArea, i: number): ReferenceFault[] {
	if (!panel) return [];
	const faults: ReferenceFault[] = [];
	for (const field of ['ask', 'says', 'select'] as const) {
		const name = panel[field];
		if (name === undefined) continue;
		const says = placeFault(profile, name, field === 'ask');
		if (says) faults.push({ path: ['areas', i, 'panel', field], says });
	}
	const isLoose = (id: string) => profile.messages[id] && !namesSlot(profile.messages[id]);
	profile.capture.forEach((way, at) => {
		if (way.area === area && way.start.by === 'panel' && isLoose(way.expect))
			faults.push({
				path: ['capture', at, 'expect'],
				says: `a dump that is started by hand names its slot; “${way.expect}” does not`
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

/** A row that was left: it is not there, or all of them come to more than anybody can mean. */
const rowFault = (each: string | string[]): string =>
	`there is no row “${[each].flat().join(', ')}”, or the record has more than ${MOST_FIELDS.toLocaleString('en')} fields`;

function recordFaults(profile: Profile): ReferenceFault[] {
	const faults: ReferenceFault[] = [];
	for (const [id, record] of Object.entries(profile.records)) {
		const { name } = record;
		const textFaults = (field: TextField, path: (string | number)[], what: string) => {
			const end = field.offset + field.length;
			if (end > record.size)
				faults.push({ path, says: `${what} ends at byte ${end}, the record at ${record.size}` });
			if (field.charset !== 'ascii' && !profile.charsets[field.charset])
				faults.push({ path: [...path, 'charset'], says: `there is no charset “${field.charset}”` });
		};
		if (name) textFaults(name, ['records', id, 'name'], 'the name');
		record.texts.forEach((text, i) => {
			const path = ['records', id, 'texts', i];
			textFaults(text, path, `“${text.name}”`);
			if (text.each !== undefined) faults.push({ path: [...path, 'each'], says: rowFault(text.each) });
			if (record.texts.findIndex((other) => other.id === text.id) !== i)
				faults.push({ path: [...path, 'id'], says: `“${text.id}” is used twice` });
		});
		if (record.category && !record.parameters.find(({ id: own }) => own === record.category)?.values)
			faults.push({
				path: ['records', id, 'category'],
				says: `there is no parameter “${record.category}” with named values`
			});
		record.parameters.forEach((parameter, i) => {
			const path = ['records', id, 'parameters', i];
			if (parameter.each !== undefined)
				faults.push({
					path: [...path, 'each'],
					says: rowFault(parameter.each)
				});
			if (parameter.offset + Math.ceil((parameter.bit + parameter.bits) / 8) > record.size)
				faults.push({
					path: [...path, 'offset'],
					says: `“${parameter.name}” reaches past the record's ${record.size} bytes`
				});
			const [low, high] = parameter.range;
			if (high < low || high >= 2 ** parameter.bits)
				faults.push({
					path: [...path, 'range'],
					says: `${low} to ${high} does not fit in ${parameter.bits} bits`
				});
			if (parameter.values && parameter.values.length !== high - low + 1)
				faults.push({
					path: [...path, 'values'],
					says: `${parameter.values.length} names for ${high - low + 1} values`
				});
			if (record.parameters.findIndex((other) => other.id === parameter.id) !== i)
				faults.push({ path: [...path, 'id'], says: `“${parameter.id}” is used twice` });
		});
	}
	return faults;
}

function messageFaults(profile: Profile): ReferenceFault[] {
	const faults: ReferenceFault[] = [];
	for (const [id, message] of Object.entries(profile.messages)) {
		const parts = message.parts;
		const path = ['messages', id, 'parts'];
		const first = parts[0];
		const last = parts[parts.length - 1];
		if (first.part !== 'bytes' || !/^F0/i.test(first.bytes))
			faults.push({ path: [...path, 0], says: 'a message begins with fixed bytes from F0' });
		if (last.part !== 'bytes' || !/F7$/i.test(last.bytes))
			faults.push({ path: [...path, parts.length - 1], says: 'a message ends with fixed bytes up to F7' });
		if (parts.filter(({ part }) => part === 'body').length > 1)
			faults.push({ path, says: 'a message holds one body at most' });
		parts.forEach((part, i) => {
			if (part.part === 'bytes') {
				const inner = part.bytes.split(' ').slice(i === 0 ? 1 : 0, i === parts.length - 1 ? -1 : undefined);
				if (inner.some((byte) => parseInt(byte, 16) > 0x7f))
					faults.push({ path: [...path, i, 'bytes'], says: 'data bytes are 00 to 7F' });
			}
			if (part.part === 'checksum') {
				const from = parts.findIndex(({ name }) => name === part.from);
				const to = parts.findIndex(({ name }) => name === part.to);
				if (from < 0)
					faults.push({
						path: [...path, i, 'from'],
						says: `no part of this message is named “${part.from}”`
					});
				if (to < 0)
					faults.push({ path: [...path, i, 'to'], says: `no part of this message is named “${part.to}”` });
				if (from >= 0 && to >= 0 && (from > to || (from <= i && i <= to)))
					faults.push({
						path: [...path, i],
						says: 'a checksum covers parts from first to last, and not itself'
					});
			}
			if (part.part === 'body') {
				const area = profile.areas.find(({ id }) => id === part.area);
				if (!area) faults.push({ path: [...path, i, 'area'], says: `there is no area “${part.area}”` });
				else if (area.slots % part.records !== 0)
					faults.push({
						path: [...path, i, 'records'],
						says: `${area.slots} slots cannot be cut into messages of ${part.records}`
					});
				const size = area && profile.records[area.record]?.size;
				if (
					size &&
					PACKINGS[part.packing].unpackedLength(PACKINGS[part.packing].packedLength(size * part.records)) !==
						size * part.records
				)
					faults.push({
						path: [...path, i, 'packing'],
						says: `records of ${size} bytes cannot be packed this way`
					});
			}
		});
	}
	return faults;
}

function wayFaults(profile: Profile): ReferenceFault[] {
	const faults: ReferenceFault[] = [];
	const needMessage = (id: string | undefined, path: (string | number)[]) => {
		if (id !== undefined && !profile.messages[id]) faults.push({ path, says: `there is no message “${id}”` });
	};
	const bodyArea = (id: string) => profile.messages[id]?.parts.find((part) => part.part === 'body')?.area;
	profile.capture.forEach((way, i) => {
		const path = ['capture', i];
		if (way.start.by === 'request') needMessage(way.start.send, [...path, 'start', 'send']);
		needMessage(way.expect, [...path, 'expect']);
		needMessage(way.confirm?.good, [...path, 'confirm', 'good']);
		needMessage(way.confirm?.bad, [...path, 'confirm', 'bad']);
		if (profile.messages[way.expect] && bodyArea(way.expect) !== way.area)
			faults.push({
				path: [...path, 'expect'],
				says: `“${way.expect}” holds no body of the area “${way.area}”`
			});
	});
	profile.restore.forEach((way, i) => {
		const path = ['restore', i];
		needMessage(way.send, [...path, 'send']);
		for (const [key, id] of Object.entries(way.replies ?? {})) needMessage(id, [...path, 'replies', key]);
		if (profile.messages[way.send] && bodyArea(way.send) !== way.area)
			faults.push({ path: [...path, 'send'], says: `“${way.send}” holds no body of the area “${way.area}”` });
	});
	return faults;
}

function surfaceFaults({ surface, areas, records }: Profile): ReferenceFault[] {
	if (!surface) return [];
	const record = records[areas.find(({ id }) => id === surface.area)?.record ?? ''];
	if (!record) return [{ path: ['surface', 'area'], says: `there is no area “${surface.area}”` }];
	const byId = new Map(record.parameters.map((parameter) => [parameter.id, parameter]));
	const shared: ReferenceFault[] =
		surface.quick === undefined || byId.has(surface.quick)
			? []
			: [{ path: ['surface', 'quick'], says: `there is no parameter “${surface.quick}”` }];
	const cells = surface.cells.flatMap(({ cell, control, gesture }, i): ReferenceFault[] => {
		const path = ['surface', 'cells', i];
		const same = surface.cells.findIndex((each) => each.control === control && each.gesture === gesture);
		if (same !== i) return [{ path, says: `“${control}” has two cells for “${gesture}”` }];
		const ids = surface.pages?.map((page) => `${page}-${cell}`) ?? [cell];
		return ids.flatMap((own) =>
			CELL_FIELDS.flatMap((field): ReferenceFault[] => {
				const parameter = byId.get(`${own}-${field}`);
				if (!parameter) return [{ path, says: `there is no parameter “${own}-${field}”` }];
				const words = field === 'kind' ? surface.kinds : field === 'way' ? surface.ways : null;
				const values = parameter.range[1] - parameter.range[0] + 1;
				return words && words.length !== values
					? [{ path: ['surface', `${field}s`], says: `${words.length} words for ${values} values` }]
					: [];
			})
		);
	});
	return [...shared, ...cells];
}

const targetFaults = ({ targets = [] }: Profile): ReferenceFault[] =>
	targets.flatMap(({ id }, i) =>
		targets.findIndex((other) => other.id === id) === i
			? []
			: [{ path: ['targets', i, 'id'], says: `“${id}” is used twice` }]
	);
