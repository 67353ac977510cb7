import { Problem } from '../problem';
import { putText, readName, readText } from './charset';
import { bitsOfTexts, claimedBits, textFields } from './claims';
import { makeSlot, type Slot } from './dump';
import { slotKey } from './assembly';
import { decidersFirst, meaningOf, parameterNamed } from './meaning';
import { formatValue, putParameter, shownNumber } from './parameter';
import type { Profile, ProfileParameter, ProfileRecord, Variant } from './schema';
import { areaOf, slotLabel } from './slots';
import type { TextField } from './text-codes';
import { readValue } from './value';
import { profileTitle } from './variant';

/**
 * What becomes of something on the way from one variant to another: it has no place there, it becomes something else, or
 * the nearest that can be set there is not quite it.
 */
export interface Loss {
	kind: 'gone' | 'changed' | 'rounded';
	/** What it is about: the parameter as its panel calls it. */
	what: string;
	/** What is lost, in words: `Vox becomes Saw`. */
	says: string;
}

/** What a slot loses. */
export interface SlotLoss extends Loss {
	/** Where it was, in the variant that it comes from. */
	area: string;
	index: number;
	label: string;
	name: string | null;
}

type Takes = NonNullable<Variant['takes']>[number];

/** Shown where something does nothing: leaving it out changes nothing that is heard. */
const IDLE = /^(0([.]0+)?(\u00a0.*)?|–|off|none)$/i;

const isNamed = ({ values, named, range: [low] }: ProfileParameter, value: number): boolean =>
	values?.[value - low] !== undefined || named?.some(({ at }) => at === value) === true;

/** The value of `to` that shows a text; null where none does. */
function shownAs(to: ProfileParameter, shown: string): number | null {
	const [low] = to.range;
	const at = to.values?.indexOf(shown) ?? -1;
	if (at >= 0) return low + at;
	return to.named?.find(({ as }) => as === shown)?.at ?? null;
}

/** The bits of `to` of the same names as those that are set, and the names that it has not. */
function flagsAs(
	from: ProfileParameter,
	to: ProfileParameter,
	value: number
): { value: number; missing: string[] } {
	let taken = 0;
	const missing: string[] = [];
	from.flags!.forEach((flag, bit) => {
		if (Math.floor(value / 2 ** bit) % 2 === 0) return;
		const at = to.flags!.indexOf(flag);
		if (at < 0) missing.push(flag);
		else taken += 2 ** at;
	});
	return { value: taken, missing };
}

/** The value, not a named one, that shows what is nearest; of two as near, the smaller. */
function nearest(to: ProfileParameter, shown: number): number | null {
	const [low, high] = to.range;
	let best: number | null = null;
	let distance = Infinity;
	for (let value = low; value <= high; value++) {
		if (isNamed(to, value)) continue;
		const far = Math.abs(shownNumber(to, value) - shown);
		if (far < distance) [best, distance] = [value, far];
	}
	return best;
}

/** Whether what is shown lies within what can be set. */
function reaches(to: ProfileParameter, shown: number): boolean {
	const ends = [shownNumber(to, to.range[0]), shownNumber(to, to.range[1])];
	return shown >= Math.min(...ends) && shown <= Math.max(...ends);
}

interface Taken {
	value: number;
	loss: Omit<Loss, 'what'> | null;
}

/** What values became, by what they mean here and there: whole banks hold the same ones over and over. */
const taken = new WeakMap<ProfileParameter, WeakMap<ProfileParameter, Map<number, Taken | null>>>();

function valueIn(from: ProfileParameter, value: number, to: ProfileParameter): Taken | null {
	let others = taken.get(from);
	if (!others) taken.set(from, (others = new WeakMap()));
	let known = others.get(to);
	if (!known) others.set(to, (known = new Map()));
	let found = known.get(value);
	if (found === undefined) known.set(value, (found = findValue(from, value, to)));
	return found;
}

