import { joinBytes, writeMidiFile } from '../midi';
import type { SceneChange } from './scene-change';

export const SCENE_FILES = ['mid', 'syx'] as const;
export type SceneFile = (typeof SCENE_FILES)[number];

/**
 * The messages of a change as a file. `mid`: each wire a track of its own name, with the times at which the messages go;
 * `syx`: the bytes in the order of time, those of all wires together. What is not sent is in neither.
 */
export function sceneFile({ messages, lines, readyMs }: SceneChange, as: SceneFile): Uint8Array {
	const timed = messages.map(({ line, atMs, bytes }) => ({ line, atMs, bytes: Uint8Array.from(bytes) }));
	if (as === 'syx') return joinBytes(timed.map(({ bytes }) => bytes));
	if (lines.length === 0) return writeMidiFile([{ messages: [], untilMs: 0 }]);
	return writeMidiFile(
		lines.map(({ line }) => ({
			name: line,
			messages: timed.filter((each) => each.line === line),
			untilMs: readyMs
		}))
	);
}
