import { applyEdits, modify } from 'jsonc-parser';
import type { ProfileReport } from '../../core/profile';

const formattingOptions = { insertSpaces: false, tabSize: 1, eol: '\n' };

/** The text of a profile with a report more, the newest last; all else stays as it is written. */
export function withReport(text: string, report: ProfileReport): string {
	const set = (path: (string | number)[], value: unknown, now: string, isArrayInsertion = false) =>
		applyEdits(now, modify(now, path, value, { formattingOptions, isArrayInsertion }));
	const { tried = [], version } = JSON.parse(text) as { tried?: unknown[]; version: number };
	// Reports are words of version 2.
	const second = version === 1 ? set(['version'], 2, text) : text;
	return tried.length === 0
		? set(['tried'], [report], second)
		: set(
				['tried', tried.length],
				report,
				tried.length < 50 ? second : set(['tried', 0], undefined, second),
				true
			);
}
