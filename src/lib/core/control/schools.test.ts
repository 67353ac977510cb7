import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { checkMap } from './checks';
import { assigned, link, LISTS, mapOf } from './map.fixture';
import type { ControlMap } from './map';
import { SCHOOLS, schoolsOf, schoolWords, type SchoolQuestion } from './schools';

const page = (number: number, ...assignments: object[]) => ({ number, assignments });
const host = (control: string) => ({ control, links: [{ list: 'host', target: 'level', channel: 1 }] });
const pad = (number: number, channel: number) => ({
	control: `pad-${number}`,
	gesture: 'push',
	links: [link('kick', { channel })]
});
const weir = (...pages: object[]) => mapOf('osier-weir-9', { pages });
const gantry = (...pages: object[]) => mapOf('quillon-gantry-49', { pages });
const turned = (way: string) =>
	assigned('push-1', 'turn', way === 'relative' ? { way, encoding: 'sign-bit' } : { way });
const across = [1, 2, 3].map((channel) => ({
	control: `fader-${channel}`,
	links: [link('volume', { channel })]
}));
const part = ['cutoff', 'resonance', 'volume'].map((target, i) => assigned(`fader-${i + 1}`, target));

describe('ways of working', () => {
	const cases: [SchoolQuestion, string | null, ControlMap][] = [
		['pads', null, weir(page(1))],
		['pads', 'selected', gantry(page(1, pad(1, 3)), page(2, pad(1, 3)))],
		['pads', 'own', gantry(page(1, pad(1, 3), pad(2, 3)), page(2, pad(1, 4)))],
		['pads', null, gantry(page(1, pad(1, 3), pad(2, 4)), page(2, pad(1, 4)))],
		['protocol', null, weir(page(1))],
		['protocol', 'midi', weir(page(1, assigned('fader-1', 'cutoff')))],
		['protocol', 'host', weir(page(1, host('fader-1')))],
		['protocol', null, weir(page(1, host('fader-1'), assigned('fader-2', 'cutoff')))],
		['knobs', null, weir(page(1, assigned('fader-1', 'cutoff')))],
		['knobs', 'absolute', weir(page(1, turned('absolute')))],
		['knobs', 'relative', weir(page(1, turned('relative')))],
		['knobs', null, weir(page(1, turned('absolute')), page(2, turned('relative')))],
		['spread', null, weir(page(1, assigned('fader-1', 'cutoff')))],
		['spread', 'part', weir(page(1, ...part))],
		['spread', 'across', weir(page(1, ...across))],
		['spread', null, weir(page(1, ...part), page(2, ...across))],
		['pages', null, weir(page(1))],
		['pages', 'one', weir(page(1, assigned('fader-1', 'cutoff')), page(2))],
		['pages', 'many', weir(page(1, assigned('fader-1', 'cutoff')), page(2, assigned('fader-1', 'cutoff')))],
		['amount', null, weir(page(1))],
		['amount', 'few', weir(page(1, assigned('fader-1', 'cutoff')))],
		[
			'amount',
			'all',
			weir(page(1, ...mapOf('osier-weir-9').surface.controls.map(({ id }) => assigned(id, 'cutoff'))))
		]
	];

	it.each(cases)('%s: the lines answer %s', (question, way, map) => {
		const told = schoolsOf(map).find((each) => each.question === question)!;
		expect(told.way).toBe(way);
		expect(told.says).toMatch(/\.$/);
	});

	it('cover both answers of every question', () => {
		for (const [question, { ways }] of Object.entries(SCHOOLS))
			for (const way of Object.keys(ways)) {
				expect(cases.some(([of, answer]) => of === question && answer === way)).toBe(true);
				expect(schoolWords(question as SchoolQuestion, way)).not.toContain(
					way === 'own' ? 'undefined' : ` ${way}.`
				);
			}
	});

	it('say how far pages are apart, and what the set makes of them', () => {
		const map = mapOf('osier-weir-9', {
			surface: {
				...mapOf('osier-weir-9').surface,
				pages: { word: 'layer', count: 4, direct: null, step: 1, round: false }
			},
			pages: [page(1, assigned('fader-1', 'cutoff')), page(4, assigned('fader-1', 'resonance'))],
			songs: [
				{
					name: 'Dusk',
					touches: ['cutoff', 'resonance'].map((target) => ({ list: 'umbra', target, channel: 2 }))
				}
			]
		});
		expect(schoolsOf(map).find(({ question }) => question === 'pages')!.says).toBe(
			'2 pages are used, at most 3 presses apart; in the set 1 touch can find a control elsewhere.'
		);
	});

	it('are checked where something is meant, and only there', () => {
		const map = weir(page(1, assigned('fader-1', 'cutoff')));
		expect(checkMap({ ...map, schools: { protocol: 'midi', pages: 'one', amount: 'few' } })).toEqual([]);
		const [trouble] = checkMap({ ...map, schools: { pages: 'many' } });
		expect(trouble).toMatchObject({
			rule: 'not-as-meant',
			says: 'It is meant: The map has many pages. One page is used.'
		});
		const cured = applyEdits({ ...map, schools: { pages: 'many' as const } }, trouble.cure.edits);
		expect(cured.schools).toEqual({ pages: 'one' });
		// Where the lines follow neither, the cure says nothing in their place.
		const both: ControlMap = {
			...weir(page(1, host('fader-1'), assigned('fader-2', 'cutoff'))),
			lists: mapOf('osier-weir-9', { lists: LISTS }).lists,
			schools: { protocol: 'midi' }
		};
		const [mixed] = checkMap(both).filter(({ rule }) => rule === 'not-as-meant');
		expect(applyEdits(both, mixed.cure.edits).schools).toEqual({});
	});
});
