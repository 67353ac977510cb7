import type { SoundMark } from '../core/drawer';
import type { Studio } from './db/connection';
import { getSound } from './sounds';
import { putMark } from './store/sound-marks';

/** Says of a sound whether it is a favourite, and what kind it is. @throws Problem `sound.not-found` */
export async function markSound(studio: Studio, hash: string, mark: SoundMark): Promise<SoundMark> {
	await getSound(studio, hash);
	await studio.write((transaction) => putMark(studio, hash, mark, studio.now().toISOString(), transaction));
	return mark;
}
