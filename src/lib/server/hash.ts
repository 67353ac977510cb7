import { createHash } from 'node:crypto';

/** As the core's `contentHash`, by the machine's own code: SHA-256 in hexadecimal. */
export const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
