import { sha256 } from '@noble/hashes/sha2.js';
import { toHex } from '../midi';

/** SHA-256 of `bytes` (FIPS 180-4), 64 lower-case hexadecimal digits: the name under which content is kept. */
export const contentHash = (bytes: Uint8Array): string => toHex(sha256(bytes));
