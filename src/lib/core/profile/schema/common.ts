import { z } from 'zod';

export const id = z
	.string()
	.regex(/^[a-z][a-z0-9-]*$/, 'use lower-case letters, digits and hyphens, a letter first');

export const hexBytes = z
	.string()
	.regex(
		/^[0-9A-Fa-f]{2}( [0-9A-Fa-f]{2})*$/,
		'write bytes as pairs of hexadecimal digits with one space between, such as “F0 7D 21”'
	);

/** An address or a distance as manuals write it: seven-bit bytes, the highest first, such as “20 00 00”. */
export const address = z
	.string()
	.regex(
		/^[0-7][0-9A-Fa-f]( [0-7][0-9A-Fa-f]){0,3}$/,
		'write an address as one to four bytes of 00 to 7F with one space between, such as “20 00 00”'
	);

export const count = z.number().int().min(1);
export const sentence = z.string().min(1).max(300);
export const milliseconds = z.number().min(0).max(600_000);
