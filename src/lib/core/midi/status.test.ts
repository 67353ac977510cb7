import { expect, it } from 'vitest';
import { fromHex } from './bytes';
import { isWholeMessage } from './status';

it('knows a whole message from a part of one, and from two', () => {
	const whole = (hex: string) => isWholeMessage(fromHex(hex));
	for (const hex of [
		'b05b40',
		'c005',
		'd040',
		'e00040',
		'f0f7',
		'f07d01f7',
		'f6',
		'fa',
		'f101',
		'f20102',
		'f304'
	])
		expect([hex, whole(hex)]).toEqual([hex, true]);
	for (const hex of [
		'',
		'05',
		'b05b',
		'b05bc0',
		'b05b4000',
		'c00505',
		'c005c006',
		'f07d01',
		'f07d90f7',
		'f7',
		'f07df7f7'
	])
		expect([hex, whole(hex)]).toEqual([hex, false]);
});
