/** One transfer of many: jobs that share a lane run one after another, others side by side. */
export interface Job {
	id: string;
	/** The ports that it needs, out and in; equal names share one. */
	lanes: readonly string[];
	/** Somebody must press a key on the device: of these one at a time, in the order given. */
	hands: boolean;
	/** Expected, in ms. */
	expectedMs: number;
}

/**
 * Runs jobs: ports in parallel, jobs on one port one after another, those that need hands one at a time over all
 * ports and in their order. Where a port has a choice it takes the longest job first among those without hands.
 * `begin` starts a job and calls back when it is over; `ended` is called when all are.
 * @returns a function that lets no further job begin
 */
export function runLanes<J extends Job>(
	jobs: readonly J[],
	begin: (job: J, over: () => void) => void,
	ended: () => void
): () => void {
	const waiting = [...jobs];
	const busy = new Set<string>();
	const isFree = ({ lanes }: J) => lanes.every((lane) => !busy.has(lane));
	let handsBusy = false;
	let running = 0;
	let stopped = false;
	let done = false;

	/** The next job of a free lane, or none. */
	function next(): J | null {
		if (!handsBusy) {
			const first = waiting.find(({ hands }) => hands);
			if (first && isFree(first)) return first;
		}
		let best: J | null = null;
		for (const job of waiting)
			if (!job.hands && isFree(job) && (!best || job.expectedMs > best.expectedMs)) best = job;
		return best;
	}

	function fill(): void {
		while (!stopped) {
			const job = next();
			if (!job) break;
			waiting.splice(waiting.indexOf(job), 1);
			for (const lane of job.lanes) busy.add(lane);
			if (job.hands) handsBusy = true;
			running++;
			let over = false;
			begin(job, () => {
				if (over) return;
				over = true;
				for (const lane of job.lanes) busy.delete(lane);
				if (job.hands) handsBusy = false;
				running--;
				fill();
			});
		}
		if (running === 0 && !done && (stopped || waiting.length === 0)) {
			done = true;
			ended();
		}
	}

	fill();
	return () => {
		stopped = true;
		if (running === 0 && !done) {
			done = true;
			ended();
		}
	};
}

/** When everything is done if each job takes what is expected, in ms: the same rules, played through. */
export function lanesMs(jobs: readonly Job[]): number {
	let now = 0;
	const due: { at: number; over: () => void }[] = [];
	let finished = jobs.length === 0;
	runLanes(
		jobs,
		(job, over) => void due.push({ at: now + job.expectedMs, over }),
		() => (finished = true)
	);
	while (!finished && due.length > 0) {
		due.sort((a, b) => a.at - b.at);
		const { at, over } = due.shift()!;
		now = at;
		over();
	}
	return now;
}
