import { ADDRESS_WORDS, readValue, readText, writeParameter } from '../../profile';
import type {
	Address,
	Profile,
	ProfileParameter,
	ProfileRecord,
	ProfileText,
	SurfaceMemory
} from '../../profile';
import type { Assignment } from '../map';
import type { Gesture } from '../surface';

/** A line of a template: what a control is made to say. Values as they are sent, from one end to the other. */
export interface TemplateLine {
	control: string;
	gesture: Gesture;
	/** Null where it says nothing. */
	says: {
		kind: Exclude<SurfaceMemory['kinds'][number], 'off' | 'rest'>;
		way: Assignment['way'];
		encoding?: Assignment['encoding'];
		channel: number;
		number: number;
		low: number;
		high: number;
		/** What a notch counts at its quickest, where the template says it. */
		quick?: number;
	} | null;
	/** It holds numbers that make no message: it is written by something else, or damaged. */
	odd: boolean;
	/** The cell that holds it. */
	cell: string;
	/** The controller is silent while it is held. */
	rests: boolean;
	/** The page of the surface that it is on. */
	page: number;
	/** What its display shows; null where the template keeps no names. */
	text: string | null;
}
export type Says = NonNullable<TemplateLine['says']>;

/** The controllers' memory that a profile tells of, or null where it is of no controller. */
export function memoryOf(profile: Profile): { surface: SurfaceMemory; record: ProfileRecord } | null {
	const { surface } = profile;
	const area = profile.areas.find(({ id }) => id === surface?.area);
	return surface && area ? { surface, record: profile.records[area.record] } : null;
}

/** A cell of a template, and of what it is. */
export interface PlacedCell {
	cell: string;
	page: number;
	control: string;
	gesture: Gesture;
}

/** The cells of a slot, page by page; where it holds one page, that is `page`. */
export const cellsOf = ({ pages, cells }: SurfaceMemory, page: number): PlacedCell[] =>
	(pages ?? [null]).flatMap((prefix, i) =>
		cells.map(({ cell, control, gesture }) => ({
			cell: prefix === null ? cell : `${prefix}-${cell}`,
			page: prefix === null ? page : i + 1,
			control,
			gesture: gesture as Gesture
		}))
	);

/** Kinds that have a number, with the largest. */
export const NUMBERED: Partial<Record<Says['kind'], number>> = {
	cc: 127,
	'cc-14': 31,
	rpn: 16382,
	nrpn: 16382,
	note: 127
};
const SEVEN_BITS = new Set<Says['kind']>(['cc', 'note', 'program-change', 'channel-pressure']);
const isMessage = ({ kind, way, number, low, high }: Says): boolean => {
	const most = SEVEN_BITS.has(kind) ? 127 : 16383;
	return (
		number <= (NUMBERED[kind] ?? 0) &&
		(way === 'relative' || high <= most) &&
		(way === 'relative' || way === 'value' || low <= most)
	);
};
export const wayWord = ({ way, encoding }: Pick<Assignment, 'way' | 'encoding'>): string =>
	way === 'relative' ? `relative ${encoding ?? 'twos-complement'}` : way;

/** Parameters and texts of a record by their ids. */
const fields = new WeakMap<
	ProfileRecord,
	{ parameters: Map<string, ProfileParameter>; texts: Map<string, ProfileText> }
>();
const byId = <T extends { id: string }>(all: readonly T[]) => new Map(all.map((each) => [each.id, each]));

/** The fields of a cell, as raw values. */
export class Cell {
	readonly #fields: ReadonlyMap<string, ProfileParameter>;
	/** Where it keeps what its display shows. */
	readonly text: ProfileText | undefined;

