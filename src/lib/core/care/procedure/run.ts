import { z } from 'zod';
import { Problem } from '../../problem';
import { secondsBetween, whyNot, type GateFacts } from './gate';
import { procedureSchema, type ProcedureStep } from './procedure';

/** The fewest characters of a reason why a gate is passed that does not hold. */
export const LEAST_REASON = 12;

const at = z.string().min(10).max(40);
const step = z.string().min(1).max(60);
/** One line of a run's record; nothing is ever taken out of it. */
export const runEntrySchema = z.discriminatedUnion('what', [
	z.object({ what: z.literal('begun'), step, at }),
	/** Ended well; `note`: what was seen, or how the app's part ended. */
	z.object({ what: z.literal('done'), step, at, note: z.string().max(600).default('') }),
	/** What should have been seen was not, or the app's part failed: the step is to be done again. */
	z.object({ what: z.literal('failed'), step, at, note: z.string().max(600) }),
	z.object({ what: z.literal('chosen'), step, at, variant: z.string().min(1).max(60) }),
	z.object({ what: z.literal('held'), step, at }),
	/** A gate that did not hold was passed all the same: why it did not, and why one went on. */
	z.object({
		what: z.literal('overruled'),
		step,
		at,
		why: z.string().max(600),
		reason: z.string().min(LEAST_REASON).max(600)
	}),
	z.object({ what: z.literal('abandoned'), step, at, reason: z.string().max(600) })
]);
export type RunEntry = z.infer<typeof runEntrySchema>;

/** A procedure as it is being carried out, or was: the procedure as it stood, and everything that happened. */
export const procedureRunSchema = z.object({
	format: z.literal('silent-drawer.procedure-run').default('silent-drawer.procedure-run'),
	version: z.literal(1).default(1),
	procedure: procedureSchema,
	/** The device that it is about. */
	device: z.string().max(120).nullable().default(null),
	entries: z.array(runEntrySchema).max(4000).default([])
});
export type ProcedureRun = z.infer<typeof procedureRunSchema>;

/** Where a run stands: worked out of its record alone, so that it is the same after any interruption. */
export interface RunState {
	/** The step whose turn it is; null where all is done, or it was given up. */
	step: ProcedureStep | null;
	/** When that step was begun, where it was and has not ended: for the app's part, it may have been broken off. */
	begunAt: string | null;
	chosen: ReadonlyMap<string, string>;
	over: 'done' | 'abandoned' | null;
}

const ENDS: readonly RunEntry['what'][] = ['done', 'chosen', 'held', 'overruled'];

export function stateOf({ procedure, entries }: Pick<ProcedureRun, 'procedure' | 'entries'>): RunState {
	const ended = new Set(entries.filter(({ what }) => ENDS.includes(what)).map(({ step: id }) => id));
	const chosen = new Map(
		entries.flatMap((entry) => (entry.what === 'chosen' ? [[entry.step, entry.variant] as const] : []))
	);
	if (entries.some(({ what }) => what === 'abandoned'))
		return { step: null, begunAt: null, chosen, over: 'abandoned' };
	const next = procedure.steps.find(
		({ id, when }) => !ended.has(id) && (when === null || chosen.get(when.choice) === when.is)
	);
	if (!next) return { step: null, begunAt: null, chosen, over: 'done' };
	const last = entries.findLast((entry) => entry.step === next.id);
	return { step: next, begunAt: last?.what === 'begun' ? last.at : null, chosen, over: null };
}

/** What somebody, or the app, does at a run. */
export type RunAct =
	| { do: 'begin'; step: string }
	| { do: 'done'; step: string; note?: string }
	| { do: 'fail'; step: string; note: string }
	| { do: 'choose'; step: string; variant: string }
	| { do: 'pass'; step: string }
	| { do: 'overrule'; step: string; reason: string }
	| { do: 'abandon'; reason: string };

const refused = (code: string, says: string, remedy: string) =>
	new Problem(`procedure.${code}`, says, remedy);

