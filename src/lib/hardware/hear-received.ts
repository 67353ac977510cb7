import { untrack } from 'svelte';
import { desk } from './desk.svelte';
import { midiDesk } from './midi-desk.svelte';
import { traffic } from './traffic.svelte';

/**
 * Hears what comes in on the ports of this tab: of the bench, or of the computer where that is the world. An effect that hears
 * begins anew in another world, and for nothing else.
 * @returns what ends it
 */
export function hearReceived(heard: (bytes: Uint8Array, port: string) => void): () => void {
	const real = desk.world === 'hardware';
	return untrack(() => {
		const deaf = real ? midiDesk.hearAll() : null;
		const unwatch = traffic.watch(({ way, bytes, port }) => {
			if (way === 'received') heard(bytes, port);
		});
		return () => {
			unwatch();
			deaf?.();
		};
	});
}
