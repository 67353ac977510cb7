import { describe, expect, it } from 'vitest';
import { demoPower } from '../../../demo/power';
import { powerSchema } from '../core/power';
import { planPowerApart } from './plan-apart';
import { editPower, getPower, movePower, takePower } from './power';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const taken = () => takePower(here.studio, { revision: 0, document: demoPower([]) });

describe('the power of a studio', () => {
	it('tells what is wrong with it, and a cure is one step that is undone', async () => {
		const open = await taken();
		const hosted = open.findings.find(({ rule }) => rule === 'hosted-load')!;
		expect(hosted).toMatchObject({ severity: 'danger', loads: ['ferryman', 'tiles'] });
		const moved = await editPower(here.studio, {
			revision: open.revision,
			says: 'Ferryman hangs on Feed 3',
			edits: [
				{
					path: ['cables', 4],
					value: { load: 'ferryman', supply: 'feed-3', output: 'out-1', through: 'plain' }
				}
			]
		});
		expect(moved.findings.some(({ rule }) => rule === 'hosted-load')).toBe(false);
		const back = await movePower(here.studio, { move: 'undo', step: moved.steps.undo!.id });
		expect(back.document).toEqual(open.document);
		expect((await getPower(here.studio)).findings).toEqual(open.findings);
	});

	it('is no power where two are called alike, a box hosts itself, or one is hosted twice', async () => {
		const { revision, document } = await taken();
		const edit = (path: (string | number)[], value: unknown) =>
			editPower(here.studio, { revision, says: 'x', edits: [{ path, value }] });
		const host = (load: string) => [{ load, mode: 'on', adapter: null }];
		await expect(edit(['loads', 1, 'id'], 'tiles')).rejects.toMatchObject({
			code: 'power.invalid',
			message: expect.stringContaining('Two loads are called “tiles”.')
		});
		await expect(edit(['loads', 3, 'hosts'], host('ferryman'))).rejects.toMatchObject({
			message: expect.stringContaining('cannot host itself')
		});
		await expect(edit(['loads', 2, 'hosts'], host('tiles'))).rejects.toMatchObject({
			message: expect.stringContaining('Two hosted devices are called “tiles”.')
		});
		await expect(edit(['loads', 0, 'ma'], -4)).rejects.toMatchObject({ code: 'power.invalid' });
		await expect(edit(['loads', 0, 'watts'], 4)).rejects.toMatchObject({ code: 'power.invalid' });
		expect((await getPower(here.studio)).document).toEqual(document);
	});

	it('is planned in a process of its own', async () => {
		const plan = await planPowerApart(powerSchema.parse(demoPower([])), 20, new AbortController().signal);
		expect(plan).toMatchObject({ format: 'silent-drawer.power-plan', proved: true });
		expect(plan.steps.map(({ says }) => says)).toContain(
			'Move Ferryman host box from Feed 8 Out 5 to Feed 3 Out 1.'
		);
	});
});
