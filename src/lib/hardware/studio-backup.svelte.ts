import { planBackup, runLanes, type BackupJob, type BackupPlan } from '../core/transfer';
import { Problem } from '../core/problem';
import { call } from './api';
import type { LiveWorld } from '../core/drawer';
import { linesOf, type Candidate } from '../core/rig';
import { desk } from './desk.svelte';
import { midiDesk } from './midi-desk.svelte';
import type { SessionState } from './session-state';

export interface JobState {
	job: BackupJob;
	state: 'waiting' | 'running' | 'kept' | 'failed' | 'cancelled';
	says: string;
	transferId: string | null;
	startedAt: number | null;
	tookMs: number | null;
}

/** Plans a backup of everything that can be backed up in this world. */
export function planStudio(
	candidates: readonly Candidate[],
	places: readonly string[],
	world: LiveWorld,
	here: string
): BackupPlan {
	return planBackup(
		candidates.map(({ device, profile, in: back, out, past, torn }) => ({
			id: device.id,
			name: device.name,
			place: device.place,
			profile,
			past,
			torn,
			ports:
				world === 'bench'
					? device.benchUnit !== null
						? [back?.name ?? `Bench, ${device.name}`]
						: null
					: out && back && midiDesk.knows(back.port, 'in') && midiDesk.knows(out.port, 'out')
						? linesOf({ out, in: back })
						: null
		})),
		places,
		here
	);
}

/** The backup of a whole studio while it runs: ports side by side, a failure stops nothing else. */
class StudioBackup {
	snapshotId = $state<string | null>(null);
	jobs = $state.raw<JobState[]>([]);
	running = $state(false);
	/** Expected and measured, in ms of the real clock. */
	predictedMs = $state(0);
	/** How much faster than the wire this world runs. */
	factor = $state(1);
	startedAt = $state(0);
	tookMs = $state<number | null>(null);
	problem = $state.raw<Problem | null>(null);
	#stop: (() => void) | null = null;

	#set(id: string, change: Partial<JobState>): void {
		this.jobs = this.jobs.map((entry) => (entry.job.id === id ? { ...entry, ...change } : entry));
	}

	/** Begins a new snapshot with these jobs, or goes on with what failed in one. */
	async start(
		plan: BackupPlan,
		order: { title: string; note: string; snapshotId?: string }
	): Promise<string> {
		if (this.running)
			throw new Problem(
				'studio.busy',
				'A backup of the studio is running.',
				'Wait for its end, or cancel it.'
			);
		const factor = desk.world === 'bench' ? desk.speed : 1;
		const snapshotId =
			order.snapshotId ??
			(
				await call<{ id: string }>('POST', '/snapshots', {
					title: order.title,
					note: order.note,
					world: desk.world,
					predictedMs: plan.predictedMs,
					devices: plan.jobs.map(({ id, expectedMs }) => ({ id, predictedMs: expectedMs })),
					left: plan.left.map(({ id, why }) => ({ id, why }))
				})
			).id;
		this.snapshotId = snapshotId;
		this.problem = null;
		this.factor = factor;
		this.predictedMs = plan.predictedMs / factor;
		this.startedAt = performance.now();
		this.tookMs = null;
		this.jobs = plan.jobs.map((job) => ({
			job,
			state: 'waiting',
			says: '',
			transferId: null,
			startedAt: null,
			tookMs: null
		}));
		this.running = true;
		this.#stop = runLanes(
			plan.jobs,
			(job, over) => void this.#run(job, snapshotId).finally(over),
			() => void this.#end(snapshotId)
		);
		return snapshotId;
	}

	async #run(job: BackupJob, snapshotId: string): Promise<void> {
		const startedAt = performance.now();
		this.#set(job.id, { state: 'running', startedAt });
		try {
			const { transferId, ended } = await desk.begin({
				direction: 'capture',
				deviceId: job.id,
				scope: { kind: 'all' },
				kind: 'routine',
				title: '',
				versionId: null,
				resume: null,
				paceFactor: 1,
				snapshotId,
				predictedMs: job.wireMs
			});
			this.#set(job.id, { transferId });
			const { ended: report } = await ended;
			const kept = report?.status === 'complete';
			this.#set(job.id, {
				state: kept ? 'kept' : report?.reason?.code === 'cancelled' ? 'cancelled' : 'failed',
				says: kept ? '' : `${report?.reason?.says ?? ''} ${report?.reason?.remedy ?? ''}`.trim(),
				tookMs: performance.now() - startedAt
			});
		} catch (error) {
			const says =
				error instanceof Problem
					? `${error.message} ${error.remedy}`
					: error instanceof Error
						? error.message
						: String(error);
			this.#set(job.id, { state: 'failed', says, tookMs: performance.now() - startedAt });
		}
	}

	async #end(snapshotId: string): Promise<void> {
		this.tookMs = performance.now() - this.startedAt;
		for (const { job, state } of this.jobs)
			if (state === 'waiting') this.#set(job.id, { state: 'cancelled', says: 'It was not begun.' });
		const factor = desk.world === 'bench' ? desk.speed : 1;
		try {
			await call('POST', `/snapshots/${snapshotId}/end`, { tookMs: this.tookMs * factor });
		} catch (error) {
			this.problem =
				error instanceof Problem ? error : new Problem('unforeseen', String(error), 'Reload the page.');
		}
		this.running = false;
	}

	/** Begins nothing further and calls off what runs; what came stays. */
	cancel(): void {
		this.#stop?.();
		for (const { state, transferId } of this.jobs)
			if (state === 'running' && transferId) desk.cancel(transferId);
	}

	progressOf(id: string): SessionState | null {
		return desk.runs.find(({ deviceId }) => deviceId === id) ?? null;
	}
}

export const studioBackup = new StudioBackup();
