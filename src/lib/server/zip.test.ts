import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freshStudio } from './studio.fixture';
import { openZip, zipStream } from './zip';

const here = freshStudio();
const made = async (files: Record<string, Uint8Array>) =>
	new Uint8Array(
		await buffer(
			zipStream(async (add) => {
				for (const [name, bytes] of Object.entries(files)) await add(name, bytes);
			})
		)
	);

describe('an archive', () => {
	it('holds what was put in, as another reader and as this one reads it, from memory and from disk', async () => {
		const names = fc.stringMatching(/^[a-z]{1,8}(\/[a-z0-9-]{1,8}){0,2}$/);
		await fc.assert(
			fc.asyncProperty(
				fc.dictionary(names, fc.uint8Array({ maxLength: 3000 }), { maxKeys: 6 }),
				async (files) => {
					const bytes = await made(files);
					expect(unzipSync(bytes)).toEqual({ ...files });
					const path = join(here.folder, 'a.zip');
					writeFileSync(path, bytes);
					for (const source of [bytes, path]) {
						const zip = await openZip(source);
						for (const [name, content] of Object.entries(files))
							expect(await zip.read(name, 4000)).toEqual(content);
						expect(zip.has('not-there')).toBe(false);
						zip.close();
					}
				}
			),
			{ numRuns: 30 }
		);
	});

	it('takes one file after the other: the next is asked for when the one before has gone out', async () => {
		let added = 0;
		const stream = zipStream(async (add) => {
			for (let i = 0; i < 50; i++) {
				await add(
					`file-${i}`,
					new Uint8Array(200_000).map((_, k) => (k * 31 + i) & 0xff)
				);
				added++;
			}
		});
		await new Promise((resolve) => setTimeout(resolve, 50));
		// Nobody has read yet: the archive waits.
		expect(added).toBeLessThan(50);
		expect(Object.keys(unzipSync(new Uint8Array(await buffer(stream))))).toHaveLength(50);
		expect(added).toBe(50);
	});

	it('that cannot be finished fails for whoever reads it, and is not taken for a whole one', async () => {
		const stream = zipStream(async (add) => {
			await add('one', Uint8Array.of(1));
			throw new Error('the disk went away');
		});
		await expect(buffer(stream)).rejects.toThrow('the disk went away');
	});

	it('with a file that is larger than it can be, or damaged, is refused at that file alone', async () => {
		const bytes = zipSync({ large: new Uint8Array(9000), fine: strToU8('fine') }, { level: 0 });
		const zip = await openZip(bytes);
		await expect(zip.read('large', 8999)).rejects.toThrow('“large” is larger than it can be');
		expect(await zip.read('fine', 100)).toEqual(strToU8('fine'));
		const hurt = zipSync({ text: strToU8('words and words and words and words') });
		hurt[40] ^= 0xff;
		const broken = await openZip(hurt);
		await expect(broken.read('text', 1000)).rejects.toThrow();
	});

	it.each([
		['nothing', new Uint8Array()],
		['a letter', strToU8('this is a letter, not an archive, and long enough to look like something')]
	])('that is %s is none', async (_, bytes) => {
		await expect(openZip(bytes)).rejects.toThrow();
	});
});