	/** @param shared the parameter that says for all cells what a notch counts at its quickest */
	constructor(record: ProfileRecord, cell: string, shared?: string) {
		let named = fields.get(record);
		if (!named)
			fields.set(record, (named = { parameters: byId(record.parameters), texts: byId(record.texts) }));
		const { parameters, texts } = named;
		this.#fields = new Map(
			['kind', 'way', 'channel', 'number', 'low', 'high', 'quick'].flatMap((field) => {
				const own = parameters.get(`${cell}-${field}`);
				const parameter = own ?? (field === 'quick' && shared ? parameters.get(shared) : undefined);
				return parameter ? [[field, parameter]] : [];
			})
		);
		this.text = texts.get(`${cell}-text`);
	}

	/** Counts from nought. */
	get(bytes: Uint8Array, field: string): number | undefined {
		const parameter = this.#fields.get(field);
		return parameter && readValue(parameter, bytes) - (field === 'quick' ? 0 : parameter.range[0]);
	}

	/** Null where the field cannot say that. */
	set(bytes: Uint8Array, field: string, value: number): Uint8Array | null {
		const parameter = this.#fields.get(field);
		if (!parameter) return null;
		const raw = value + (field === 'quick' ? 0 : parameter.range[0]);
		return raw < parameter.range[0] || raw > parameter.range[1]
			? null
			: writeParameter(parameter, bytes, raw);
	}
}

/**
 * What a template makes a controller's controls say, in the order of its cells.
 * @param page what it is read as, where a slot is one page
 */
export function readTemplate(profile: Profile, bytes: Uint8Array, page = 1): TemplateLine[] {
	const memory = memoryOf(profile);
	if (!memory) return [];
	return cellsOf(memory.surface, page).map((place) => {
		const cell = new Cell(memory.record, place.cell, memory.surface.quick);
		const kind = memory.surface.kinds[cell.get(bytes, 'kind') ?? -1] ?? 'off';
		const text = cell.text ? readText(profile, cell.text, bytes) : null;
		const line = { ...place, text, odd: false, rests: kind === 'rest' };
		if (kind === 'off' || kind === 'rest') return { ...line, says: null };
		const [way, encoding] = (memory.surface.ways[cell.get(bytes, 'way') ?? -1] ?? 'absolute').split(' ');
		const quick = cell.get(bytes, 'quick');
		const says: Says = {
			kind,
			way: way as Assignment['way'],
			...(encoding ? { encoding: encoding as Assignment['encoding'] } : {}),
			channel: (cell.get(bytes, 'channel') ?? 0) + 1,
			number: kind in NUMBERED ? (cell.get(bytes, 'number') ?? 0) : 0,
			low: cell.get(bytes, 'low') ?? 0,
			high: cell.get(bytes, 'high') ?? 0,
			...(way === 'relative' && quick !== undefined ? { quick } : {})
		};
		return isMessage(says) ? { ...line, says } : { ...line, says: null, odd: true };
	});
}

/** The number of an address; nought where it has none. */
export const numberOf = (address: Address): number => ('number' in address ? address.number : 0);

/** What a kind or a way of speaking has no use for stays as it is. Null where the cell cannot say that. */
export function writeCell(
	cell: Cell,
	{ kinds, ways }: SurfaceMemory,
	bytes: Uint8Array,
	says: Says
): Uint8Array | null {
	if (!isMessage(says)) return null;
	const fields: [string, number][] = [
		['kind', kinds.indexOf(says.kind)],
		['way', ways.findIndex((way) => way === wayWord(says))],
		['channel', says.channel - 1]
	];
	if (says.kind in NUMBERED) fields.push(['number', says.number]);
	if (says.way !== 'relative') fields.push(['high', says.high]);
	if (says.way !== 'relative' && says.way !== 'value') fields.push(['low', says.low]);
	let written: Uint8Array | null = bytes;
	for (const [field, value] of fields) written = written && cell.set(written, field, value);
	const { quick } = says;
	return written && quick !== undefined && Number.isInteger(quick)
		? (cell.set(written, 'quick', quick) ?? written)
		: written;
}

/** What a control is made to say, in words: `CC 74 ch 3, 0–127`. */
export function saysWords({ says, odd, rests }: Pick<TemplateLine, 'says' | 'odd' | 'rests'>): string {
	if (rests) return 'a rest: nothing is sent while it is held';
	if (!says) return odd ? 'numbers that make no message' : 'nothing';
	const number = says.kind in NUMBERED ? ` ${says.number}` : '';
	const values =
		says.way === 'relative' ? 'steps' : says.way === 'value' ? `${says.high}` : `${says.low}–${says.high}`;
	const ways: Partial<Record<Assignment['way'], string>> = {
		relative: ` (${says.encoding}${says.quick === undefined ? '' : `, ${says.quick} a notch at most`})`,
		momentary: ', held',
		toggle: ', on and off'
	};
	return `${ADDRESS_WORDS[says.kind]}${number} ch ${says.channel}, ${values}${ways[says.way] ?? ''}`;
}
