import type { CaptureWay, MessagePart, Profile, ProfileArea, RestoreWay } from './schema';
import { fittingText, putText, readText } from './charset';
import type { TextField } from './text-codes';
import { buildMessage } from './build';
import { isMatch, matchMessage } from './match';

export type DescribedArea = ProfileArea & { described: NonNullable<ProfileArea['described']> };

/** Whether an area is described by the device itself. */
export const isDescribed = (area: ProfileArea): area is DescribedArea => area.described !== undefined;

/** Whether anything of a model is. */
export const describesItself = ({ areas }: Profile): boolean => areas.some(isDescribed);

/** Letters of a title that are kept. */
const TITLE_LETTERS = 40;
const CHARSET = 'title';
const TITLE: TextField = {
	offset: 0,
	length: TITLE_LETTERS,
	charset: CHARSET,
	fill: ' ',
	bitsEach: 16,
	order: 'high-first'
};
/** Where a record says how many bytes its state has, in four, and where that begins. */
const LENGTH_AT = 2 * TITLE_LETTERS;
const STATE_AT = LENGTH_AT + 4;
/** Signs of a title: Latin, Greek and Cyrillic letters, and what stands between them. */
const SIGNS = String.fromCharCode(...Array.from({ length: 0x530 - 0x20 }, (_, i) => 0x20 + i));

/** The number for what is not sold, and two letters; the model follows. Such a message never leaves the app but in a file. */
const FRAME = 'F0 7D 53 44';
const FORMS = { ask: '01', state: '02', taken: '03', refused: '04', locked: '05' } as const;
export type Form = keyof typeof FORMS;

/** What a message about the state of a slot is called. */
export const formId = (area: string, form: Form): string => `${area}-${form}`;

const hex = (byte: number) => byte.toString(16).padStart(2, '0').toUpperCase();

/** A profile in which areas that are described have the record, messages and ways that follow. */
export function withDescribed(profile: Profile): Profile {
	const fresh = profile.areas.filter((area) => isDescribed(area) && !profile.records[area.record]);
	if (fresh.length === 0) return profile;
	const records = { ...profile.records };
	const messages = { ...profile.messages };
	const capture: CaptureWay[] = [];
	const restore: RestoreWay[] = [];
	const { manufacturer, family, member } = profile.identity;
	for (const { id, name, record, described } of fresh as DescribedArea[]) {
		const at = profile.areas.findIndex((area) => area.id === id);
		records[record] = {
			size: STATE_AT + described.room,
			name: { ...TITLE },
			parameters: [],
			texts: []
		};
		const message = (form: Form, title: string, carries: MessagePart[] = []) => ({
			title: `${name}: ${title}`.slice(0, 60),
			parts: [
				{
					part: 'bytes' as const,
					bytes: `${FRAME} ${manufacturer} ${family} ${member} ${FORMS[form]} ${hex(at)}`
				},
				{ part: 'variable' as const, variable: 'slot' as const, name: 'slot', width: 2, add: 0, divide: 1 },
				...carries,
				{ part: 'bytes' as const, bytes: 'F7' }
			]
		});
		messages[formId(id, 'ask')] = message('ask', 'asked for');
		messages[formId(id, 'taken')] = message('taken', 'taken');
		messages[formId(id, 'refused')] = message('refused', 'refused');
		messages[formId(id, 'locked')] = message('locked', 'protected');
		messages[formId(id, 'state')] = message('state', 'state', [
			{ part: 'body', name: 'state', area: id, records: 1, packing: '7in8-first-high' },
			{
				part: 'checksum',
				checksum: { by: 'crc-16', polynomial: 0x1021, start: 0xffff },
				from: 'slot',
				to: 'state'
			}
		]);
		capture.push({
			area: id,
			start: { by: 'request', send: formId(id, 'ask') },
			expect: formId(id, 'state'),
			timeoutMs: 10,
			quietMs: 10,
			retries: 1,
			gapMs: 0
		});
		if (described.takes !== false)
			restore.push({
				area: id,
				send: formId(id, 'state'),
				gapMs: 0,
				timeoutMs: 10,
				retries: 1,
				replies: {
					accepted: formId(id, 'taken'),
					rejected: formId(id, 'refused'),
					locked: formId(id, 'locked')
				}
			});
	}
	return {
		...profile,
		charsets: { ...profile.charsets, [CHARSET]: { first: 0x20, characters: SIGNS } },
		records,
		messages,
		capture: [...profile.capture, ...capture],
		restore: [...profile.restore, ...restore]
	};
}

