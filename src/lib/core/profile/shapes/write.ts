import type { MessagePart } from '../schema';
import { CHECKSUM_RULES, type ChecksumId, type PackingId } from '../../sysex';
import { idOf, parameterLines, sectionLines, toldLines, type SectionLine } from './lines';
import { patternParts, type Carries } from './pattern';
import type { ShapeId } from './questions';

export type Answers = Record<string, string>;

/** The profile that answers come to, and what is wrong with each of them. */
export interface WrittenProfile {
	/** As `parseProfile` reads it; null where an answer has a fault. */
	profile: object | null;
	/** By the question's id. */
	faults: Record<string, string>;
}

const BYTES = /^[0-9A-F]{2}( [0-9A-F]{2})*$/i;
const ADDRESS = /^[0-7][0-9A-F]( [0-7][0-9A-F]){0,4}$/i;

/** Reads answers, and notes which of them cannot be read. */
class Reader {
	readonly faults: Record<string, string> = {};
	readonly messages: Record<string, { title: string; parts: MessagePart[] }> = {};

	constructor(
		readonly answers: Answers,
		/** Record and area are called after what a sound is called. */
		readonly area: string
	) {}

	fault(id: string, says: string): void {
		this.faults[id] ??= says;
	}

	text(id: string, otherwise = ''): string {
		return (this.answers[id] ?? '').trim() || otherwise;
	}

	number(id: string, low: number, high: number): number {
		const value = Number(this.text(id));
		if (this.text(id) !== '' && Number.isInteger(value) && value >= low && value <= high) return value;
		this.fault(id, `write a whole number from ${low} to ${high}`);
		return low;
	}

	address(id: string): string {
		const value = this.text(id).toUpperCase();
		if (!ADDRESS.test(value)) this.fault(id, 'write its bytes as in 20 00 00');
		return value;
	}

	/** What the answers say of the checksum; null where there is none. */
	get checksum(): Carries['checksum'] {
		const kind = this.text('checksum', 'none');
		const start = this.answers.sumStart === undefined ? 0 : this.number('sumStart', 0, 65535);
		if (kind === 'none') return null;
		if (kind === 'crc-16')
			return { by: 'crc-16', start: start || 65535, polynomial: 4129, carried: 'nibbles' };
		const id = kind as ChecksumId;
		return start === 0 ? id : { ...CHECKSUM_RULES[id], start };
	}

	/** How data of a message travel, by the answers. */
	carries(data: MessagePart | null): Carries {
		return {
			data,
			checksum: this.checksum,
			over: this.text('sumOver') === 'memory' ? 'memory' : 'wire',
			together: this.together
		};
	}

	get packing(): PackingId {
		return this.text('packing', 'plain') as PackingId;
	}

	/** Adds a message that an answer writes. @param question whose answer it is, where that is another one */
	message(id: string, title: string, pattern: string, data: MessagePart | null, question = id): void {
		const read = patternParts(pattern, this.carries(data));
		if (read.parts) this.messages[id] = { title, parts: read.parts };
		else this.fault(question, read.fault);
	}

	/** Sounds in one message. */
	get together(): number {
		return this.answers.together === undefined ? 1 : this.number('together', 1, 1024);
	}

	/** Whole records of the sounds of one message. */
	get body(): MessagePart {
		return { part: 'body', area: this.area, records: this.together, packing: this.packing };
	}
}

const identityOf = (reader: Reader) => {
	const text = reader.text('identity').toUpperCase();
	if (text === '') return { manufacturer: '7D', family: '00 00', member: '00 00', answers: false };
	const groups = text.split(',').map((group) => group.trim());
	const [manufacturer, family, member] = groups;
	const isRight =
		groups.length === 3 &&
		groups.every((group) => BYTES.test(group)) &&
		family.length === 5 &&
		member.length === 5 &&
		[2, 8].includes(manufacturer.length);
	if (!isRight) reader.fault('identity', 'write three groups of bytes, as in 7D, 66 00, 01 00');
	return { manufacturer, family, member, answers: true };
};

function addressingOf(reader: Reader): object {
	const text = reader.text('deviceIds');
	if (text === '') return {};
	const [, low, high] = /^(\d+) ?(?:-|–|to) ?(\d+)$/.exec(text) ?? [];
	const range = [Number(low), Number(high)];
	if (low === undefined || range[0] > range[1] || range[1] > 126) {
		reader.fault('deviceIds', 'write them as in 0-15; 126 is the highest');
		return {};
	}
	return { deviceId: { range, default: range[0], panelAdd: 0 } };
}

