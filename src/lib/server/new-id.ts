import { randomUUID } from 'node:crypto';

/** A new identity for a row. */
export const newId = (): string => randomUUID();
