import { existsSync, renameSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import {
	actOn,
	gateWhyNot,
	NO_FACTS,
	procedureRunSchema,
	procedureSchema,
	stateOf,
	type GateFacts,
	type ProcedureRun,
	type RunAct
} from '../lib/core/care';
import { Problem } from '../lib/core/problem';
import { jsonOf, readDocument } from '../lib/core/reading';
import { print, wrongUse, type Command } from './command';
import { documentOf, place } from './files';

/** The command line sees no device: what a gate asks of one does not hold, and is passed with a reason or not at all. */
const factsOf = (people: readonly string[]): GateFacts => ({ ...NO_FACTS, people });

/** A run, or a procedure that is begun. */
const runOf = (path: string): ProcedureRun =>
	documentOf(path, (text) => {
		const raw = jsonOf(text, 'procedure');
		if ((raw as { format?: unknown } | null)?.format === 'silent-drawer.procedure-run')
			return readDocument(procedureRunSchema, text, 'procedure-run');
		const { value, ignored } = readDocument(procedureSchema, text, 'procedure');
		return { value: procedureRunSchema.parse({ procedure: value }), ignored };
	});

const OPTIONS = {
	out: { type: 'string' },
	done: { type: 'string' },
	begin: { type: 'string' },
	fail: { type: 'string' },
	pass: { type: 'string' },
	choose: { type: 'string' },
	variant: { type: 'string' },
	overrule: { type: 'string' },
	reason: { type: 'string' },
	note: { type: 'string' },
	people: { type: 'string' }
} as const;

export const procedureCommands: Record<string, Command> = {
	procedure: {
		usage:
			'procedure check FILE | procedure run FILE --out RUN.json [--begin|--done|--fail|--pass|--choose|--overrule STEP] [--variant V] [--reason R] [--note N] [--people A,B]',
		says: 'whether a procedure is one; or one act of a run of it, which goes on where it was',
		async run(words) {
			const { values, positionals } = parseArgs({ args: words, options: OPTIONS, allowPositionals: true });
			const [what, path] = positionals;
			if (positionals.length !== 2 || (what !== 'check' && what !== 'run')) throw wrongUse(this);
			if (what === 'check') {
				const { title, steps } = runOf(path).procedure;
				print({ title, steps: steps.map(({ id, by, title: name }) => ({ id, by, title: name })) });
				return 0;
			}
			if (!values.out) throw wrongUse(this);
			const acts = (['begin', 'done', 'fail', 'pass', 'choose', 'overrule'] as const).filter(
				(each) => values[each]
			);
			if (acts.length > 1) throw wrongUse(this);
			// A run that is written there already goes on; nothing of its record is lost by being called again.
			const out = place(values.out);
			const asked = runOf(path);
			let run = existsSync(out) ? runOf(values.out) : asked;
			if (run.procedure.id !== asked.procedure.id)
				throw new Problem(
					'procedure.conflict',
					`“${values.out}” is a run of “${run.procedure.title}”.`,
					'Choose another file for this one.'
				);
			const now = new Date().toISOString();
			const facts = factsOf((values.people ?? '').split(',').map((name) => name.trim()));
			if (acts.length === 1) {
				const act = {
					do: acts[0],
					step: values[acts[0]],
					note: values.note ?? '',
					reason: values.reason ?? '',
					variant: values.variant ?? ''
				} as RunAct;
				run = actOn(run, act, facts, now);
			}
			// Whole or not at all: a run that is killed here goes on from what was written before.
			writeFileSync(`${out}.part`, `${JSON.stringify(run, null, '\t')}\n`);
			renameSync(`${out}.part`, out);
			const { step, begunAt, over } = stateOf(run);
			print({ step, begunAt, over, gate: gateWhyNot(run, facts, now) });
			return 0;
		}
	}
};
