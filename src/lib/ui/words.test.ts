import { describe, expect, it } from 'vitest';
import { Problem } from '../core/problem';
import type { SlotResult } from '../core/transfer';
import { STATUS_WORDS, outcomeLine } from './outcome-words';
import { count, duration, groupHex, problemOf } from './words';

it.each([
	[0, '0 slots'],
	[1, '1 slot'],
	[1200, '1,200 slots']
])('counts %i as “%s”', (n, words) => expect(count(n, 'slot')).toBe(words));

it('uses the plural that it is given', () => expect(count(3, 'retry', 'retries')).toBe('3 retries'));

it.each([
	[40, '0.0 s'],
	[9900, '9.9 s'],
	[12_400, '12 s'],
	[200_000, '3 min 20 s']
])('says %i ms as “%s”', (ms, words) => expect(duration(ms)).toBe(words));

it('groups bytes by four', () => {
	expect(groupHex('f07d21000102f7')).toBe('f0 7d 21 00  01 02 f7');
	expect(groupHex('')).toBe('');
});

it('shows any thrown thing', () => {
	expect(problemOf(new Problem('a.b', 'What.', 'Try.'))).toMatchObject({ message: 'What.', remedy: 'Try.' });
	expect(problemOf(new Error('oops'))).toEqual({ message: 'oops', remedy: 'Try again.' });
	expect(problemOf('text')).toEqual({ message: 'text', remedy: 'Try again.' });
});

describe('how a transfer ended', () => {
	const slot = (result: SlotResult['result']): SlotResult => ({
		area: 'a',
		index: 0,
		label: '1',
		name: 'N',
		result
	});
	const slots = [slot('verified'), slot('verified'), slot('already there'), slot('differs'), slot('sent')];
	const reason = { code: 'no answer' as const, says: 'It does not answer.', remedy: 'Switch it on.' };
	it.each([
		['complete', 'West is backed up: complete, every checksum right.'],
		['verified', 'West holds exactly what was chosen: 2 slots written and verified, 1 already there.'],
		['sent', '1 slot sent to West: check the names by eye. 2 others written and verified.'],
		['differs', 'West: 1 slot differs from what was sent.'],
		['incomplete', 'West: incomplete. It does not answer.'],
		['refused', 'West: It does not answer.']
	] as const)('%s is told in one line', (status, line) => {
		expect(outcomeLine('West', { status, reason, outcome: { slots, proof: 'checksum' } })).toBe(line);
		expect(STATUS_WORDS[status].word).not.toBe('');
	});

	it('a dump that nothing proves is not called right', () => {
		const line = (proof?: string) =>
			outcomeLine('West', { status: 'complete', reason: null, outcome: { proof } });
		expect(line('twice alike')).toBe('West is backed up: complete, twice in the same way.');
		expect(line()).toBe('West is backed up: complete, and nothing proves it.');
	});
});