/** What a gate asks for, by the variant that was chosen. */
function wantedBy({ procedure }: ProcedureRun, state: RunState, gate: ProcedureStep): string | null {
	if (gate.by !== 'gate' || gate.holds.is !== 'version' || !gate.holds.choice) return null;
	const choice = procedure.steps.find(({ id }) => id === (gate.holds as { choice?: string }).choice);
	if (choice?.by !== 'choice') return null;
	return choice.of.find(({ id }) => id === state.chosen.get(choice.id))?.version || null;
}

/** Why the gate whose turn it is does not hold; null where it does, or where it is no gate's turn. */
export function gateWhyNot(run: ProcedureRun, facts: GateFacts, now: string): string | null {
	const state = stateOf(run);
	if (state.step?.by !== 'gate') return null;
	return whyNot(state.step.holds, facts, now, wantedBy(run, state, state.step));
}

/**
 * A run after one act; the run that is given stays as it is.
 * @param facts what is known now: a gate is looked at when it is passed
 * @throws Problem `procedure.over`, `procedure.turn` where it is another step's turn, `procedure.kind` where such a step does not
 *   end so, `procedure.gate` where the gate does not hold, `procedure.reason`, `procedure.wait`
 */
export function actOn(run: ProcedureRun, act: RunAct, facts: GateFacts, now: string): ProcedureRun {
	const state = stateOf(run);
	if (!state.step) throw refused('over', 'This run is over.', 'Begin another one.');
	const add = (entry: RunEntry): ProcedureRun => ({ ...run, entries: [...run.entries, entry] });
	if (act.do === 'abandon')
		return add({ what: 'abandoned', step: state.step.id, at: now, reason: act.reason.trim() });
	if (act.step !== state.step.id)
		throw refused('turn', `It is the turn of “${state.step.title}”.`, 'Do one step after another.');
	const { step: due, begunAt } = state;
	const wrongKind = () =>
		refused('kind', `“${due.title}” does not end that way.`, 'Look at what the step asks for.');
	switch (act.do) {
		case 'begin':
			if (due.by !== 'app' && due.by !== 'wait') throw wrongKind();
			return add({ what: 'begun', step: due.id, at: now });
		case 'done':
			if (due.by === 'gate' || due.by === 'choice') throw wrongKind();
			if (due.by !== 'hand' && begunAt === null)
				throw refused('turn', `“${due.title}” was not begun.`, 'Begin it first.');
			if (due.by === 'wait') {
				const waited = secondsBetween(begunAt!, now);
				const left = due.seconds - waited;
				// A clock that was set back has waited for nothing.
				if (left > 0 || waited < 0)
					throw refused('wait', `${Math.ceil(left)} seconds are left.`, 'Wait, and touch nothing.');
			}
			return add({ what: 'done', step: due.id, at: now, note: act.note?.trim() ?? '' });
		case 'fail':
			if (due.by === 'gate' || due.by === 'choice') throw wrongKind();
			return add({ what: 'failed', step: due.id, at: now, note: act.note.trim() });
		case 'choose':
			if (due.by !== 'choice' || !due.of.some(({ id }) => id === act.variant)) throw wrongKind();
			return add({ what: 'chosen', step: due.id, at: now, variant: act.variant });
		case 'pass': {
			if (due.by !== 'gate') throw wrongKind();
			const why = gateWhyNot(run, facts, now);
			if (why) throw refused('gate', why, 'See to it, or write down why you go on without it.');
			return add({ what: 'held', step: due.id, at: now });
		}
		case 'overrule': {
			if (due.by !== 'gate') throw wrongKind();
			const why = gateWhyNot(run, facts, now);
			if (why === null) return add({ what: 'held', step: due.id, at: now });
			const reason = act.reason.trim();
			if (reason.length < LEAST_REASON)
				throw refused(
					'reason',
					`A reason has at least ${LEAST_REASON} characters: it stays on record.`,
					'Write why you go on.'
				);
			return add({ what: 'overruled', step: due.id, at: now, why, reason });
		}
	}
}
