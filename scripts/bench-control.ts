import loadHighs from 'highs';
import { between, seededRandom } from '../src/lib/core/bench';
import { classify, fitNames, pageTaskSchema, planPages, type PageTask } from '../src/lib/core/control';
import { crossing, leftOpen, playTogether, toldOf } from '../src/lib/core/control/stream/hands.fixture';
import { n, type Row } from './bench-rows';

/** Twenty songs, each of which touches some of 120 targets of eight instruments, mostly those of two of them. */
export function aSet(seed: number): PageTask {
	const random = seededRandom(seed);
	const functions = ['cutoff', 'resonance', 'attack', 'decay', 'level', 'pan', 'drive', 'mix'];
	const targets = Array.from({ length: 120 }, (_, t) => ({
		id: `t${t}`,
		function: functions[t % 15] ?? '',
		group: t % 40 < 4 ? `group ${Math.floor(t / 40)}` : '',
		global: t === 119
	}));
	return pageTaskSchema.parse({
		format: 'silent-drawer.page-task',
		version: 1,
		controls: Array.from({ length: 16 }, (_, c) => `c${c}`),
		pages: { count: 12, direct: 1 },
		targets,
		songs: Array.from({ length: 20 }, (_, song) => {
			const instruments = [between(random, 0, 7), between(random, 0, 7)];
			return {
				name: `Song ${song + 1}`,
				touches: Array.from({ length: between(random, 8, 24) }, () => {
					const at = random() < 0.1 ? between(random, 0, 7) : instruments[between(random, 0, 1)];
					return `t${at * 15 + between(random, 0, 14)}`;
				})
			};
		})
	});
}

/** Learning, naming and paging a controller. */
export async function control(row: Row): Promise<void> {
	let [all, right, undecided, messages] = [0, 0, 0, 0];
	const began = performance.now();
	for (let seed = 5001; seed <= 7000; seed++) {
		const played = playTogether(seededRandom(seed), 8);
		const heard = crossing(played);
		messages += heard.length;
		const found = classify(heard);
		for (const each of played) {
			all++;
			if (toldOf(found, each)) right++;
			else if (leftOpen(found, each)) undecided++;
		}
	}
	const seconds = (performance.now() - began) / 1000;
	row(
		'Controls told by what they send, %',
		n((right / all) * 100, 2),
		`${all.toLocaleString('en')} controls, up to 8 at once; of the rest ${undecided} are said to be undecided`
	);
	row('Messages classified a second, with their making', n(messages / seconds, 0));
	const names = Array.from(
		{ length: 64 },
		(_, i) => `Oscillator ${(i % 8) + 1} modulation depth envelope ${Math.floor(i / 8) + 1}`
	);
	const start = performance.now();
	const { cost, proved } = fitNames(names, 4);
	row(
		'64 names in 4 characters, ms',
		n(performance.now() - start),
		`cost ${cost}, ${proved ? 'proved' : 'not proved'}; limit 1,000`
	);
	const highs = await loadHighs();
	for (const seed of [1, 2, 3]) {
		const plan = planPages(highs, aSet(seed), { seconds: 20, now: () => performance.now() });
		row(
			`120 targets, 16 controls, 12 pages, 20 songs (${seed}), s`,
			n(plan.tookMs / 1000),
			plan.goals
				.map(
					({ goal, value, bound, proof }) =>
						`${goal} ${value}${proof ? ` (${proof})` : ` (at least ${bound})`}`
				)
				.join(', ')
		);
	}
}