function recordOf(reader: Reader, size: number): Record<string, unknown> {
	const name = reader.text('name');
	const [, offset, length] = /^(\d+) ?, ?(\d+)$/.exec(name) ?? [];
	if (name !== '' && offset === undefined)
		reader.fault('name', 'write its first byte and its length, as in 0, 8');
	const parameters = parameterLines(reader.text('parameters'), size);
	if (!parameters.rows) reader.fault('parameters', parameters.fault);
	if (offset !== undefined && Number(offset) + Number(length) > size)
		reader.fault('name', `a sound has ${size} bytes`);
	return {
		size,
		...(offset === undefined ? {} : { name: { offset: Number(offset), length: Number(length) } }),
		parameters: parameters.rows ?? []
	};
}

/** Parts of a sound behind each other; what stands behind each says how it is reached. */
function sectionsOf(reader: Reader): SectionLine[] {
	const read = sectionLines(reader.text('sections'));
	if (!read.rows) reader.fault('sections', read.fault);
	return read.rows ?? [];
}

const sizeOf = (sections: readonly SectionLine[]): number =>
	sections.reduce((sum, { size, times = 1 }) => sum + size * times, 0);

/** What comes of the request. */
const asked = ({ area }: Reader, expect: string | string[], more: object = {}): object[] => [
	{ area, start: { by: 'request', send: 'request' }, expect, timeoutMs: 1000, ...more }
];
/** What is sent goes out with the rest that the manual says. */
const written = (reader: Reader, send: string | string[], more: object = {}): object[] => [
	{ area: reader.area, send, gapMs: reader.number('rest', 0, 60_000), ...more }
];

/** What of a profile differs by shape. */
interface Body {
	area: Record<string, unknown>;
	record: Record<string, unknown> | null;
	capture: object[];
	restore: object[];
}

function byRequest(reader: Reader, word: string): Body {
	reader.message('request', 'Request', reader.text('request'), null);
	reader.message('dump', `${word} dump`, reader.text('dump'), reader.body);
	return {
		area: { recall: [{ from: 0 }] },
		record: recordOf(reader, reader.number('size', 1, 65536)),
		capture: asked(reader, 'dump'),
		restore: written(reader, 'dump')
	};
}

function addressed(reader: Reader): Body {
	const sections = sectionsOf(reader);
	reader.message('request', 'Data request', reader.text('request'), null);
	reader.message('dump', 'Data', reader.text('dump'), { part: 'memory', packing: reader.packing });
	const placed = sections.map(({ rest, times, ...section }) => {
		const [, at, every] =
			/^at ([0-9A-F]{2}(?: [0-9A-F]{2})*)(?: every ([0-9A-F]{2}(?: [0-9A-F]{2})*))?$/i.exec(rest) ?? [];
		if (at === undefined || (times !== undefined && every === undefined))
			reader.fault(
				'sections',
				`“${section.name}”: its address in a sound is written as in “at 01 00”, of several “at 01 00 every 01 00”`
			);
		return {
			...section,
			...(times ? { times } : {}),
			address: at?.toUpperCase(),
			...(every ? { every: every.toUpperCase() } : {})
		};
	});
	const size = sizeOf(sections);
	const slots = reader.number('slots', 1, 1024);
	return {
		area: {
			recall: [{ from: 0 }],
			addresses: [
				{ from: 0, base: reader.address('base'), ...(slots > 1 ? { stride: reader.address('stride') } : {}) }
			]
		},
		record: { ...recordOf(reader, size), sections: placed },
		capture: asked(reader, 'dump', { covers: 'slot', gapMs: 2 }),
		restore: written(reader, 'dump', { most: reader.number('most', 1, 65536) })
	};
}

function editBuffer(reader: Reader, word: string): Body {
	const body = byRequest(reader, word);
	reader.message('store', 'Store', reader.text('store'), null);
	const slots = reader.number('slots', 1, 1024);
	const perBank = reader.number('perBank', 1, 128);
	const banks = Math.ceil(slots / perBank);
	return {
		...body,
		area: {
			recall: Array.from({ length: banks }, (_, bank) => ({
				from: bank * perBank,
				...(banks > 1 ? { msb: bank } : {})
			})),
			called: {
				store: 'store',
				settleMs: reader.number('settle', 0, 60_000),
				storeMs: reader.number('rest', 0, 60_000)
			}
		}
	};
}

