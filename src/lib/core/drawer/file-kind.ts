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

/** The text of a file that is text; null for anything else. */
function asText(bytes: Uint8Array): string | null {
	if (bytes.some((byte) => byte === 0 || (byte < 32 && ![9, 10, 13].includes(byte)))) return null;
	try {
		return new TextDecoder('utf-8', { fatal: true }).decode(bytes).replace(/^\uFEFF/, '');
	} catch {
		// Bytes that are no UTF-8: a binary file.
		return null;
	}
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
