import { z } from 'zod';

/** What the rows of lists are made of. */
export const id = z.string().min(1).max(120);
export const when = z.iso.datetime();
export const hash = z.string().regex(/^[0-9a-f]{64}$/);
/** Milliseconds, where they are known. */
export const ms = z.number().min(0).nullable();

/** `1 sound`, `12 sounds` */
export const quantity = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;
