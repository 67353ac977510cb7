import { z } from 'zod';
import { toHex } from '../midi';
import { Problem } from '../problem';
import { Framer } from '../sysex';

/** A message as hexadecimal bytes, `..` standing for any one byte. */
const pattern = z
	.string()
	.regex(/^([0-9A-Fa-f]{2}|\.\.)( ([0-9A-Fa-f]{2}|\.\.))*$/, 'write bytes as in “F0 7D 21 .. F7”');
const sentence = z.string().min(1).max(300);
const at = z.number().int().min(1).max(200);

/** How a model takes a new system: what its loader is asked, and what it answers. The file itself is sent as it is. */
export const firmwareWaysSchema = z.strictObject({
	/** How a hand brings it into update mode, and what it shows then. */
	enter: sentence,
	/** What is done when everything was sent. */
	restart: sentence,
	/** Whether its sounds are gone afterwards. */
	wipes: z.boolean(),
	/** Which gear a file can be for: the byte in its first message, and what the type plate says. */
	variants: z
		.array(
			z.strictObject({
				id: z.string().min(1).max(30),
				byte: z.number().int().min(0).max(127),
				title: z.string().min(1).max(60)
			})
		)
		.min(1)
		.max(16),
	/** The first message of a file, how its blocks begin, its last; and where in the first (from 0) the variant, two bytes of version and, high first, two of the number of blocks stand. */
	file: z.strictObject({
		first: pattern,
		variantAt: at,
		versionAt: at,
		blocksAt: at,
		block: pattern,
		last: pattern
	}),
	/** What the loader is asked, and its answers: nothing was erased; erased, it waits for the first message; in the midst of it. */
	ask: pattern,
	ready: pattern,
	erased: pattern,
	underway: pattern,
	/** What it answers to a message: taken; to be sent again; not for this gear; all of it is there and right. */
	taken: pattern,
	again: pattern,
	refused: pattern,
	done: pattern,
	/** How long it may take to answer, and how often a message is sent again. */
	timeoutMs: z.number().min(50).max(120_000),
	retries: z.number().int().min(0).max(10),
	/** How long it takes to write one block: for the time that is left. */
	blockMs: z.number().min(0).max(60_000)
});
export type FirmwareWays = z.infer<typeof firmwareWaysSchema>;

/** Whether a message is as a pattern says, byte for byte. */
export function isLike(bytes: Uint8Array, form: string): boolean {
	const wanted = form.split(' ');
	return (
		bytes.length === wanted.length &&
		wanted.every((each, i) => each === '..' || parseInt(each, 16) === bytes[i])
	);
}

/** A maker's file of a new system, as far as the profile lets it be read. */
export interface FirmwareFile {
	/** As in the file; they are sent in this order and never changed. */
	messages: Uint8Array[];
	variant: { id: string; title: string };
	/** Such as `1.07`. */
	version: string;
	blocks: number;
}

/** A version as people write it: `1.07`. */
export const versionText = (major: number, minor: number): string =>
	`${major}.${String(minor).padStart(2, '0')}`;

const bad = (says: string) =>
	new Problem('firmware.file', says, 'Get the file from its maker again; nothing was sent.');

/**
 * Reads a system file.
 * @param bytes system exclusive messages, one after another, as the maker gives them
 * @throws Problem `firmware.file` where it is none for this model, or not whole
 */
export function readFirmware(bytes: Uint8Array, ways: FirmwareWays, model: string): FirmwareFile {
	const framer = new Framer();
	const events = [...framer.push(bytes), ...framer.end()];
	const messages = events.flatMap((event) => (event.kind === 'sysex' ? [event.bytes] : []));
	if (messages.length === 0 || !isLike(messages[0], ways.file.first))
		throw bad(`This is no system file for a ${model}.`);
	if (events.some(({ kind }) => kind !== 'sysex'))
		throw bad('The file is damaged: a message of it breaks off.');
	const [first] = messages;
	const { variantAt, versionAt, blocksAt, block, last } = ways.file;
	const variant = ways.variants.find(({ byte }) => byte === first[variantAt]);
	if (!variant)
		throw bad(`It is for a ${model} of a kind that the profile does not know (${first[variantAt]}).`);
	const blocks = first[blocksAt] * 128 + first[blocksAt + 1];
	const between = messages.slice(1, -1);
	if (!isLike(messages.at(-1)!, last) || between.length !== blocks)
		throw bad(`The file is not whole: it says ${blocks} blocks and holds ${between.length}.`);
	if (between.some((each) => !toHex(each, ' ').startsWith(block.toLowerCase())))
		throw bad('Something else stands between its blocks.');
	return {
		messages,
		variant: { id: variant.id, title: variant.title },
		version: versionText(first[versionAt], first[versionAt + 1]),
		blocks
	};
}
