import { z } from 'zod';
import { Problem } from '../../problem';
import { secondsBetween, whyNot, whyNotShown, type Chosen, type GateFacts } from './gate';
import { procedureSchema, variantOf, type ProcedureStep } from './procedure';

/** The fewest characters of a reason why a gate is passed that does not hold. */
export const LEAST_REASON = 12;

const at = z.string().min(10).max(40);
const step = z.string().min(1).max(60);
/** One line of a run's record; nothing is ever taken out of it. */
export const runEntrySchema = z.discriminatedUnion('what', [
	z.object({ what: z.literal('begun'), step, at }),
	/** Ended well; `note`: what was seen, or how the app's part ended; `ref`: the version that a backup made. */
	z.object({
		what: z.literal('done'),
		step,
		at,
		note: z.string().max(600).default(''),
		ref: z.string().max(60).default('')
	}),
	/** What should have been seen was not, or the app's part failed: the step is to be done again. */
	z.object({ what: z.literal('failed'), step, at, note: z.string().max(600) }),
	z.object({ what: z.literal('chosen'), step, at, variant: z.string().min(1).max(60) }),
	/** The file that is to be sent, as it was read. */
	z.object({
		what: z.literal('file'),
		step,
		at,
		name: z.string().max(200),
		sha256: z.string().regex(/^[0-9a-f]{64}$/),
		version: z.string().max(30).default(''),
		variant: z.string().max(60).default('')
	}),
	/** `note`: who looked. */
	z.object({ what: z.literal('held'), step, at, note: z.string().max(600).default('') }),
	/** Gone back to a step: it and all after it are to be done again. */
	z.object({ what: z.literal('back'), step, at }),
	/** That was a slip: the entry before it, a going back, does not count. */
	z.object({ what: z.literal('forth'), step, at }),
	/** A gate that did not hold, or a step of the app's that was not shown, was passed all the same: why not, and why one went on. */
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
	/** The file that was chosen. */
	file: Extract<RunEntry, { what: 'file' }> | null;
	/** Ids of the steps that have ended. */
	ended: ReadonlySet<string>;
	over: 'done' | 'abandoned' | null;
}

const ENDS: readonly RunEntry['what'][] = ['done', 'chosen', 'file', 'held', 'overruled'];

export function stateOf({ procedure, entries }: Pick<ProcedureRun, 'procedure' | 'entries'>): RunState {
	const ended = new Set<string>();
	const chosen = new Map<string, string>();
	let file: RunState['file'] = null;
	/** The last word on each step. */
	const last = new Map<string, RunEntry>();
	const slips = entries.flatMap(({ what }, i) => (what === 'forth' ? [i - 1, i] : []));
	for (const [i, entry] of entries.entries()) {
		if (slips.includes(i)) continue;
		last.set(entry.step, entry);
		if (ENDS.includes(entry.what)) ended.add(entry.step);
		if (entry.what === 'chosen') chosen.set(entry.step, entry.variant);
		if (entry.what === 'file') file = entry;
		if (entry.what !== 'back') continue;
		const from = procedure.steps.findIndex(({ id }) => id === entry.step);
		for (const { id } of procedure.steps.slice(from)) {
			ended.delete(id);
			chosen.delete(id);
			last.delete(id);
			if (file?.step === id) file = null;
		}
	}
	const common = { chosen, file, ended };
	if (entries.at(-1)?.what === 'abandoned')
		return { ...common, step: null, begunAt: null, over: 'abandoned' };
	const next = procedure.steps.find(
		({ id, when }) => !ended.has(id) && (when === null || chosen.get(when.choice) === when.is)
	);
	if (!next) return { ...common, step: null, begunAt: null, over: 'done' };
	const word = last.get(next.id);
	return { ...common, step: next, begunAt: word?.what === 'begun' ? word.at : null, over: null };
}

const text = z.string().max(600);
/** What somebody, or the app, does at a run. */
export const runActSchema = z.discriminatedUnion('do', [
	z.object({ do: z.literal('begin'), step }),
	z.object({
		do: z.literal('done'),
		step,
		note: text.optional(),
		/** Which followers of the clock were seen to follow. */
		confirmed: z.array(z.string().max(120)).max(500).optional()
	}),
	z.object({ do: z.literal('fail'), step, note: text }),
	z.object({ do: z.literal('choose'), step, variant: z.string().min(1).max(60) }),
	z.object({
		do: z.literal('file'),
		step,
		name: z.string().max(200),
		sha256: z.string().regex(/^[0-9a-f]{64}$/),
		version: z.string().max(30).optional(),
		variant: z.string().max(60).optional()
	}),
	z.object({ do: z.literal('pass'), step }),
	/** Back to a step that has ended, or was begun. */
	z.object({ do: z.literal('back'), step }),
	/** Takes the going back back that was the last thing done. */
	z.object({ do: z.literal('forth') }),
	z.object({ do: z.literal('overrule'), step, reason: text }),
	z.object({ do: z.literal('abandon'), reason: text })
]);
export type RunAct = z.infer<typeof runActSchema>;

const refused = (code: string, says: string, remedy: string) =>
	new Problem(`procedure.${code}`, says, remedy);

/** The version that the run's last backup made; null where it made none. */
export const backupOf = ({ entries }: Pick<ProcedureRun, 'entries'>): string | null =>
	entries.flatMap((entry) => (entry.what === 'done' && entry.ref !== '' ? [entry.ref] : [])).at(-1) ?? null;

/** Who looked, where a gate asks for that. */
const peopleOf = (gate: ProcedureStep, { people }: GateFacts): string =>
	gate.by === 'gate' && gate.holds.is === 'people'
		? people
				.map((name) => name.trim())
				.filter(Boolean)
				.join(', ')
		: '';

/** What the run has chosen that a gate asks about. */
function chosenFor({ procedure }: ProcedureRun, state: RunState, gate: ProcedureStep): Chosen {
	const nothing: Chosen = { version: null, variant: null, fileVariant: null };
	if (gate.by !== 'gate') return nothing;
	const { holds } = gate;
	if (holds.is === 'version' && holds.file) return { ...nothing, version: state.file?.version || null };
	if ((holds.is !== 'version' && holds.is !== 'variant') || !holds.choice) return nothing;
	const { choice } = holds;
	const variant = variantOf(procedure, choice, state.chosen.get(choice));
	const of = state.file?.variant;
	const fileVariant = of ? (variantOf(procedure, choice, of)?.title ?? of) : null;
	return { version: variant?.version || null, variant: variant?.title ?? null, fileVariant };
}

/** Why the gate whose turn it is does not hold; null where it does, or where it is no gate's turn. */
export function gateWhyNot(run: ProcedureRun, facts: GateFacts, now: string): string | null {
	const state = stateOf(run);
	if (state.step?.by !== 'gate') return null;
	return whyNot(state.step.holds, facts, now, chosenFor(run, state, state.step));
}

/**
 * A run after one act; the run that is given stays as it is.
 * @param facts what is known now: a gate is looked at when it is passed; an act's `ref`: the version that its backup made
 * @throws Problem `procedure.over`, `procedure.turn` where it is another step's turn, `procedure.kind` where such a step does not
 *   end so, `procedure.gate` where the gate does not hold, `procedure.not-shown` where the app's part is not shown to be done,
 *   `procedure.reason`, `procedure.wait`
 */
export function actOn(
	run: ProcedureRun,
	act: RunAct & { ref?: string },
	facts: GateFacts,
	now: string
): ProcedureRun {
	const state = stateOf(run);
	if (!state.step) throw refused('over', 'This run is over.', 'Begin another one.');
	const add = (entry: RunEntry): ProcedureRun => ({ ...run, entries: [...run.entries, entry] });
	if (act.do === 'abandon')
		return add({ what: 'abandoned', step: state.step.id, at: now, reason: act.reason.trim() });
	if (act.do === 'forth') {
		if (run.entries.at(-1)?.what !== 'back')
			throw refused('turn', 'Going back was not the last thing that was done.', 'Go on from where it is.');
		return add({ what: 'forth', step: run.entries.at(-1)!.step, at: now });
	}
	if (act.do === 'back') {
		if (!state.ended.has(act.step) && act.step !== state.step.id)
			throw refused('turn', 'That step has not had its turn yet.', 'Go back to one that has.');
		return add({ what: 'back', step: act.step, at: now });
	}
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
			if (due.by === 'gate' || due.by === 'choice' || due.by === 'file') throw wrongKind();
			if (due.by !== 'hand' && begunAt === null)
				throw refused('turn', `“${due.title}” was not begun.`, 'Begin it first.');
			if (due.by === 'wait') {
				const waited = secondsBetween(begunAt!, now);
				const left = due.seconds - waited;
				// A clock that was set back has waited for nothing.
				if (left > 0 || waited < 0)
					throw refused('wait', `${Math.ceil(left)} seconds are left.`, 'Wait, and touch nothing.');
			}
			if (due.by === 'app') {
				const why = whyNotShown(due.act, facts, begunAt!, act.confirmed ?? [], backupOf(run));
				if (why) throw refused('not-shown', why, 'Do it, or write down why you go on without it.');
			}
			return add({ what: 'done', step: due.id, at: now, note: act.note?.trim() ?? '', ref: act.ref ?? '' });
		case 'fail':
			if (due.by === 'gate' || due.by === 'choice' || due.by === 'file') throw wrongKind();
			return add({ what: 'failed', step: due.id, at: now, note: act.note.trim() });
		case 'choose':
			if (due.by !== 'choice' || !due.of.some(({ id }) => id === act.variant)) throw wrongKind();
			return add({ what: 'chosen', step: due.id, at: now, variant: act.variant });
		case 'file': {
			if (due.by !== 'file') throw wrongKind();
			const { name, sha256, version = '', variant = '' } = act;
			return add({ what: 'file', step: due.id, at: now, name, sha256, version, variant });
		}
		case 'pass': {
			if (due.by !== 'gate') throw wrongKind();
			const why = gateWhyNot(run, facts, now);
			if (why) throw refused('gate', why, 'See to it, or write down why you go on without it.');
			return add({ what: 'held', step: due.id, at: now, note: peopleOf(due, facts) });
		}
		case 'overrule': {
			if (due.by !== 'gate' && due.by !== 'app') throw wrongKind();
			const why = due.by === 'app' ? 'The app has not seen it done.' : gateWhyNot(run, facts, now);
			if (why === null) return add({ what: 'held', step: due.id, at: now, note: peopleOf(due, facts) });
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

/** Whether a step is one of those of the variants that were chosen so far, or may still be. */
export const isOpenTo = ({ when }: ProcedureStep, chosen: Readonly<Record<string, string>>): boolean =>
	when === null || chosen[when.choice] === undefined || chosen[when.choice] === when.is;
