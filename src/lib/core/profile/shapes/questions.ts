import { CHECKSUM_IDS, PACKING_IDS, type ChecksumId, type PackingId } from '../../sysex';

/** How a device speaks, as a musician with its manual would say it. */
export const SHAPE_IDS = ['by-slot', 'addressed', 'edit-buffer', 'several', 'panel', 'told'] as const;
export type ShapeId = (typeof SHAPE_IDS)[number];

export interface Shape {
	id: ShapeId;
	title: string;
	/** By what one knows that it is this one. */
	says: string;
	questions: Question[];
}

/** What is asked, in the order in which manuals say it. */
export interface Question {
	id: string;
	/** Under which heading. */
	step: string;
	label: string;
	/** How it is written, in a few words. */
	hint: string;
	as: 'text' | 'number' | 'message' | 'lines' | { value: string; title: string }[];
	/** What stands there at first: an example of which everything can be read. */
	initial: string;
}

const WHO = 'Who it is';
const KEEPS = 'What it keeps';
const ASKED = 'How it is asked';
const SENDS = 'What it sends';
const INSIDE = 'What is in it';
const WRITTEN = 'How it is written';

const text = (step: string, id: string, label: string, initial: string, hint = ''): Question => ({
	id,
	step,
	label,
	hint,
	as: 'text',
	initial
});
const number = (step: string, id: string, label: string, initial: string, hint = ''): Question => ({
	...text(step, id, label, initial, hint),
	as: 'number'
});
const message = (step: string, id: string, label: string, initial: string, hint = ''): Question => ({
	...text(step, id, label, initial, hint),
	as: 'message'
});
const lines = (step: string, id: string, label: string, initial: string, hint: string): Question => ({
	...text(step, id, label, initial, hint),
	as: 'lines'
});

const who: Question[] = [
	text(WHO, 'maker', 'Maker', 'Maker'),
	text(WHO, 'model', 'Model', 'Model'),
	text(WHO, 'kind', 'What it is', 'synthesiser'),
	text(
		WHO,
		'identity',
		'Identity reply: maker’s ID, family, member',
		'',
		'As in 7D, 66 00, 01 00. Empty where it answers none.'
	),
	text(WHO, 'deviceIds', 'Device IDs', '0-15', 'On the wire, as in 0-15. Empty where it has none.')
];
const keeps = (word: string): Question[] => [
	text(KEEPS, 'word', 'One of its sounds is called', word, 'program, kit, tone, preset …'),
	number(KEEPS, 'slots', 'How many it keeps', '64'),
	number(KEEPS, 'first', 'Its panel counts from', '1')
];
/** As manuals say them. */
const PACKING_TITLES: Record<PackingId, string> = {
	plain: 'as they are: seven bits each',
	'7in8-first-low': '7 as 8: tops first, lowest first',
	'7in8-first-high': '7 as 8: tops first, highest first',
	'7in8-last-low': '7 as 8: tops last, lowest first',
	'7in8-last-high': '7 as 8: tops last, highest first',
	'nibbles-high-first': 'each in two halves, the high one first',
	'nibbles-low-first': 'each in two halves, the low one first',
	'pairs-14-high-first': 'two as two of seven bits, the high one first',
	'pairs-14-low-first': 'two as two of seven bits, the low one first'
};
const CHECKSUM_TITLES: Record<ChecksumId, string> = {
	'negated-sum-7': 'what makes the sum up to nought, 7 bits',
	'sum-7': 'sum, 7 bits',
	'xor-7': 'exclusive or',
	'ones-complement-7': 'sum, its bits turned over, 7 bits',
	'sum-14': 'sum, 14 bits in two bytes'
};
const packing: Question = {
	id: 'packing',
	step: SENDS,
	label: 'How bytes travel',
	hint: 'Eight bits do not fit on the wire: the manual says how they are split.',
	as: PACKING_IDS.map((value) => ({ value, title: PACKING_TITLES[value] })),
	initial: 'plain'
};
const checksum: Question[] = [
	{
		id: 'checksum',
		step: SENDS,
		label: 'Checksum',
		hint: 'What <sum> is.',
		as: [
			...CHECKSUM_IDS.map((value) => ({ value, title: CHECKSUM_TITLES[value] })),
			{ value: 'crc-16', title: 'CRC-16 (1021, from FFFF), in nibbles' },
			{ value: 'none', title: 'none' }
		],
		initial: 'negated-sum-7'
	},
	number(SENDS, 'sumStart', 'It begins with', '0', '0 where the manual says nothing.'),
	{
		id: 'sumOver',
		step: SENDS,
		label: 'It is made over',
		hint: '',
		as: [
			{ value: 'wire', title: 'the bytes as they travel' },
			{ value: 'memory', title: 'the bytes before they are split' }
		],
		initial: 'wire'
	}
];
const together = number(
	SENDS,
	'together',
	'Sounds in one message',
	'1',
	'Of several, <slot> counts so many at a time.'
);
const size = number(SENDS, 'size', 'Bytes of one sound', '32', 'In its memory, before they are split.');
const inside: Question[] = [
	text(
		INSIDE,
		'name',
		'Name: its first byte, and how many characters',
		'0, 8',
		'Empty where sounds have no name.'
	),
	lines(
		INSIDE,
		'parameters',
		'Values, one a line',
		'',
		'byte: name: values. As in “9: Cutoff: 0-127 Hz” or “8: Wave: Saw, Square”. What is left out stays as it came.'
	)
];
/** How a sound travels, and what is in it. */
const content: Question[] = [packing, ...checksum, ...inside];
const written = (rest: string): Question[] => [
	number(WRITTEN, 'rest', 'Rest after each message, ms', rest, 'While it writes its memory.'),
	text(
		WRITTEN,
		'must',
		'What its panel must show to be written to',
		'',
		'As in “Memory protect is off (Setup, page 1).”'
	)
];

