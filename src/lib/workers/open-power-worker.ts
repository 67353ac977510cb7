export const openPowerWorker = (): Worker =>
	new Worker(new URL('./power.worker.ts', import.meta.url), { type: 'module' });
