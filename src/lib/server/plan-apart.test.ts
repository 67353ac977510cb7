import { describe, expect, it } from 'vitest';
import { pageTaskSchema } from '../core/control';
import { planPagesApart } from './plan-apart';

const task = pageTaskSchema.parse({
	format: 'silent-drawer.page-task',
	version: 1,
	controls: ['a', 'b'],
	pages: { count: 2 },
	targets: ['cutoff', 'level', 'drift'].map((id) => ({ id })),
	songs: [{ name: 'Dusk', touches: ['cutoff', 'drift', 'cutoff', 'level'] }]
});
const never = () => new AbortController().signal;

describe('pages that are planned in a process of their own', () => {
	it('are planned and proved, one task after another', async () => {
		const first = planPagesApart(task, 20, never());
		await expect(planPagesApart(task, 20, never())).rejects.toMatchObject({ code: 'plan.conflict' });
		const plan = await first;
		expect(plan.goals.map(({ value, proof }) => [value, proof !== null])).toEqual([
			[0, true],
			[1, true],
			[0, true],
			[2, true]
		]);
		// Whatever became of the one before, the next is heard.
		await expect(
			planPagesApart({ ...task, songs: [{ name: 'x', touches: ['nothing'] }] }, 20, never())
		).rejects.toMatchObject({ code: 'page-task.reference', message: expect.stringContaining('nothing') });
	});

	it('end when whoever asked hangs up', async () => {
		const asked = new AbortController();
		const plan = planPagesApart(task, 20, asked.signal);
		asked.abort();
		await expect(plan).rejects.toMatchObject({ code: 'plan.stopped' });
		await expect(planPagesApart(task, 20, never())).resolves.toBeDefined();
	});
});
