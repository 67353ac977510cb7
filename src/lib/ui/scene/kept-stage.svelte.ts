import { browser, dev } from '$app/environment';

/** The page that a set is run from is kept by this browser, so that it opens again without a network. */
export class KeptStage {
	/** `cannot`: this browser keeps nothing at this address, or could not get all of it. */
	state = $state<'asking' | 'kept' | 'cannot'>('asking');

	/** Has it kept as it is now. @param profiles that say how instruments are asked what they play */
	async keep(profiles: readonly string[]): Promise<void> {
		try {
			const registration = await navigator.serviceWorker.register('/service-worker.js', {
				scope: '/control/set/run',
				type: dev ? 'module' : 'classic'
			});
			const loaded = performance.getEntriesByType('resource').map(({ name }) => name);
			const asks = ['/api/v1/midi/ports', ...profiles.map((id) => `/api/v1/profiles/${id}`)];
			const done = await asked(await activated(registration), [...loaded, ...asks]);
			this.state = done ? 'kept' : 'cannot';
		} catch {
			// No secure address, or private browsing: said where the state is shown.
			this.state = 'cannot';
		}
	}
}

/** Since when the page is kept that is shown for want of a server, ISO 8601, empty where nobody knows; null where the server sent it. */
export const keptSince = (): string | null =>
	browser ? (document.documentElement.dataset.kept ?? null) : null;

/** What is opened from here on, the server sends. */
export const forgetKept = (): void => {
	delete document.documentElement.dataset.kept;
};

async function activated({ active, installing, waiting }: ServiceWorkerRegistration): Promise<ServiceWorker> {
	const worker = installing ?? waiting ?? active;
	if (!worker) throw new Error('No worker was registered.');
	while (worker.state !== 'activated') {
		if (worker.state === 'redundant') throw new Error('Another worker took its place.');
		await new Promise((resolve) => worker.addEventListener('statechange', resolve, { once: true }));
	}
	return worker;
}

const asked = (worker: ServiceWorker, loaded: readonly string[]): Promise<boolean> =>
	new Promise((resolve) => {
		const { port1, port2 } = new MessageChannel();
		port1.onmessage = ({ data }) => resolve(data === true);
		worker.postMessage(loaded, [port2]);
	});