/** What a value means in another variant: by its name, its flags, or what is shown in the same unit. Null where nothing there does. */
function findValue(from: ProfileParameter, value: number, to: ProfileParameter): Taken | null {
	const shown = formatValue(from, value);
	const becomes = (set: number, kind: Loss['kind']): Taken => ({
		value: set,
		loss: { kind, says: `${shown} becomes ${formatValue(to, set)}` }
	});
	if (from.flags && to.flags) {
		const { value: taken, missing } = flagsAs(from, to, value);
		const fits = taken <= to.range[1];
		if (!fits) return null;
		return missing.length > 0 ? becomes(taken, 'changed') : { value: taken, loss: null };
	}
	if (from.flags || to.flags) return null;
	const same = shownAs(to, shown);
	if (same !== null) return { value: same, loss: null };
	if (isNamed(from, value) || from.unit !== to.unit) return null;
	const number = shownNumber(from, value);
	const taken = nearest(to, number);
	if (taken === null) return null;
	if (!reaches(to, number)) return becomes(taken, 'changed');
	// Coded bits that stand for no number have none to be near to.
	if (Math.abs(shownNumber(to, taken) - number) < 1e-9) return { value: taken, loss: null };
	return formatValue({ ...to, decimals: from.decimals }, taken) === shown
		? { value: taken, loss: null }
		: becomes(taken, 'rounded');
}

/** What a parameter is where nothing is taken over. */
function freshValue({ variant }: Profile, { id, range: [low, high] }: ProfileParameter): number {
	const said = variant?.fresh?.[id];
	return said !== undefined && said >= low && said <= high ? said : Math.min(high, Math.max(low, 0));
}

/** Writes as much of a text as fits. */
function putAsMuch(profile: Profile, field: TextField, bytes: Uint8Array, text: string): string {
	const writes = (some: string) => {
		try {
			putText(profile, field, bytes, some);
			return true;
		} catch (error) {
			if (error instanceof Problem) return false;
			throw error;
		}
	};
	if (writes(text)) return text;
	let kept = '';
	for (const sign of text)
		for (const one of [sign, sign.toUpperCase()])
			if (writes(kept + one)) {
				kept += one;
				break;
			}
	writes(kept.trimEnd());
	return kept.trimEnd();
}

/** How many bytes of a record hold something that nothing of the profile describes. */
function undescribed(record: ProfileRecord, bytes: Uint8Array): number {
	const claimed = claimedBits(record);
	const texts = bitsOfTexts(record.size, textFields(record));
	return bytes.reduce((sum, byte, i) => sum + ((byte & ~(claimed[i] | texts[i])) === 0 ? 0 : 1), 0);
}

/**
 * A record of one variant as one of another: each parameter by its id, with the value that shows the same there; names and
 * texts as far as they fit.
 * @param bytes the record, as long as `from` says
 * @returns the record of `to`, and what is lost
 */
