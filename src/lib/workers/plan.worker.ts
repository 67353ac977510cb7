import * as Comlink from 'comlink';
import loadHighs, { type Highs } from 'highs';
import wasmUrl from 'highs/runtime?url';
import {
	fileScore,
	makePlan,
	networkOf,
	partsOf,
	patternScore,
	simulate,
	type LatenessReport,
	type Pattern,
	type Plan,
	type Policy,
	type SolveProgress
} from '$lib/core/plan';
import type { Rig } from '$lib/core/rig';
import { answered, type Answered } from '$lib/core/answered';

let highs: Promise<Highs> | null = null;
const solver = () => (highs ??= loadHighs({ locateFile: () => wasmUrl }));

/** What is played: a pattern of some seconds, or a MIDI file. */
export type Music = { pattern: Pattern; seconds: number } | { file: Uint8Array };

const workshop = {
	plan: (
		rig: Rig,
		order: { policy: Policy; seconds: number },
		report: (progress: SolveProgress) => void,
		show: (plan: Plan) => void
	): Promise<Answered<Plan>> =>
		answered(async () => {
			let [told, shown, proved] = [0, 0, 0];
			return makePlan(await solver(), rig, {
				...order,
				now: () => performance.now(),
				onProgress(progress) {
					if (performance.now() - told < 80) return;
					told = performance.now();
					report(progress);
				},
				onPlan(plan) {
					// A goal more that is proved is always told.
					if (performance.now() - shown < 200 && plan.proved.length === proved) return;
					[shown, proved] = [performance.now(), plan.proved.length];
					show(plan);
				}
			});
		}),

	/** The same music over today's wiring and others. Everybody is played, whether a wiring reaches them or not. */
	play: (
		rigs: Rig[],
		music: Music,
		options: { runningStatus: boolean; usb: boolean }
	): Promise<Answered<{ reports: LatenessReport[]; unheard: { channel: number; messages: number }[] }>> =>
		answered(() => {
			let unheard: { channel: number; messages: number }[] = [];
			const reports = rigs.map((rig) => {
				const parts = partsOf(rig);
				const score =
					'file' in music ? fileScore(music.file, parts) : patternScore(music.pattern, parts, music.seconds);
				unheard = score.unheard;
				return simulate(score, networkOf(rig), options);
			});
			return { reports, unheard };
		})
};

export type PlanWorkshop = typeof workshop;
Comlink.expose(workshop);
