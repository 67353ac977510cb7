import { sceneCalled, type SceneCalls } from '../../core/scene';
import { desk } from '../../hardware/desk.svelte';
import { midiDesk } from '../../hardware/midi-desk.svelte';
import { traffic } from '../../hardware/traffic.svelte';

/** Hears program changes that call scenes, on the ports of this tab. @returns what ends it */
export function hearCalls(calls: SceneCalls, called: (scene: number) => void): () => void {
	const deaf = desk.world === 'hardware' ? midiDesk.hearAll() : () => undefined;
	const unwatch = traffic.watch(({ way, bytes }) => {
		const scene = way === 'received' ? sceneCalled(bytes, calls) : null;
		if (scene !== null) called(scene);
	});
	return () => {
		unwatch();
		deaf();
	};
}