/** What of a described area is not as it follows from its description; null where it is. */
export function strayFromDescription(profile: Profile, area: DescribedArea): string | null {
	const asDescribed = withDescribed({
		...profile,
		areas: profile.areas,
		records: Object.fromEntries(Object.entries(profile.records).filter(([id]) => id !== area.record))
	});
	const same = (a: unknown, b: unknown) => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
	if (profile.records[area.record].size !== asDescribed.records[area.record].size)
		return `“${area.record}” has another size than its description gives`;
	if (!same(profile.charsets[CHARSET], asDescribed.charsets[CHARSET]))
		return `the characters “${CHARSET}” are not those of titles`;
	const form = (Object.keys(FORMS) as Form[]).find((each) => {
		const id = formId(area.id, each);
		return !same(profile.messages[id]?.parts, asDescribed.messages[id].parts);
	});
	return form ? `“${formId(area.id, form)}” is not as its description gives it` : null;
}

/** Keys in one order, whatever order they were written in. */
const sorted = (value: unknown): unknown =>
	Array.isArray(value)
		? value.map(sorted)
		: value !== null && typeof value === 'object'
			? Object.fromEntries(
					Object.entries(value)
						.filter(([, each]) => each !== undefined)
						.sort(([a], [b]) => a.localeCompare(b))
						.map(([key, each]) => [key, sorted(each)])
				)
			: value;

/** A state as a record keeps it. */
export interface State {
	/** As the device's list calls it. */
	title: string;
	body: Uint8Array;
}

/** A state as the record of a slot; null where it has more bytes than there is room for. */
export function recordOfState(
	profile: Profile,
	area: DescribedArea,
	{ title, body }: State
): Uint8Array | null {
	if (body.length > area.described.room) return null;
	const record = new Uint8Array(STATE_AT + area.described.room);
	putText(profile, TITLE, record, fittingText(profile, TITLE, title));
	new DataView(record.buffer).setUint32(LENGTH_AT, body.length);
	record.set(body, STATE_AT);
	return record;
}

/** The state that a record keeps; null where its length is none. */
export function stateOfRecord(profile: Profile, record: Uint8Array): State | null {
	const length = new DataView(record.buffer, record.byteOffset).getUint32(LENGTH_AT);
	return STATE_AT + length > record.length
		? null
		: { title: readText(profile, TITLE, record), body: record.slice(STATE_AT, STATE_AT + length) };
}

/** A message between the app's engine and what speaks with the device in its name. */
export interface Said {
	area: DescribedArea;
	form: Form;
	slot: number;
	/** What `state` carries. */
	memory: Uint8Array;
}

/** Reads a message about the state of a slot; null where it is none. */
export function readSaid(profile: Profile, bytes: Uint8Array): Said | null {
	for (const area of profile.areas) {
		if (!isDescribed(area)) continue;
		for (const form of Object.keys(FORMS) as Form[]) {
			const match = matchMessage(profile, formId(area.id, form), bytes);
			if (isMatch(match)) return { area, form, slot: match.variables.slot!, memory: match.memory };
		}
	}
	return null;
}

export const sayOf = (
	profile: Profile,
	area: DescribedArea,
	form: Form,
	slot: number,
	memory?: Uint8Array
): Uint8Array => buildMessage(profile, formId(area.id, form), { slot }, memory);
