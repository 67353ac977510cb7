import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { Problem } from '../core/problem';
import { answer, body, orError, statusOf } from './answer';

const problemIn = async (response: Response) => ((await response.json()) as { problem: Problem }).problem;

describe('answers', () => {
	it('give a value as JSON, or nothing at all', async () => {
		const response = await answer(async () => ({ a: 1 }), 201);
		expect([response.status, await response.json()]).toEqual([201, { a: 1 }]);
		expect((await answer(async () => undefined)).status).toBe(204);
	});

	it.each([
		['device.not-found', 404],
		['bench.conflict', 409],
		['bench.taken', 409],
		['transfer.ended', 409],
		['file.truncated', 422],
		['object.damaged', 500],
		['disk.full', 507]
	])('the problem %s is told with status %i and its own words', async (code, status) => {
		const problem = new Problem(code, 'What happened.', 'What to try.', { n: 1 });
		expect(statusOf(problem)).toBe(status);
		const response = await answer(async () => {
			throw problem;
		});
		expect(response.status).toBe(status);
		expect(await problemIn(response)).toEqual({
			code,
			message: 'What happened.',
			remedy: 'What to try.',
			detail: { n: 1 }
		});
	});

	it.each([
		['SQLITE_FULL: database or disk is full', 'disk.full'],
		['ENOSPC: no space left on device, write', 'disk.full'],
		['SQLITE_IOERR: disk I/O error', 'disk.failed'],
		['EIO: i/o error, write', 'disk.failed'],
		['Unknown system error -122: Unknown system error -122, write', 'disk.failed'],
		['SQLITE_READONLY: attempt to write a readonly database', 'disk.refused'],
		['EROFS: read-only file system, open', 'disk.refused']
	])('“%s” is told as %s', async (message, code) => {
		const response = await answer(async () => {
			throw new Error(message);
		});
		expect(response.status).toBe(507);
		expect((await problemIn(response)).code).toBe(code);
	});

	it('a file that may not be opened is not taken for that of the studio', async () => {
		const of = async (message: string) =>
			(
				await problemIn(
					await answer(async () => {
						throw new Error(message);
					})
				)
			).message;
		expect(await of("EACCES: permission denied, open '/x/manual.pdf'")).not.toContain('The studio’s file');
		expect(await of('SQLITE_READONLY: attempt to write a readonly database')).toContain('The studio’s file');
	});

	it('what nobody foresaw is not hidden', async () => {
		await expect(
			answer(async () => {
				throw new TypeError('oops');
			})
		).rejects.toThrow('oops');
	});

	it('a body is checked field by field', async () => {
		const schema = z.object({ list: z.array(z.object({ n: z.number() })) });
		const send = (text: string) =>
			({ request: new Request('http://x/', { method: 'POST', body: text }) }) as never;
		expect(await body(send('{"list":[{"n":1}]}'), schema)).toEqual({ list: [{ n: 1 }] });
		const faulty = await answer(() => body(send('{"list":[{"n":1},{"n":"x"}]}'), schema));
		expect((await problemIn(faulty)).detail).toMatchObject({ faults: [{ at: 'list[1].n' }] });
		expect(await problemIn(await answer(() => body(send('nonsense'), schema)))).toMatchObject({
			code: 'request.json'
		});
	});

	it('for a page a problem becomes the page’s error', async () => {
		await expect(
			orError(Promise.reject(new Problem('version.not-found', 'Gone.', 'Look.')))
		).rejects.toMatchObject({
			status: 404,
			body: { message: 'Gone.', remedy: 'Look.', code: 'version.not-found' }
		});
		expect(await orError(Promise.resolve(3))).toBe(3);
	});
});
