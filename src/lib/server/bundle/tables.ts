import { editsInto, inverseEdits } from '../../core/edit';
import { insertRow, readRows, replaceRow, rowKey, type RowTable } from '../store/rows';
import { addStep } from '../store/steps';
import type { Holding, Making, Taking } from './holding';

/** How rows of one key that differ come together. */
type Rule<Row> =
	/** What is here stays. */
	| { by: 'here' }
	/** The later one counts; of two of one moment the one whose text is the greater, wherever that is asked. */
	| { by: 'later'; at(row: Row): string | number }
	/** Somebody chooses. */
	| {
			by: 'choice';
			/** What it is called. */
			what(row: Row): string;
			/** What it holds, in a few words. */
			says(row: Row): string;
			at(row: Row): string | null;
			/** Whose steps taking it is one of, so that it can be undone; what changed is its `document`. */
			owner?(row: Row): string;
	  };

interface Parts<Row> {
	name: string;
	title: string;
	rule: Rule<Row>;
	/** What of a row counts; all of it where that is left out. */
	content?(row: Row): unknown;
	/** A row as it can be here; null where what it belongs to is not. */
	fit?(row: Row, taking: Taking): Row | null;
}

/** Every row of a table, as a file of a bundle. */
export function tableHolding<Row extends object>(
	of: RowTable<Row>,
	{ name, title, rule, content = (row) => row, fit = (row) => row }: Parts<Row>
): Holding<Row> {
	const text = (row: Row) => JSON.stringify(content(row));

	/** Whether the bundle's row takes the place of the one here. */
	function wins(taking: Taking, here: Row, there: Row): boolean {
		if (rule.by === 'here') return false;
		if (rule.by === 'choice')
			return taking.takes(
				{
					what: rule.what(here),
					here: rule.says(here),
					there: rule.says(there),
					hereAt: rule.at(here),
					thereAt: rule.at(there)
				},
				{ here: content(here), there: content(there) }
			);
		const [mine, theirs] = [rule.at(here), rule.at(there)];
		return theirs === mine ? text(there) > text(here) : theirs > mine;
	}

	async function replace({ studio, transaction }: Taking, here: Row, there: Row): Promise<void> {
		// Whoever has what was here before their eyes is told that it changed.
		const revised =
			rule.by === 'choice' && 'revision' in here
				? { ...there, revision: (here.revision as number) + 1 }
				: there;
		await replaceRow(studio, of, revised, transaction);
		if (rule.by !== 'choice' || !rule.owner) return;
		const [before, after] = [here, there].map((row) => (row as { document?: object }).document ?? {});
		const edits = editsInto(before, after);
		await addStep(
			studio,
			{
				owner: rule.owner(here),
				at: studio.now().toISOString(),
				says: 'Taken from a bundle',
				edits,
				undo: inverseEdits(before, edits)
			},
			transaction
		);
	}

	return {
		name,
		title,
		tables: [of.table],
		schema: of.schema,
		rows: (making) => wholeRows(making, title, of),
		async take(taking, rows) {
			const { studio, transaction } = taking;
			const here = new Map(
				(await readRows(studio, of, transaction)).rows.map((row) => [rowKey(of, row), row])
			);
			let taken = 0;
			for (const row of rows) {
				const there = fit(row, taking);
				if (!there) continue;
				const mine = here.get(rowKey(of, there));
				if (!mine) taken += Number(await insertRow(studio, of, there, transaction));
				else if (text(mine) !== text(there) && wins(taking, mine, there)) {
					await replace(taking, mine, there);
					taken++;
				}
			}
			return taken;
		}
	};
}

/** The rows that can be read; the others are named. */
export async function wholeRows<Row extends object>(
	{ studio, left }: Making,
	title: string,
	of: RowTable<Row>
): Promise<Row[]> {
	const { rows, torn } = await readRows(studio, of);
	for (const key of torn) left(title, `“${key}” is not whole.`);
	return rows;
}
