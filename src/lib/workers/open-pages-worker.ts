export const openPagesWorker = (): Worker =>
	new Worker(new URL('./pages.worker.ts', import.meta.url), { type: 'module' });
