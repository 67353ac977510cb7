/** Keeps time for a page that nobody looks at: a worker's timers are not held back. */
const due = new Map<number, ReturnType<typeof setTimeout>>();

onmessage = ({ data: { id, ms } }: MessageEvent<{ id: number; ms: number | null }>) => {
	clearTimeout(due.get(id));
	due.delete(id);
	if (ms === null) return;
	due.set(
		id,
		setTimeout(() => {
			due.delete(id);
			postMessage(id);
		}, ms)
	);
};
