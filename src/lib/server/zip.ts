import { once } from 'node:events';
import { Readable } from 'node:stream';
import { crc32 } from 'node:zlib';
import yauzl, { type Entry, type ZipFile as Archive } from 'yauzl';
import { ZipFile } from 'yazl';

/** A .zip knows times from 1980 to 2099 alone. */
function zipTime(at: string): Date {
	const time = new Date(at);
	const year = time.getFullYear();
	return year < 1980 ? new Date(1980, 0, 1) : year > 2099 ? new Date(2099, 11, 31) : time;
}

/** Puts a file into an archive, whole or in parts; settles when it was read by whoever takes the archive. */
export type AddFile = (
	name: string,
	content: Uint8Array | Iterable<Uint8Array>,
	at?: string
) => Promise<void>;

/**
 * An archive that is made while it is read: what `fill` adds is held in memory only until it has gone out. Where
 * `fill` fails, or nobody reads any more, the stream is destroyed.
 */
export function zipStream(fill: (add: AddFile) => Promise<void>): Readable {
	const zip = new ZipFile();
	const out = zip.outputStream as Readable;
	const closed = once(out, 'close').then(() =>
		Promise.reject(new Error('Nobody reads this archive any more.'))
	);
	const add: AddFile = (name, content, at) => {
		// The archive keeps what was asked of it until its end: not the bytes, though.
		let waiting: Iterable<Uint8Array> | null = content instanceof Uint8Array ? [content] : content;
		return Promise.race([
			closed,
			new Promise<void>((done) =>
				zip.addReadStreamLazy(
					name,
					{ mtime: zipTime(at ?? new Date().toISOString()), compressionLevel: 6 },
					(give) => {
						const file = Readable.from(waiting!);
						waiting = null;
						file.on('close', () => done());
						give(null, file);
					}
				)
			)
		]);
	};
	fill(add).then(
		() => zip.end(),
		(error: Error) => out.destroy(error)
	);
	// It closes at its end too.
	closed.catch(() => undefined);
	return out;
}

/** An archive that is open: its files are read one at a time. */
export interface OpenZip {
	has(name: string): boolean;
	/** @throws Error where the file is damaged, or larger than `limit` bytes */
	read(name: string, limit: number): Promise<Uint8Array>;
	close(): void;
}

/** The most files, and bytes in all of them: ten thousand versions of a large studio are a tenth of it. */
const MOST_ENTRIES = 200_000;
const MOST_EXPANDED = 32 * 1024 ** 3;

/** Opens an archive on disk or in memory. @throws Error where it is none, or holds too much */
export async function openZip(source: string | Uint8Array): Promise<OpenZip> {
	const archive = await new Promise<Archive>((resolve, reject) => {
		const opened = (error: Error | null, zip: Archive) => (error ? reject(error) : resolve(zip));
		const how = { lazyEntries: true, autoClose: false };
		if (typeof source === 'string') yauzl.open(source, how, opened);
		else yauzl.fromBuffer(Buffer.from(source), how, opened);
	});
	const entries = new Map<string, Entry>();
	const spans: { from: number; to: number }[] = [];
	let expanded = 0;
	await new Promise<void>((resolve, reject) => {
		archive.on('entry', (entry: Entry) => {
			entries.set(entry.fileName, entry);
			expanded += entry.uncompressedSize;
			const from = entry.relativeOffsetOfLocalHeader;
			spans.push({ from, to: from + entry.compressedSize });
			if (entries.size > MOST_ENTRIES || expanded > MOST_EXPANDED)
				reject(new Error('it holds more files, or more in them, than any studio'));
			else archive.readEntry();
		});
		archive.once('end', resolve);
		archive.once('error', reject);
		archive.readEntry();
	});
	// Files that share their bytes make much of little.
	spans.sort((a, b) => a.from - b.from);
	if (spans.some(({ from }, i) => i > 0 && from < spans[i - 1].to)) {
		archive.close();
		throw new Error('files in it lie over one another');
	}
	return {
		has: (name) => entries.has(name),
		async read(name, limit) {
			const entry = entries.get(name)!;
			if (entry.uncompressedSize > limit) throw new Error(`“${name}” is larger than it can be.`);
			const stream = await new Promise<Readable>((resolve, reject) =>
				archive.openReadStream(entry, (error, file) => (error ? reject(error) : resolve(file)))
			);
			// As long as it says to be, and once in memory.
			const bytes = new Uint8Array(entry.uncompressedSize);
			let [at, sum] = [0, 0];
			for await (const part of stream as AsyncIterable<Buffer>) {
				if (at + part.length > bytes.length) throw new Error(`“${name}” is longer than it says.`);
				bytes.set(part, at);
				at += part.length;
				sum = crc32(part, sum);
			}
			if (at !== bytes.length || sum !== entry.crc32) throw new Error(`“${name}” is damaged.`);
			return bytes;
		},
		close: () => archive.close()
	};
}
