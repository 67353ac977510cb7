/** How long work may keep other requests waiting before they are let in, in milliseconds. */
const TURN_MS = 10;

/** Lets other requests in. */
export const letOthersIn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Carries out work that pauses now and then; other requests are answered in between. */
export async function inSteps<T>(work: Iterator<void, T>): Promise<T> {
	let since = performance.now();
	for (;;) {
		const step = work.next();
		if (step.done) return step.value;
		if (performance.now() - since < TURN_MS) continue;
		await letOthersIn();
		since = performance.now();
	}
}
