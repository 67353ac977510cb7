import { unzlibSync, zlibSync } from 'fflate';
import { Problem } from '../problem';
import { PACKINGS } from '../sysex';

/** How the body of a property travels in seven bits (M2-103, “mutualEncoding”). */
export const ENCODINGS = ['ASCII', 'Mcoded7', 'zlib+Mcoded7'] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** Seven bytes as eight, the one with their highest bits first. */
const mcoded7 = PACKINGS['7in8-first-high'];
/** Most bytes that a body may become, whatever it claims to be: a state that is larger is none of an instrument's. */
const MOST = 1024 * 1024;

const unreadable = (why: string) =>
	new Problem('ci.body', `The instrument’s answer cannot be read: ${why}.`, 'Ask it again.');

/** @throws Problem `ci.body` where a text holds what seven bits cannot */
export function encodeBody(body: Uint8Array, encoding: Encoding): Uint8Array {
	if (encoding === 'Mcoded7') return mcoded7.pack(body);
	if (encoding === 'zlib+Mcoded7') return mcoded7.pack(zlibSync(body));
	if (body.some((byte) => byte > 0x7f)) throw unreadable('it is no text of seven bits');
	return body.slice();
}

/** @throws Problem `ci.body` where it is not that encoding, or would be too much */
export function decodeBody(data: Uint8Array, encoding: string | undefined): Uint8Array {
	switch (encoding) {
		case undefined:
		case 'ASCII':
			return data.slice();
		case 'Mcoded7':
		case 'zlib+Mcoded7': {
			let packed: Uint8Array;
			try {
				packed = mcoded7.unpack(data);
			} catch (error) {
				throw unreadable(error instanceof Problem ? error.message : 'it is not packed as it says');
			}
			return encoding === 'Mcoded7' ? packed : inflated(packed);
		}
		default:
			throw unreadable(`nobody here knows the encoding “${encoding.slice(0, 40)}”`);
	}
}

function inflated(packed: Uint8Array): Uint8Array {
	let body: Uint8Array;
	try {
		// Into a buffer of one's own, which bounds what a few bytes may become.
		body = unzlibSync(packed, { out: new Uint8Array(MOST + 1) }).slice();
	} catch {
		throw unreadable('it is not compressed as it says');
	}
	if (body.length > MOST) throw unreadable('it becomes too much');
	return body;
}

const text = new TextDecoder('utf-8', { fatal: true });

/** A text with everything beyond seven bits written as `\uXXXX`, as headers and texts of properties are. */
export const asciiJson = (value: unknown): Uint8Array =>
	new TextEncoder().encode(
		JSON.stringify(value).replace(
			/[\u0080-\uffff]/g,
			(sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`
		)
	);

/** @throws Problem `ci.body` where it is no JSON */
export function readJson(data: Uint8Array): unknown {
	try {
		return JSON.parse(text.decode(data)) as unknown;
	} catch {
		throw unreadable('it is not JSON');
	}
}
