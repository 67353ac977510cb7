import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { curesOf } from './cures';
import { floorSchema } from './floor';
import { floorOf, lineAt } from './floor.fixture';
import { matrixOf } from './matrix';
import { pairingOf } from './pairing';
import { judge } from './verdict';

const now = (jack: string, pedal: string, cable: string | null = null) => {
	const floor = floorOf({ lines: [lineAt(jack, pedal, cable)] });
	const line = floor.lines[0];
	return { floor, line, verdict: judge(pairingOf(floor, line)!), cures: curesOf(floor, line) };
};

describe('what a line comes to, and what mends it', () => {
	it('has nothing to mend where it works', () => {
		expect(now('one', 'open')).toMatchObject({ verdict: { kind: 'works', sure: true }, cures: [] });
	});

	it('turns an inverted switch round in the menu first', () => {
		const { verdict, cures } = now('one', 'closed');
		expect(verdict.kind).toBe('inverted');
		expect(cures[0].says).toBe('Tell “one” that the switch is closed when the foot is up');
	});

	it('moves the pedal’s own switch, or the plug, where the box has no setting', () => {
		const floor = floorOf({ lines: [lineAt('plain', 'flips')] });
		const flipped = applyEdits(floor, [{ path: ['pedals', 2, 'flipped'], value: true }]);
		expect(curesOf(flipped, flipped.lines[0])[0].says).toMatch(/^Move the switch on flips/);
		// A jack that looks when it is switched on takes either.
		expect(now('plain', 'closed').cures[0].says).toBe('Plug it in at “senses”');
	});

	it('finds the cable that lets both switches through, and says when nobody has it', () => {
		const { verdict, cures } = now('two', 'pair', 'ts');
		expect(verdict).toMatchObject({
			kind: 'one of two',
			besides: ['The box reads the ring as held down all the time.']
		});
		expect(cures[0]).toMatchObject({ says: 'Use “Black TRS”, which nobody uses', wants: null });
		// Two jacks for one switch each: a splitting cable, which nobody has, and the setting of neither.
		const split = now('one', 'pair', 'trs').cures.find(({ wants }) => wants === 'split');
		expect(split?.says).toMatch(
			/^Get a splitting cable, TRS to two TS, with its second plug in “(plain|senses)”$/
		);
	});

	it('reads a pedal backwards, turns it round, and does not where it cannot', () => {
		expect(now('any', 'falling')).toMatchObject({
			verdict: { kind: 'backwards' },
			cures: [{ says: 'Turn the direction of “any” round' }, ...now('any', 'falling').cures.slice(1)]
		});
		expect(now('exp', 'falling').cures.some(({ says }) => says.startsWith('Turn'))).toBe(false);
	});

	it('sees a wiper on the wrong contact, and the mode or the cable that reads it', () => {
		const { verdict, cures } = now('exp', 'ring-pot');
		expect(verdict.kind).toBe('cannot');
		expect(cures[0].says).toContain('Plug it in at “any”; then set “any” to expression, wiper on the ring');
		const crossed = floorOf({
			cables: [
				{ id: 'trs', name: 'Black TRS', kind: 'trs' },
				{ id: 'x', name: 'Crossed', kind: 'crossed' }
			],
			lines: [lineAt('exp', 'tip-pot', 'x')]
		});
		expect(judge(pairingOf(crossed, crossed.lines[0])!).kind).toBe('cannot');
		expect(curesOf(crossed, crossed.lines[0])[0].says).toBe('Use “Black TRS”, which nobody uses');
	});

	it('exchanges two pedals where each suits the other’s jack, and not where the other would suffer', () => {
		const at = (id: string, jack: string, pedal: string) => ({ ...lineAt(jack, pedal), id });
		const floor = floorOf({ lines: [at('a', 'plain', 'closed'), at('b', 'senses', 'open')] });
		const says = curesOf(floor, floor.lines[0]).map((cure) => cure.says);
		expect(says).toContain('Exchange its jack with that of open');
		const both = floorOf({ lines: [at('a', 'plain', 'closed'), at('b', 'senses', 'closed')] });
		expect(curesOf(both, both.lines[0]).some((cure) => cure.says.startsWith('Exchange'))).toBe(false);
	});

	it('says that the feed is shorted where a plug with two contacts lies on it', () => {
		expect(now('exp', 'open').verdict.besides).toContain(
			'It shorts the jack’s own supply to its ground: pull it out.'
		);
	});

	it('says how far a pot reaches only where all resistors are known', () => {
		expect(now('exp', 'tip-pot', 'trs').verdict.besides).toEqual([
			'How near it comes to both ends depends on resistors that nobody has noted. Calibrating mends that.'
		]);
		const floor = floorOf({ lines: [lineAt('exp', 'tip-pot', 'trs')] });
		const known = applyEdits(floor, [
			{ path: ['boxes', 0, 'jacks', 2, 'modes', 0, 'feedKohm'], value: 1 },
			{ path: ['boxes', 0, 'jacks', 2, 'modes', 0, 'loadKohm'], value: 1000 },
			{ path: ['pedals', 4, 'parts', 0, 'kohm'], value: 10 }
		]);
		// A kilohm before ten: ten elevenths of the supply.
		expect(judge(pairingOf(known, known.lines[0])!).besides).toEqual([
			'It does not reach the end: 91 % at most. Calibrating mends that.'
		]);
	});

	it('offers only what, done, works: for every jack, pedal and cable', () => {
		const { boxes, pedals, cables } = floorOf();
		let mended = 0;
		fc.assert(
			fc.property(
				fc.constantFrom(...boxes[0].jacks.map(({ id }) => id)),
				fc.constantFrom(...pedals),
				fc.constantFrom(...cables.map(({ id }) => id)),
				(jack, pedal, cable) => {
					const { floor, line, cures } = now(jack, pedal.id, pedal.plug.startsWith('own') ? null : cable);
					for (const { edits } of cures) {
						const after = floorSchema.parse(applyEdits(floor, edits));
						const pairing = pairingOf(
							after,
							after.lines.find(({ id }) => id === line.id)!
						)!;
						expect(judge(pairing)).toMatchObject({ kind: 'works', sure: true });
						mended++;
					}
				}
			),
			{ numRuns: 80 }
		);
		expect(mended).toBeGreaterThan(20);
	});
});

describe('all pedals at all jacks', () => {
	it('are told at their best, with the mode and the cable that it takes', () => {
		const matrix = matrixOf(floorOf());
		const cell = (jack: string, pedal: number) => {
			const { verdict, cable, mode } = matrix.find((row) => row.jack === jack)!.cells[pedal];
			return [verdict.kind, cable, mode];
		};
		expect(cell('one', 1)).toEqual(['works', null, '']);
		expect(cell('plain', 1)).toEqual(['inverted', null, '']);
		expect(cell('exp', 4)).toEqual(['works', 'trs', '']);
		expect(cell('any', 5)).toEqual(['works', null, 'expression, wiper on the ring']);
		// A jack for switches is not one for pedals, though the plug fits.
		expect(cell('two', 4)[0]).toBe('cannot');
	});
});