const PLACES =
	'Bytes, and places: <device>, <slot>, <slot 2>, <data>, <sum>; [ ] round what the checksum covers.';

/** Every shape with its questions, in the order of a manual. */
export const SHAPES: Shape[] = [
	{
		id: 'by-slot',
		title: 'Asked slot by slot',
		says: 'The manual has a request that names a program, and a dump of that program.',
		questions: [
			...who,
			...keeps('program'),
			message(
				ASKED,
				'request',
				'Request',
				'F0 7D 00 <device> 10 <slot> F7',
				'Bytes, and places: <device>, <slot>.'
			),
			message(SENDS, 'dump', 'Dump', 'F0 7D 00 <device> 00 <slot> <data> <sum> F7', PLACES),
			size,
			together,
			...content,
			...written('50')
		]
	},
	{
		id: 'addressed',
		title: 'Addressed memory',
		says: 'Requests and data have an address and a size in bytes of seven bits.',
		questions: [
			...who,
			...keeps('tone'),
			text(KEEPS, 'base', 'Address of the first', '20 00 00'),
			text(KEEPS, 'stride', 'From one to the next', '00 08 00'),
			lines(
				KEEPS,
				'sections',
				'What one is made of, a block a line',
				'Tone: 64: at 00 00',
				'name: bytes: at address in it. As in “Layer: 96 x4: at 01 00 every 01 00”.'
			),
			message(
				ASKED,
				'request',
				'Request',
				'F0 7D 00 <device> 11 [ <address 3> <size 3> ] <sum> F7',
				'Places: <device>, <address 3>, <size 3> (bytes that they take), <sum>.'
			),
			message(SENDS, 'dump', 'Data', 'F0 7D 00 <device> 12 [ <address 3> <data> ] <sum> F7', PLACES),
			...content,
			number(WRITTEN, 'most', 'Bytes in one message, at most', '128'),
			...written('20')
		]
	},
	{
		id: 'edit-buffer',
		title: 'Edit buffer only',
		says: 'Only what is selected can be asked for; what is sent is stored by a command.',
		questions: [
			...who,
			...keeps('program'),
			number(KEEPS, 'perBank', 'Programs in a bank', '64', 'Banks are selected by controller 0.'),
			message(ASKED, 'request', 'Request', 'F0 7D 00 <device> 01 F7', 'Bytes, and places: <device>.'),
			message(SENDS, 'dump', 'Edit buffer', 'F0 7D 00 <device> 02 <data> <sum> F7', PLACES),
			size,
			...content,
			message(
				WRITTEN,
				'store',
				'Command that stores it',
				'F0 7D 00 <device> 03 <slot> F7',
				'Places: <device>, <slot>.'
			),
			number(WRITTEN, 'settle', 'Rest after a program change, ms', '50'),
			...written('20')
		]
	},
	{
		id: 'several',
		title: 'A sound in several messages',
		says: 'One request brings a common part, then layers, voices or a map, each with its own header.',
		questions: [
			...who,
			...keeps('kit'),
			message(
				ASKED,
				'request',
				'Request',
				'F0 7D 00 <device> 10 <slot> F7',
				'Bytes, and places: <device>, <slot>.'
			),
			lines(
				SENDS,
				'sections',
				'The messages of one sound, in their order',
				'Common: 32: F0 7D 00 <device> 01 <slot> <data> <sum> F7\nVoice: 16 x4: F0 7D 00 <device> 02 <part> <slot> <data> <sum> F7',
				'name: bytes: message. x4: four of them, whose number is <part>, or <30+part>. <count 2 low>: how many bytes of data follow.'
			),
			...content,
			...written('20')
		]
	},
	{
		id: 'panel',
		title: 'Sent by hand at its panel',
		says: 'Nothing asks it: a button sends everything, slot by slot.',
		questions: [
			...who,
			...keeps('kit'),
			text(ASKED, 'instruction', 'What is pressed', 'Press Dump all.', 'As it is told when a backup begins.'),
			message(SENDS, 'dump', 'Dump', 'F0 7D 00 <device> 00 <slot> <data> <sum> F7', PLACES),
			size,
			together,
			...content,
			...written('150')
		]
	},
	{
		id: 'told',
		title: 'Controllers only',
		says: 'It has no dump: it tells its panel as controllers, NRPN and program changes, and takes them.',
		questions: [
			...who,
			lines(
				KEEPS,
				'told',
				'What it tells, one a line',
				'cc 74: Cutoff: 0-127\nprogram: Registration: 0-7',
				'cc 74, nrpn 1 20, rpn 0 1, program or bank (controller 0, before its program): name: values.'
			),
			message(
				ASKED,
				'ask',
				'What has it tell everything',
				'',
				'As in <controller> 6F 7F. Empty where a hand has to.'
			),
			text(ASKED, 'instruction', 'What is pressed instead', 'Press Send panel.', 'Where nothing asks it.'),
			text(
				KEEPS,
				'untold',
				'What it never tells',
				'',
				'As in “Where its sliders stand until they are moved.”'
			),
			text(WRITTEN, 'must', 'What its panel must show to be written to', '', '')
		]
	}
];

export const shapeOf = (id: ShapeId): Shape => SHAPES.find((shape) => shape.id === id)!;

/** What stands in a shape's answers before anything was answered. */
export const firstAnswers = (id: ShapeId): Record<string, string> =>
	Object.fromEntries(shapeOf(id).questions.map((question) => [question.id, question.initial]));
