import { Problem } from '../core/problem';
import { isTorn, tornFile } from './db/damage';

/** What the machine itself refuses, as a problem; other errors are nobody’s plan and stay as they are. */
export function machineProblem(thrown: unknown): unknown {
	const text = thrown instanceof Error ? thrown.message : '';
	if (isTorn(thrown)) return thrown instanceof Problem ? thrown : tornFile(text);
	if (/SQLITE_FULL|ENOSPC/.test(text))
		return new Problem(
			'disk.full',
			'The disk is full, so nothing more can be stored.',
			'Make room and try again. What was confirmed before is safe.'
		);
	// Of a quota, and of a full disk in some of its files, SQLite says no more than that something failed.
	if (/SQLITE_IOERR|EDQUOT|EFBIG|\bEIO\b|Unknown system error/.test(text))
		return new Problem(
			'disk.failed',
			'The disk did not do what was asked of it: it is full, a quota is used up, or it fails.',
			'Make room and try again. If there is room, make a copy of the studio on another disk before anything else.'
		);
	if (/SQLITE_READONLY|SQLITE_CANTOPEN|EACCES|EPERM|EROFS/.test(text))
		return new Problem(
			'disk.refused',
			/SQLITE_/.test(text)
				? 'The studio’s file cannot be written.'
				: 'A file that belongs to the studio cannot be opened or written.',
			'Check that its folder exists and belongs to you. What was confirmed before is safe.'
		);
	return thrown;
}