function inSeveral(reader: Reader): Body {
	const sections = sectionsOf(reader);
	reader.message('request', 'Request', reader.text('request'), null);
	for (const { id, name, rest } of sections)
		reader.message(
			`part-${id}`,
			name,
			rest,
			{ part: 'section', area: reader.area, section: id, packing: reader.packing },
			'sections'
		);
	const send = sections.map(({ id }) => `part-${id}`);
	return {
		area: { recall: [{ from: 0 }] },
		record: {
			...recordOf(reader, sizeOf(sections)),
			sections: sections.map(({ id, name, size, times }) => ({ id, name, size, ...(times ? { times } : {}) }))
		},
		capture: asked(reader, send),
		restore: written(reader, send)
	};
}

function byHand(reader: Reader, word: string): Body {
	reader.message('dump', `${word} dump`, reader.text('dump'), reader.body);
	return {
		area: { recall: [{ from: 0 }] },
		record: recordOf(reader, reader.number('size', 1, 65536)),
		capture: [
			{
				area: reader.area,
				start: { by: 'panel', instruction: reader.text('instruction', 'Press Dump all.') },
				expect: 'dump',
				quietMs: 1500
			}
		],
		restore: written(reader, 'dump')
	};
}

function toldOnly(reader: Reader): Body {
	const values = toldLines(reader.text('told'));
	if (!values.rows) reader.fault('told', values.fault);
	else if (values.rows.length === 0) reader.fault('told', 'at least one is needed');
	const ask = reader.text('ask');
	if (ask) reader.message('tell', 'Tell everything', ask, null, 'ask');
	const untold = reader.text('untold');
	return {
		area: {
			told: {
				...(ask ? { ask: 'tell' } : { instruction: reader.text('instruction', 'Press Send panel.') }),
				...(untold ? { untold } : {}),
				values: values.rows ?? []
			}
		},
		record: null,
		capture: [],
		restore: []
	};
}

const bodyOf = (shape: ShapeId, reader: Reader, word: string): Body => {
	switch (shape) {
		case 'by-slot':
			return byRequest(reader, word);
		case 'addressed':
			return addressed(reader);
		case 'edit-buffer':
			return editBuffer(reader, word);
		case 'several':
			return inSeveral(reader);
		case 'panel':
			return byHand(reader, word);
		case 'told':
			return toldOnly(reader);
	}
};

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

/**
 * Writes the profile that answers to a shape's questions come to.
 * @param answers by the question's id; those of other shapes are not read
 * @param taken ids of profiles that there are: this one is none of them
 */
export function writeProfile(
	shape: ShapeId,
	answers: Answers,
	taken: readonly string[] = []
): WrittenProfile {
	const isTold = shape === 'told';
	const word = (answers.word ?? '').trim().toLowerCase() || (isTold ? 'state' : 'program');
	const area = isTold ? 'panel' : idOf(`${word}s`, new Set());
	const reader = new Reader(answers, area);
	const [maker, model] = [reader.text('maker', 'Maker'), reader.text('model', 'Model')];
	const identity = identityOf(reader);
	const addressing = addressingOf(reader);
	const body = bodyOf(shape, reader, capital(word));
	const slots = isTold ? 1 : reader.number('slots', 1, 1024);
	const first = isTold ? 0 : reader.number('first', 0, 1024);
	const must = reader.text('must');
	const profile = {
		format: 'silent-drawer.profile',
		version: 2,
		id: idOf(`${maker} ${model}`, new Set(taken)),
		revision: 1,
		maker,
		model,
		kind: reader.text('kind', 'synthesiser'),
		identity,
		addressing,
		areas: [
			{
				id: area,
				name: isTold ? 'Panel' : `${capital(word)}s`,
				slotWord: word,
				slots,
				labels: isTold
					? { style: 'list', labels: ['Panel'] }
					: { style: 'number', first, digits: String(first + slots - 1).length },
				record: 'record',
				...body.area
			}
		],
		records: body.record ? { record: body.record } : {},
		messages: reader.messages,
		capture: body.capture,
		restore: body.restore,
		preflight: { capture: [], restore: must ? [{ id: 'must', says: must }] : [] }
	};
	const { faults } = reader;
	return { profile: Object.keys(faults).length === 0 ? profile : null, faults };
}
