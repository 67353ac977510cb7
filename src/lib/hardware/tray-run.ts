import type { Checked } from '../core/contact';
import { linesOf, type Candidate } from '../core/rig';
import { problemOf } from '../core/problem';
import { runLanes, walkOrder, type Job, type TransferReport } from '../core/transfer';
import { call } from './api';
import { desk } from './desk.svelte';
import { planStudio } from './plan-studio';
import { tabId } from './tab';
import type { TrayRow } from './tray-row';

/** As much of the tray as it takes to carry its rows out. */
export interface RunningTray {
	readonly rows: readonly TrayRow[];
	/** Where the musician stands: the walk begins there. */
	readonly here: string;
	snapshotTitle: string;
	/** The snapshot that a backup of several devices made. */
	snapshotId: string | null;
	checkOf(row: TrayRow): { checked: Checked | null } | null;
	change(key: string, values: Partial<TrayRow>): void;
	/** How a report ends a row, in one line. */
	wordsOf(name: string, report: TransferReport): { says: string; good: boolean };
}

interface RowJob extends Job {
	row: TrayRow;
}

function jobOf(tray: RunningTray, row: TrayRow): RowJob {
	const { line, expectedMs, check } = tray.checkOf(row)!.checked!;
	const lanes =
		desk.world === 'bench' ? [`unit ${line.unit?.id}`] : linesOf(line.way ?? { out: null, in: null });
	return {
		row,
		id: row.key,
		// Restores go one after another: whoever stops them knows what was touched.
		lanes: row.direction === 'restore' ? [...lanes, 'restores'] : lanes,
		hands: check?.byHand ?? row.direction === 'capture',
		expectedMs
	};
}

/** Begins the snapshot that a backup of several devices makes; what is not in it is named with the reason. */
async function beginSnapshot(tray: RunningTray, captures: readonly TrayRow[]): Promise<string> {
	const { candidates, places } = await call<{ candidates: Candidate[]; places: string[] }>(
		'GET',
		`/snapshots/candidates?world=${desk.world}`
	);
	const chosen = new Set(captures.map(({ deviceId }) => deviceId));
	const whole = planStudio(candidates, places, desk.world, tray.here);
	const plan = planStudio(
		candidates.filter(({ device }) => chosen.has(device.id)),
		places,
		desk.world,
		tray.here
	);
	const { id } = await call<{ id: string }>('POST', '/snapshots', {
		title: tray.snapshotTitle.trim(),
		note: '',
		world: desk.world,
		predictedMs: plan.predictedMs,
		devices: captures.map(({ deviceId }) => ({
			id: deviceId,
			predictedMs: plan.jobs.find((job) => job.id === deviceId)?.expectedMs ?? 0
		})),
		left: [
			...whole.left.map(({ id: device, why }) => ({ id: device, why })),
			...whole.jobs.map(({ id: device }) => ({ id: device, why: 'It was not chosen.' }))
		].filter(({ id: device }) => !chosen.has(device))
	});
	return id;
}

async function runRow(
	tray: RunningTray,
	row: TrayRow,
	snapshotId: string | null,
	stopping: AbortSignal
): Promise<void> {
	const { source, scope, version, wireMs, direction, check } = tray.checkOf(row)!.checked!;
	const asked = new URLSearchParams(row.ask);
	try {
		const { transferId, ended } = await desk.begin({
			direction,
			deviceId: row.deviceId,
			scope,
			kind: direction === 'restore' ? 'after restore' : row.reason,
			title: row.title.trim(),
			versionId: version?.id ?? null,
			source,
			snapshotId: direction === 'capture' ? (snapshotId ?? asked.get('snapshot')) : null,
			predictedMs: wireMs,
			twice: row.twice,
			resume: asked.get('resume'),
			paceFactor: row.pace
		});
		tray.change(row.key, { state: 'running', transferId });
		// Stopped while it was being opened: nothing knew its number then.
		if (stopping.aborted) desk.cancel(transferId);
		const { ended: report } = await ended;
		tray.change(row.key, {
			state: 'over',
			...(report ? tray.wordsOf(row.name, report) : {}),
			// What was only looked at, and not written to, may stay as it is.
			owes:
				report && report.touched.length > 0
					? (check?.checks ?? []).flatMap(({ id, after }) => (after ? [id] : []))
					: []
		});
	} catch (error) {
		const { message, remedy } = problemOf(error);
		tray.change(row.key, { state: 'over', says: `${row.name}: ${message} ${remedy}`, good: false });
	}
}

/**
 * Carries rows of the tray out, in walking order, and ends when all are over. After `stopping` nothing more begins; what
 * runs is called off by whoever stops it.
 * @throws Problem where the snapshot of a backup of several devices cannot be begun (then nothing was) or ended
 */
export async function runRows(
	tray: RunningTray,
	chosen: readonly TrayRow[],
	stopping: AbortSignal
): Promise<void> {
	const rows = walkOrder(
		chosen.map((row) => ({ ...row, id: row.key })),
		[...new Set(chosen.map(({ place }) => place))].sort(),
		tray.here
	);
	const began = performance.now();
	const captures = rows.filter(({ direction }) => direction === 'capture');
	const snapshot = captures.length > 1 ? await beginSnapshot(tray, captures) : null;
	for (const { key } of rows) tray.change(key, { state: 'waiting', owner: tabId, says: '' });
	if (!stopping.aborted)
		await new Promise<void>((ended) => {
			const stop = runLanes(
				rows.map((row) => jobOf(tray, row)),
				(job, over) => void runRow(tray, job.row, snapshot, stopping).finally(over),
				ended
			);
			stopping.addEventListener('abort', stop, { once: true });
		});
	for (const { key, name } of rows)
		if (tray.rows.find((row) => row.key === key)?.state === 'waiting')
			tray.change(key, { state: 'over', says: `${name} was not begun: nothing of it was touched.` });
	if (snapshot === null) return;
	tray.snapshotId = snapshot;
	tray.snapshotTitle = '';
	await call('POST', `/snapshots/${snapshot}/end`, { tookMs: (performance.now() - began) * desk.factor });
}
