import { readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../../edit';
import { assigned, heard, link, LISTS, mapOf, shippedSurface } from '../map.fixture';
import { checkMap, MAP_RULES } from './index';

const page = (number: number, ...assignments: object[]) => ({ number, assignments });
const weir = (...assignments: object[]) => mapOf('osier-weir-9', { pages: [page(1, ...assignments)] });
const bound = { ...LISTS[0], channels: [5], dinOnly: true };

const told = (target: string, channel = 2) => ({ list: 'umbra', target, channel });
/** Faders 1 and 2 over the volumes of three channels, moved by key 1. */
const windowed = (more: object = {}, window: object = {}, ...others: object[]) =>
	mapOf('osier-weir-9', {
		pickUp: 'wait',
		...more,
		pages: [
			{
				...page(
					1,
					...[1, 2].map((n) => ({ control: `fader-${n}`, links: [link('volume', { channel: n })] })),
					...others
				),
				windows: [
					{
						name: 'Levels',
						controls: ['fader-1', 'fader-2'],
						gesture: 'move',
						over: [1, 2, 3].map((channel) => told('volume', channel)),
						step: 1,
						next: { control: 'key-1', gesture: 'push' },
						...window
					}
				]
			}
		]
	});

/** For each rule a map with that fault, and nothing else wrong with it. */
const CASES: Record<string, ReturnType<typeof mapOf>> = {
	'nothing-there': weir(assigned('fader-99', 'cutoff')),
	'no-such-gesture': weir(assigned('fader-1', 'cutoff', { gesture: 'double' })),
	'cannot-send': weir(assigned('fader-1', 'morph')),
	'position-by-steps': weir(assigned('fader-1', 'turn', { way: 'relative' })),
	'rest-it-cannot': weir({ control: 'fader-1', way: 'rest' }),
	'acceleration-not-offered': weir(assigned('push-1', 'turn', { way: 'relative', acceleration: 2 })),
	'acceleration-for-all': weir(
		assigned('push-1', 'turn', { way: 'relative', acceleration: 3 }),
		assigned('push-2', 'resonance')
	),
	'too-many-channels': weir({
		control: 'fader-1',
		links: [link('cutoff'), link('resonance', { channel: 3 })]
	}),
	'too-many-pages': mapOf('osier-weir-9', { pages: [page(1), page(5)] }),
	'page-twice': mapOf('osier-weir-9', { pages: [page(1), page(1)] }),
	'name-too-long': weir(assigned('fader-1', 'cutoff', { name: 'Filter cutoff' })),
	'name-not-distinct': weir(
		assigned('fader-1', 'cutoff', { name: 'Cut' }),
		assigned('fader-2', 'resonance', { name: 'CUT' })
	),
	'global-overwritten': mapOf('osier-weir-9', {
		globals: [assigned('fader-1', 'cutoff')],
		pages: [page(1, { control: 'fader-1', empty: true })]
	}),
	'assigned-twice': weir(assigned('fader-1', 'cutoff'), { control: 'fader-1', empty: true }),
	'bank-select': weir(assigned('fader-1', 'bank')),
	'data-entry': weir(assigned('fader-1', 'data')),
	'channel-mode': weir(assigned('fader-1', 'reset')),
	'same-address': mapOf('osier-weir-9', {
		lists: [
			...LISTS,
			{ ...LISTS[0], id: 'twin', name: 'Twin', targets: [{ ...LISTS[0].targets[0], id: 'other' }] }
		],
		pages: [
			page(1, assigned('fader-1', 'cutoff'), {
				control: 'fader-2',
				links: [{ list: 'twin', target: 'other', channel: 2 }]
			})
		]
	}),
	'reserved-channel': mapOf('osier-weir-9', {
		reserved: [2],
		pages: [page(1, assigned('fader-1', 'cutoff'))]
	}),
	'not-heard': mapOf('osier-weir-9', { lists: [bound] }),
	'pads-on-the-keys': mapOf('quillon-gantry-49', {
		surface: {
			...shippedSurface('quillon-gantry-49'),
			controls: shippedSurface('quillon-gantry-49').controls.map((control) => ({ ...control, port: 'keys' }))
		},
		keys: { channel: 2, low: 36, high: 84 },
		pages: [page(1, assigned('pad-1', 'kick', { gesture: 'push' }))]
	}),
	'relative-on-absolute': weir(assigned('push-1', 'cutoff', { way: 'relative' })),
	'absolute-on-relative': weir(assigned('push-1', 'turn')),
	'outside-the-range': weir(assigned('fader-1', 'resonance', {}, { from: -5, to: 120 })),
	'toggle-where-held': weir(assigned('key-1', 'sustain', { gesture: 'push', way: 'toggle' })),
	'value-not-stated': weir(assigned('key-1', 'resonance', { gesture: 'push', way: 'value' })),
	'pick-up-not-offered': mapOf('osier-weir-9', {
		surface: { ...shippedSurface('osier-weir-9'), pickUp: ['jump'] },
		pickUp: 'wait'
	}),
	'window-apart': windowed({}, { over: [2, 1, 3].map((channel) => told('volume', channel)) }),
	'window-button': windowed({}, {}, assigned('key-1', 'sustain', { gesture: 'push', way: 'momentary' })),
	'window-for-nothing': windowed({}, { over: [1, 2].map((channel) => told('volume', channel)) }),
	'window-jumps': windowed({ pickUp: 'jump' }),
	'not-as-meant': mapOf('osier-weir-9', { schools: { protocol: 'host' } }),
	'loud-jump': mapOf('osier-weir-9', {
		loudestStepDb: 6,
		pages: [page(1, assigned('fader-1', 'volume')), page(2, assigned('fader-1', 'cutoff'))]
	}),
	'loud-step': mapOf('osier-weir-9', {
		loudestStepDb: 1,
		pages: [page(1, assigned('push-1', 'volume', { acceleration: 3 }))]
	}),
	'wrong-port': mapOf('quillon-gantry-49', {
		pages: [page(1, { control: 'knob-1', links: [{ list: 'host', target: 'level', channel: 1 }] })]
	}),
	'not-carried-over': weir(assigned('fader-1', 'cutoff', {}, { reach: 'instance' })),
	'target-missing-in-program': mapOf('osier-weir-9', {
		pages: [
			{
				number: 1,
				programs: [{ channel: 2, from: 8, to: 12 }],
				assignments: [assigned('fader-1', 'sparkle')]
			}
		]
	}),
	'page-not-reached': mapOf('osier-weir-9', {
		surface: { ...shippedSurface('osier-weir-9'), pages: { count: 4, direct: null, step: null } },
		pages: [page(1), page(3)]
	}),
	'usb-to-din': mapOf('fallow-larch-16', {
		lists: [{ ...bound, channels: [] }],
		pages: [page(1, assigned('turn-1', 'cutoff'))]
	}),
	feedback: mapOf('osier-weir-9', {
		echoes: true,
		pages: [page(1, { control: 'fader-1', links: [{ list: 'host', target: 'level', channel: 1 }] })]
	}),
	'never-walked': mapOf('osier-weir-9', { walked: [] }),
	'speaks-otherwise': mapOf('osier-weir-9', { learnt: [heard('fader-1', 20)] }),
	'heard-alike': mapOf('osier-weir-9', { learnt: [heard('fader-2', 20), heard('fader-3', 20)] })
};
/** What is cured by hand. */
const BY_HAND = ['loud-step', 'not-carried-over', 'never-walked', 'speaks-otherwise', 'heard-alike'];

describe('what a map is looked through for', () => {
	it('is each shown by a case, and there are at least eighteen', () => {
		expect(MAP_RULES.map(({ id }) => id).sort()).toEqual(Object.keys(CASES).sort());
		expect(MAP_RULES.length).toBeGreaterThanOrEqual(18);
	});

	it('finds nothing in a map that is right', () => {
		expect(checkMap(mapOf('osier-weir-9'))).toEqual([]);
	});

	it.each(Object.entries(CASES))('finds %s, and nothing else', (rule, map) => {
		const found = checkMap(map);
		expect(new Set(found.map((trouble) => trouble.rule))).toEqual(new Set([rule]));
		for (const { says, cure } of found) {
			expect(says).toMatch(/\.$/);
			expect(cure.says).toMatch(/\.$/);
		}
	});

	it.each(Object.entries(CASES).filter(([rule]) => !BY_HAND.includes(rule)))(
		'puts %s right by its cure, and nothing else wrong',
		(rule, map) => {
			const before = structuredClone(map);
			let now = map;
			for (let i = 0; i < 5; i++) {
				const [trouble] = checkMap(now).filter((each) => each.rule === rule);
				if (!trouble) break;
				expect(trouble.cure.edits.length).toBeGreaterThan(0);
				now = applyEdits(now, trouble.cure.edits);
			}
			expect(checkMap(now)).toEqual([]);
			expect(map).toEqual(before);
		}
	);

	it('lets two controls move the same target on purpose', () => {
		expect(checkMap(weir(assigned('fader-1', 'cutoff'), assigned('fader-2', 'cutoff')))).toEqual([]);
	});

	it('does not mix up what is sent on different pages', () => {
		expect(
			checkMap(
				mapOf('osier-weir-9', {
					pages: [page(1, assigned('fader-1', 'cutoff')), page(2, assigned('fader-2', 'cutoff'))]
				})
			)
		).toEqual([]);
	});
});

describe('the surfaces that ship', () => {
	const ids = readdirSync(new URL('../../../../../surfaces', import.meta.url)).map((file) =>
		file.replace('.json', '')
	);

	it.each(ids)('%s has controls with ids of their own, which do not overlap, on ports that it has', (id) => {
		const { controls, ports, modes, id: own } = shippedSurface(id);
		expect(own).toBe(id);
		expect(new Set(controls.map((control) => control.id)).size).toBe(controls.length);
		const known = new Set(ports.map((port) => port.id));
		for (const { port, shownOn } of controls)
			for (const named of [port, shownOn]) if (named) expect(known).toContain(named);
		for (const { port } of modes) expect(known).toContain(port);
		controls.forEach((a, i) =>
			controls.slice(i + 1).forEach((b) => {
				const apart =
					a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
				expect([a.id, b.id, apart]).toEqual([a.id, b.id, true]);
			})
		);
	});
});

describe('a rest', () => {
	const key = { control: 'key-9', gesture: 'push', way: 'rest' };

	it('is right on a push of a surface that can be silenced, and nowhere else', () => {
		const found = (map: ReturnType<typeof mapOf>) =>
			checkMap(map).filter(({ rule }) => rule === 'rest-it-cannot').length;
		expect(found(weir(key))).toBe(0);
		expect(found(weir({ ...key, links: [link('cutoff')] }))).toBe(1);
		const panel = mapOf('osier-tarn', {
			pages: [page(1, { control: 'button-1', gesture: 'push', way: 'rest' })]
		});
		expect(found(panel)).toBe(1);
		expect(checkMap(panel).find(({ rule }) => rule === 'rest-it-cannot')!.says).toContain(
			'which nothing does'
		);
	});

	it('is what puts a jump right where controls cannot be picked up', () => {
		const map = windowed(
			{ pickUp: 'jump', surface: { ...shippedSurface('osier-weir-9'), pickUp: ['jump'] } },
			{},
			key
		);
		const jump = checkMap(map).find(({ says }) => says.includes('can jump when touched'))!;
		expect(jump.cure).toEqual({
			says: 'Hold Key 9, which silences it, and move them to where their values are.',
			edits: []
		});
	});
});