export function convertRecord(
	from: Profile,
	record: ProfileRecord,
	bytes: Uint8Array,
	to: Profile,
	target: ProfileRecord
): { bytes: Uint8Array; lost: Loss[] } {
	const fields = takesOf(from, to)?.fields ?? {};
	const made = new Uint8Array(target.size);
	const lost: Loss[] = [];
	const used = new Set<string>();
	const putTextOf = (what: string, field: TextField, text: string) => {
		const kept = putAsMuch(to, field, made, text);
		if (kept !== text) lost.push({ kind: 'changed', what, says: `“${text}” becomes “${kept}”` });
	};
	for (const text of target.texts) {
		const source = record.texts.find(({ id }) => id === (fields[text.id] ?? text.id));
		if (source) used.add(source.id);
		putTextOf(text.name, text, source ? readText(from, source, bytes) : '');
	}
	for (const own of decidersFirst(target)) {
		const meaning = meaningOf(target, own, made);
		const source = parameterNamed(record, fields[own.id] ?? own.id);
		if (!source) {
			putParameter(meaning, made, freshValue(to, meaning));
			continue;
		}
		used.add(source.id);
		const was = meaningOf(record, source, bytes);
		const value = readValue(was, bytes);
		const taken = valueIn(was, value, meaning);
		const set = taken?.value ?? freshValue(to, meaning);
		putParameter(meaning, made, set);
		const shown = formatValue(was, value);
		if (taken?.loss) lost.push({ ...taken.loss, what: meaning.name });
		else if (!taken && formatValue(meaning, set) !== shown)
			lost.push({ kind: 'changed', what: was.name, says: `${shown} becomes ${formatValue(meaning, set)}` });
	}
	const name = readName(from, record, bytes) ?? '';
	if (target.name) putTextOf('Name', target.name, name);
	else if (name) lost.push({ kind: 'gone', what: 'Name', says: `“${name}” has no place` });
	for (const field of record.texts) {
		const text = used.has(field.id) ? '' : readText(from, field, bytes);
		if (text) lost.push({ kind: 'gone', what: field.name, says: `“${text}” has no place` });
	}
	for (const parameter of record.parameters) {
		if (used.has(parameter.id)) continue;
		const meaning = meaningOf(record, parameter, bytes);
		const shown = formatValue(meaning, readValue(meaning, bytes));
		if (!IDLE.test(shown)) lost.push({ kind: 'gone', what: meaning.name, says: `${shown} has no place` });
	}
	const dark = undescribed(record, bytes);
	if (dark > 0)
		lost.push({
			kind: 'gone',
			what: 'Bytes',
			says: `${dark} ${dark === 1 ? 'byte' : 'bytes'} that no profile describes`
		});
	return { bytes: made, lost };
}

const takesOf = (from: Profile, to: Profile): Takes | undefined =>
	to.variant?.takes?.find((each) => each.from === from.id);

/** The area of `to` that an area of another variant becomes; null where there is none. */
export const areaIn = (from: Profile, area: string, to: Profile): string | null => {
	if (from.id === to.id) return area;
	const areas = takesOf(from, to)?.areas ?? {};
	return to.areas.find(({ id }) => (areas[id] ?? id) === area)?.id ?? null;
};

/**
 * Slots of one variant as those of another, each in its place. What has no place there is left out, and said.
 * @param to a profile of the same family
 */
export function convertSlots(
	from: Profile,
	slots: readonly Slot[],
	to: Profile
): { slots: Slot[]; lost: SlotLoss[] } {
	const lost: SlotLoss[] = [];
	const made: Slot[] = [];
	for (const { area, index, name, bytes } of slots) {
		const about = { area, index, label: slotLabel(areaOf(from, area).labels, index), name };
		const becomes = areaIn(from, area, to);
		const target = becomes === null ? null : areaOf(to, becomes);
		if (!target || index >= target.slots) {
			lost.push({ ...about, kind: 'gone', what: areaOf(from, area).name, says: 'there is no such slot' });
			continue;
		}
		const record = from.records[areaOf(from, area).record];
		const done = convertRecord(from, record, bytes, to, to.records[target.record]);
		lost.push(...done.lost.map((loss) => ({ ...about, ...loss })));
		made.push(makeSlot(to, target.id, index, done.bytes));
	}
	return { slots: made, lost };
}

/** Sounds of one variant of a model that are to go to another. */
export interface Conversion {
	/** What they are of, and what they become. */
	from: string;
	to: string;
	/** How many slots lose nothing, and what the others do. */
	whole: number;
	lost: SlotLoss[];
}

/** Slots as a variant has them: as they are where they are its own. @param to a profile of the same family */
export function asVariant(
	from: Profile,
	slots: readonly Slot[],
	to: Profile
): { slots: Slot[]; converted: Conversion | null } {
	if (from.id === to.id) return { slots: [...slots], converted: null };
	const { slots: made, lost } = convertSlots(from, slots, to);
	const less = new Set(lost.map(({ area, index }) => slotKey(area, index)));
	return {
		slots: made,
		converted: { from: profileTitle(from), to: profileTitle(to), whole: slots.length - less.size, lost }
	};
}
