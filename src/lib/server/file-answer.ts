import { Readable } from 'node:stream';
import { answer } from './answer';

/** A file to be saved: as a whole, or as it is being made. */
export type AnsweredFile = { name: string; type?: string } & ({ bytes: Uint8Array } | { stream: Readable });

/** Answers with a file to be saved, or with the problem. */
export async function answerFile(make: () => Promise<AnsweredFile>): Promise<Response> {
	let file: AnsweredFile | null = null;
	const failed = await answer(async () => {
		file = await make();
	});
	if (!file) return failed;
	const made = file as AnsweredFile;
	return new Response(
		'stream' in made
			? (Readable.toWeb(made.stream) as ReadableStream)
			: (made.bytes as Uint8Array<ArrayBuffer>),
		{
			headers: {
				'content-type': made.type ?? 'application/octet-stream',
				'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(made.name)}`
			}
		}
	);
}

/** A document as a file, for people and for other programs. */
export const jsonFile = (name: string, document: unknown): AnsweredFile => ({
	name: `${name}.json`,
	type: 'application/json',
	bytes: new TextEncoder().encode(`${JSON.stringify(document, null, '\t')}\n`)
});
