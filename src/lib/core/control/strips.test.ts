import { describe, expect, it } from 'vitest';
import { XMLParser } from 'fast-xml-parser';
import { assigned, mapOf, shippedSurface } from './map.fixture';
import { stripsFile, stripsOf } from './strips';

const weir = mapOf('osier-weir-9', {
	globals: [assigned('push-9', 'volume', { name: 'Master' })],
	pages: [
		{
			number: 1,
			name: 'Sky',
			assignments: [
				assigned('fader-1', 'cutoff'),
				assigned('push-1', 'resonance'),
				assigned('push-1', 'sustain', { gesture: 'push', name: 'Hold <&>' }),
				{ control: 'fader-2', empty: true }
			]
		},
		{ number: 2, assignments: [] }
	]
});

describe('paper strips', () => {
	it('lie along each row that is used, each cell under its control', () => {
		const strips = stripsOf(weir);
		expect(strips.map(({ page, row }) => `${page} ${row}`)).toEqual(['1 pushes', '1 faders', '2 pushes']);
		for (const { cells, from, width } of strips) {
			const ends = cells.map(({ x, width: wide }) => x + wide);
			expect(cells[0].x).toBe(0);
			expect(ends.at(-1)).toBeCloseTo(width);
			for (let i = 1; i < cells.length; i++) expect(cells[i].x).toBeCloseTo(ends[i - 1]);
			for (const { control, x, width: wide } of cells) {
				const body = weir.surface.controls.find(({ id }) => id === control)!;
				expect(from + x).toBeLessThanOrEqual(body.x);
				expect(from + x + wide).toBeGreaterThanOrEqual(body.x + body.width);
			}
		}
	});

	it('say what each gesture does, what is global, and what is empty on purpose', () => {
		const [pushes, faders] = stripsOf(weir, [1]);
		expect(pushes.cells[0]).toMatchObject({ name: 'Resonance', also: ['push: Hold <&>'] });
		expect(pushes.cells[8]).toMatchObject({ name: 'Master' });
		expect(faders.cells[1]).toMatchObject({ name: '', empty: true });
	});

	it('are cut where a row is longer than a sheet, and lose no control', () => {
		const small = shippedSurface('quillon-gantry-49');
		const gantry = mapOf('quillon-gantry-49', {
			surface: { ...small, controls: small.controls.map((control) => ({ ...control, x: control.x * 1.5 })) },
			pages: [{ number: 1, assignments: [assigned('knob-1', 'cutoff'), assigned('knob-8', 'resonance')] }]
		});
		const pieces = stripsOf(gantry);
		expect(pieces.map(({ piece, pieces: all }) => `${piece}/${all}`)).toEqual(['1/2', '2/2']);
		for (const { width } of pieces) expect(width).toBeLessThanOrEqual(277);
		expect(pieces.flatMap(({ cells }) => cells.map(({ control }) => control))).toEqual(
			gantry.surface.controls.filter(({ row }) => row === 'knobs').map(({ id }) => id)
		);
	});

	it('shorten what does not fit so that it stays distinct', () => {
		const long = Array.from({ length: 8 }, (_, i) =>
			assigned(`turn-${i + 1}`, 'cutoff', { name: `Oscillator ${i + 1} modulation depth` })
		);
		const [strip] = stripsOf(mapOf('fallow-larch-16', { pages: [{ number: 1, assignments: long }] }));
		const names = strip.cells.map(({ name }) => name);
		expect(new Set(names).size).toBe(8);
		names.forEach((name, i) => expect(name).toContain(`${i + 1}`));
		for (const { name, width } of strip.cells) expect(name.length * 1.75).toBeLessThanOrEqual(width);
	});

	it('are written as SVG in millimetres, with every sign escaped', () => {
		const file = stripsFile(stripsOf(weir));
		const parsed = new XMLParser({ ignoreAttributes: false }).parse(file, true) as {
			svg: Record<string, string>;
		};
		expect(parsed.svg['@_width']).toBe('297mm');
		expect(parsed.svg['@_viewBox']).toBe('0 0 297 210');
		expect(file).toContain('push: Hold &lt;&amp;&gt;');
	});
});
