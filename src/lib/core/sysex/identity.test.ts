import { expect, it } from 'vitest';
import { fromHex, toHex } from '../midi';
import {
	identityReply,
	identityRequest,
	manufacturerLabel,
	manufacturerOf,
	readIdentityReply,
	readIdentityRequest
} from '.';

it('asks one device, or all', () => {
	expect(toHex(identityRequest(), ' ')).toBe('f0 7e 7f 06 01 f7');
	expect(readIdentityRequest(identityRequest(3))).toEqual({ deviceId: 3 });
	expect(readIdentityRequest(fromHex('f0 7e 03 06 02 f7'))).toBeNull();
});

it.each(['7d', '00 20 33'])('reads the reply of a manufacturer %s back', (manufacturer) => {
	const identity = {
		deviceId: 5,
		manufacturer: fromHex(manufacturer),
		family: fromHex('21 00'),
		member: fromHex('01 02'),
		version: fromHex('01 04 00 00')
	};
	expect(readIdentityReply(identityReply(identity))).toEqual(identity);
	expect(readIdentityReply(identityReply(identity).slice(0, -2))).toBeNull();
});

it('reads manufacturer IDs of one and of three bytes', () => {
	expect(toHex(manufacturerOf(fromHex('f0 41 10 f7')))).toBe('41');
	expect(toHex(manufacturerOf(fromHex('f0 00 20 33 01 f7')))).toBe('002033');
	expect(manufacturerOf(fromHex('f0 00 20 f7'))).toHaveLength(0);
	expect(manufacturerOf(fromHex('f0 f7'))).toHaveLength(0);
	expect(manufacturerLabel(fromHex('f0 7d 00 f7'))).toEqual({ id: '7d', meaning: 'non-commercial' });
});
