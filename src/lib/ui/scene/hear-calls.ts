import { sceneCalled, type SceneCalls } from '../../core/scene';
import { hearReceived } from '../../hardware/hear-received';

/** Hears program changes that call scenes, on the ports of this tab. @returns what ends it */
export const hearCalls = (calls: SceneCalls, called: (scene: number) => void): (() => void) =>
	hearReceived((bytes) => {
		const scene = sceneCalled(bytes, calls);
		if (scene !== null) called(scene);
	});
