import type { StoredLine } from '../core/contact';
import { sendScene, type PlayingQuestion, type SceneSent, type Step } from '../core/scene/send-scene';
import { linesOf } from '../core/rig';
import { carryOut } from './carry-out';
import { desk } from './desk.svelte';
import { inTurn } from './in-turn';
import { overLine } from './over-line';
import { pluggedIn } from './plugged-in';
import { realClock } from './real-clock';

/**
 * Sends a scene's messages over a device's own line, in the world of this tab, and asks it what it plays where it can be asked.
 * @throws Problem where there is no line, or its ports are busy
 */
export async function sendSceneOver(
	{ device, unit, way }: StoredLine,
	steps: readonly Step[],
	question: PlayingQuestion | null
): Promise<SceneSent> {
	if (desk.world === 'bench') {
		return desk.sendSceneOnBench(pluggedIn(device.name, unit).id, steps, question);
	}
	// Without a way back it is sent and nobody is asked.
	const asks = way?.in ? question : null;
	return inTurn(linesOf({ out: way?.out ?? null, in: way?.in ?? null }), () =>
		overLine(
			device.name,
			{ out: way?.out, in: way?.in },
			`a scene for ${device.name}`,
			(link) => carryOut(sendScene(steps, asks), link, realClock),
			asks !== null
		)
	);
}
