/** Sets a timer; the answer takes it back. */
type After = (ms: number, action: () => void) => () => void;

const own: After = (ms, action) => {
	const timer = setTimeout(action, ms);
	return () => clearTimeout(timer);
};

/** Timers of a worker of their own. */
function workerTimers(): After {
	const worker = new Worker(new URL('./steady.worker.ts', import.meta.url), {
		type: 'module',
		name: 'steady time'
	});
	const actions = new Map<number, () => void>();
	let last = 0;
	worker.onmessage = ({ data }: MessageEvent<number>) => {
		const action = actions.get(data);
		actions.delete(data);
		action?.();
	};
	return (ms, action) => {
		const id = ++last;
		actions.set(id, action);
		worker.postMessage({ id, ms });
		return () => {
			if (actions.delete(id)) worker.postMessage({ id, ms: null });
		};
	};
}

let far: After | null = null;

/**
 * Calls `action` once, `ms` from now, also in a tab that nobody looks at: browsers hold a hidden page's own timers back
 * to one a second, later to one a minute, but not a worker's. Whichever comes first counts.
 */
export const steadyAfter: After = (ms, action) => {
	if (typeof document === 'undefined' || typeof Worker === 'undefined') return own(ms, action);
	far ??= workerTimers();
	let done = false;
	const once = () => {
		if (done) return;
		done = true;
		stop();
		action();
	};
	const stops = [own(ms, once), far(ms, once)];
	const stop = () => stops.forEach((cancel) => cancel());
	return () => {
		done = true;
		stop();
	};
};

/** Calls `action` every `ms`, until the answer is called. */
export function steadyInterval(action: () => void, ms: number): () => void {
	let stop = () => undefined as void;
	const next = () => {
		stop = steadyAfter(ms, () => {
			next();
			action();
		});
	};
	next();
	return () => stop();
}
