import { describe, expect, it } from 'vitest';
import { inSteps } from './in-steps';

/** Works for `ms`, pausing after every millisecond. */
function* busy(ms: number): Generator<void, string> {
	const start = performance.now();
	for (let turn = 1; performance.now() - start < ms; turn++) {
		while (performance.now() - start < turn);
		yield;
	}
	return 'done';
}

describe('work in steps', () => {
	it('lets others in while it goes on, and gives what the work gave', async () => {
		let answered = 0;
		const knock = () => {
			answered++;
			waiting = setImmediate(knock);
		};
		let waiting = setImmediate(knock);
		expect(await inSteps(busy(60))).toBe('done');
		clearImmediate(waiting);
		expect(answered).toBeGreaterThanOrEqual(3);
	});

	it('fails as the work fails', async () => {
		const failing = (function* (): Generator<void, never> {
			yield;
			throw new RangeError('No.');
		})();
		await expect(inSteps(failing)).rejects.toThrow('No.');
	});
});
