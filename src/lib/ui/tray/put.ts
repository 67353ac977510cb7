import { tray } from '../../hardware/tray.svelte';
import { attempt } from '../attempt';

/** Puts transfers into the tray and opens it; why one cannot be looked at is said in the footer line. */
export const putInTray = (...asks: string[]): Promise<boolean> => attempt(() => tray.add(asks));
