import type {
	CaptureWay,
	MessagePart,
	Profile,
	ProfileArea,
	ProfileRecord,
	RestoreWay,
	ToldValue
} from './schema';

export type ToldArea = ProfileArea & { told: NonNullable<ProfileArea['told']> };

/** Whether an area is told value by value, in channel messages. */
export const isTold = (area: ProfileArea): area is ToldArea => area.told !== undefined;

/** Whether anything of a model is. */
export const tellsValues = ({ areas }: Profile): boolean => areas.some(isTold);

/**
 * Whether anything of a model goes over its channel: values that are told, program changes that call slots up. None of it
 * shows by itself that it is right, so it is read twice.
 */
export const goesByChannel = ({ areas }: Profile): boolean =>
	areas.some(({ called, told }) => called !== undefined || told !== undefined);

const hex = (...bytes: number[]) =>
	bytes.map((byte) => byte.toString(16).padStart(2, '0').toUpperCase()).join(' ');

/** Bytes of the record that a value takes: seven bits in each. */
const sizeOf = ({ bits }: ToldValue): number => (bits === 14 ? 2 : 1);

/** Whether a value is a half of the bank, or the program change that it belongs to. */
export const isSelecting = ({ by }: ToldValue): boolean =>
	'program' in by || ('cc' in by && (by.cc === 0 || by.cc === 32));

/** What a statement of a value is made of. */
function partsOf(area: string, value: ToldValue): MessagePart[] {
	const { by } = value;
	const carries: MessagePart = {
		part: 'section',
		area,
		section: value.id,
		packing: value.bits === 14 ? 'data-entry' : 'plain'
	};
	if ('program' in by) return [{ part: 'status', of: 'program' }, carries];
	const bytes =
		'cc' in by
			? hex(by.cc)
			: 'nrpn' in by
				? hex(99, by.nrpn[0], 98, by.nrpn[1], 6)
				: hex(101, by.rpn[0], 100, by.rpn[1], 6);
	return [{ part: 'status', of: 'controller' }, { part: 'bytes', bytes }, carries];
}

function recordOf(values: readonly ToldValue[]): ProfileRecord {
	let at = 0;
	const placed = values.map((value) => {
		const offset = at;
		at += sizeOf(value);
		return { value, offset };
	});
	return {
		size: at,
		sections: values.map((value) => ({ id: value.id, name: value.name.slice(0, 40), size: sizeOf(value) })),
		parameters: placed.map(({ value: { by: _, bits, ...meaning }, offset }) => ({
			...meaning,
			offset,
			bit: 0,
			bits,
			order: 'high-first' as const,
			...(bits === 14 ? { digits: 7 as const } : {})
		})),
		texts: []
	};
}

/** A profile in which areas that are told have the record, messages and ways that follow from their values. */
export function withTold(profile: Profile): Profile {
	const fresh = profile.areas.filter((area) => area.told?.values && !profile.records[area.record]);
	if (fresh.length === 0) return profile;
	const records = { ...profile.records };
	const messages = { ...profile.messages };
	const capture: CaptureWay[] = [];
	const restore: RestoreWay[] = [];
	for (const { id, record, told } of fresh) {
		const { ask, instruction, waitMs, timeoutMs, gapMs, values } = told!;
		const idOf = (value: ToldValue) => `${id}-${value.id}`;
		records[record] = recordOf(values!);
		for (const value of values!) messages[idOf(value)] = { title: value.name, parts: partsOf(id, value) };
		const all = values!.map(idOf);
		capture.push({
			area: id,
			start: ask
				? { by: 'request', send: ask }
				: { by: 'panel', instruction: instruction ?? 'Have it send what its panel shows.', waitMs },
			expect: all,
			timeoutMs,
			quietMs: timeoutMs,
			retries: 2,
			gapMs: 0
		});
		const own = { area: id, gapMs, timeoutMs: 2000, retries: 2 };
		// A bank takes effect with the program change behind it.
		const selecting = values!.filter(isSelecting).map(idOf);
		const others = all.filter((one) => selecting.length < 2 || !selecting.includes(one));
		if (others.length > 0) restore.push({ ...own, send: others });
		if (selecting.length > 1) restore.push({ ...own, send: selecting, together: true });
	}
	return {
		...profile,
		areas: profile.areas.map((area) =>
			fresh.includes(area) ? { ...area, told: { ...area.told!, values: undefined } } : area
		),
		records,
		messages,
		capture: [...profile.capture, ...capture],
		restore: [...profile.restore, ...restore]
	};
}
