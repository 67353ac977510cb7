import { Problem } from '../core/problem';

interface Holder {
	doing: string;
	since: number;
}

const lockName = (port: string) => `silent-drawer port ${port}`;
const noteName = (port: string) => `silent-drawer.port ${port}`;

/** Who holds a port, as they wrote it down. */
function holderOf(port: string): Holder | null {
	try {
		return JSON.parse(localStorage.getItem(noteName(port)) ?? 'null') as Holder | null;
	} catch {
		return null;
	}
}

/**
 * Takes ports for this tab, all or none (Web Locks: they are free again when the tab goes away, however it goes).
 * @param doing what for, told to the tab that comes second
 * @returns a function that gives them back
 * @throws Problem `port.elsewhere`, with what they are used for and since when
 */
export async function holdPorts(ports: readonly string[], doing: string): Promise<() => void> {
	const releases: (() => void)[] = [];
	const release = () => releases.splice(0).forEach((give) => give());
	for (const port of [...new Set(ports)].sort()) {
		const give = await new Promise<(() => void) | null>((resolve) => {
			void navigator.locks.request(lockName(port), { ifAvailable: true }, (lock) => {
				if (!lock) return void resolve(null);
				return new Promise<void>((end) => {
					localStorage.setItem(noteName(port), JSON.stringify({ doing, since: Date.now() } satisfies Holder));
					resolve(() => {
						localStorage.removeItem(noteName(port));
						end();
					});
				});
			});
		});
		if (give) {
			releases.push(give);
			continue;
		}
		release();
		const holder = holderOf(port);
		const since = holder
			? new Date(holder.since).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
			: '';
		throw new Problem(
			'port.elsewhere',
			holder
				? `“${port}” is in use: ${holder.doing}, since ${since}.`
				: `“${port}” is in use in another tab.`,
			'Wait for its end, or cancel it there.'
		);
	}
	return release;
}
