import { isCarrier } from '../carrier';
import { says } from '../layout';
import { messagesOf } from '../parcels';
import type { Profile } from '../schema';
import { sectionsOf } from '../sections';
import type { Fault } from './fault';

/** Ways that name messages which are not there, or which do not carry what they shall. */
export function wayFaults(profile: Profile): Fault[] {
	const missing = (id: string | undefined, path: (string | number)[]): Fault[] =>
		id === undefined || profile.messages[id] ? [] : [{ path, says: `there is no message “${id}”` }];
	return [
		...profile.capture.flatMap((way, i) => {
			const path = ['capture', i];
			return [
				...(way.start.by === 'request'
					? [
							...missing(way.start.send, [...path, 'start', 'send']),
							...addressedFaults(profile, way, way.start.send, path)
						]
					: []),
				...missing(way.says?.wait, [...path, 'says', 'wait']),
				...missing(way.says?.cancel, [...path, 'says', 'cancel']),
				...missing(way.says?.end, [...path, 'says', 'end']),
				...missing(way.stop, [...path, 'stop']),
				...missing(way.cancel, [...path, 'cancel']),
				...missing(way.confirm?.good, [...path, 'confirm', 'good']),
				...missing(way.confirm?.bad, [...path, 'confirm', 'bad']),
				...totalFaults(profile, way.total, way.says?.end, path),
				...(way.total && way.start.by === 'panel'
					? [{ path: [...path, 'total'], says: 'what is started by hand says no checksum over all of it' }]
					: []),
				...carriedFaults(profile, way.area, way.expect, [...path, 'expect'])
			];
		}),
		...profile.restore.flatMap((way, i) => {
			const path = ['restore', i];
			return [
				...(['accepted', 'rejected', 'busy', 'locked'] as const).flatMap((key) =>
					missing(way.replies?.[key], [...path, 'replies', key])
				),
				...(['begin', 'end', 'cancel'] as const).flatMap((key) => missing(way[key], [...path, key])),
				...totalFaults(profile, way.total, way.end, path),
				...carriedFaults(profile, way.area, way.send, [...path, 'send'])
			];
		})
	];
}

/** A checksum over a whole dump is said by what ends it. */
const totalFaults = (
	{ messages }: Profile,
	total: Profile['capture'][number]['total'],
	end: string | undefined,
	path: (string | number)[]
): Fault[] =>
	total === undefined || (end !== undefined && messages[end] && says(messages[end], 'total'))
		? []
		: [{ path: [...path, 'total'], says: 'no message that ends the dump says it as “total”' }];

/** The messages of a way: they are there, carry something of the area, and sections that follow each other. */
function carriedFaults(
	profile: Profile,
	areaId: string,
	ids: string | readonly string[],
	path: (string | number)[]
): Fault[] {
	const faults: Fault[] = [];
	const area = profile.areas.find(({ id }) => id === areaId);
	const record = area && profile.records[area.record];
	if (!record) return [{ path, says: `there is no area “${areaId}”` }];
	const named = messagesOf(ids);
	const carried = new Set<string>();
	for (const id of named) {
		const message = profile.messages[id];
		const part = message?.parts.find(isCarrier);
		if (!message) faults.push({ path, says: `there is no message “${id}”` });
		else if (!part || (part.part !== 'memory' && part.area !== areaId))
			faults.push({ path, says: `“${id}” holds no body of the area “${areaId}”` });
		else if (part.part === 'memory' && !area.addresses)
			faults.push({ path, says: `“${id}” goes by addresses, and the area “${areaId}” has none` });
		else if (part.part === 'section' || part.part === 'column') carried.add(part.section);
		else if (named.length > 1)
			faults.push({ path, says: `“${id}” holds whole records; only sections travel in several messages` });
	}
	if (carried.size === 0) return faults;
	const own = sectionsOf(record).map(({ id }) => carried.has(id));
	return own.slice(own.indexOf(true), own.lastIndexOf(true) + 1).every(Boolean)
		? faults
		: [...faults, { path, says: 'the sections of one way follow each other in the record' }];
}

/** A request by address asks for what comes at addresses. */
function addressedFaults(
	profile: Profile,
	{ expect, covers, most }: Profile['capture'][number],
	send: string,
	path: (string | number)[]
): Fault[] {
	const message = profile.messages[send];
	if (!message) return [];
	const asks = says(message, 'address');
	const comes = messagesOf(expect).every(
		(id) => profile.messages[id] && carrierKind(profile, id) === 'memory'
	);
	if (asks && !comes)
		return [{ path: [...path, 'expect'], says: `“${send}” asks for an address, and what comes names none` }];
	return !asks && (covers !== undefined || most !== undefined)
		? [
				{
					path: [...path, covers === undefined ? 'most' : 'covers'],
					says: `“${send}” does not ask for an address`
				}
			]
		: [];
}

const carrierKind = (profile: Profile, id: string) =>
	profile.messages[id].parts.find(isCarrier)?.part ?? null;
