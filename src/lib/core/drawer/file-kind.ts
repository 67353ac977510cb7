/** What a file is, told by its content; its name decides nothing. */
export type FileKind =
	'dump' | 'archive' | 'bundle' | 'profile' | 'wiring' | 'bank' | 'catalogue' | 'names' | 'empty' | 'other';

const FORMATS: Record<string, FileKind> = {
	'silent-drawer.profile': 'profile',
	'silent-drawer.rig': 'wiring',
	'silent-drawer.bank': 'bank'
};
const starts = (bytes: Uint8Array, text: string) =>
	bytes.length >= text.length && [...text].every((letter, i) => bytes[i] === letter.charCodeAt(0));
const SYSEX = 0xf0;
/** A header of a catalogue names a device, in one of the separators that tables have. */
const CATALOGUE_HEADER = /(^|[;,\t])\s*"?(name|device|instrument)"?\s*([;,\t]|$)/i;

/** How many bytes follow the first one of a character in UTF-8; -1 for a byte that begins none. */
const following = (byte: number): number =>
	byte < 0x80 ? 0 : byte < 0xc2 ? -1 : byte < 0xe0 ? 1 : byte < 0xf0 ? 2 : byte < 0xf5 ? 3 : -1;

/** Whether bytes are text: UTF-8 without control characters but tab and the ends of lines. */
function isText(bytes: Uint8Array): boolean {
	for (let at = 0; at < bytes.length;) {
		const byte = bytes[at];
		if (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13) return false;
		const more = following(byte);
		if (more < 0) return false;
		for (let i = 1; i <= more; i++) if (((bytes[at + i] ?? 0) & 0xc0) !== 0x80) return false;
		at += more + 1;
	}
	return true;
}

/** How much of a text is looked at: what tells formats apart stands at its beginning. */
const HEAD = 64 * 1024;

/** The beginning of a file that is text, letters beyond ASCII as bytes; null for anything else. */
function asText(bytes: Uint8Array): string | null {
	if (!isText(bytes)) return null;
	let text = '';
	for (const byte of bytes.subarray(0, HEAD)) text += String.fromCharCode(byte);
	return text.replace(/^\u00ef\u00bb\u00bf/, '');
}

/**
 * Tells what a file is. An archive is a bundle where it holds a bundle's own list (`entries` are the names in it).
 * A text with nothing of ours in it, and a binary file without a system exclusive message, are `other`.
 */
export function fileKind(bytes: Uint8Array, entries: readonly string[] = []): FileKind {
	if (bytes.length === 0) return 'empty';
	if (starts(bytes, 'PK')) return entries.includes('manifest.json') ? 'bundle' : 'archive';
	if (starts(bytes, 'MThd')) return 'dump';
	const text = asText(bytes);
	if (text === null) return bytes.includes(SYSEX) ? 'dump' : 'other';
	if (text.trimStart().startsWith('{')) {
		const format = /"format"\s*:\s*"([^"]+)"/.exec(text)?.[1] ?? '';
		return FORMATS[format] ?? 'other';
	}
	if (/<MIDINameDocument[\s>]/.test(text)) return 'names';
	const [header] = text.split(/\r?\n/, 1);
	return CATALOGUE_HEADER.test(header) && /[;,\t]/.test(header) ? 'catalogue' : 'other';
}
