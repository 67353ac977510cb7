import { expect, it } from 'vitest';
import { movedTo } from './moved';

it.each([
	['/find', '/sounds'],
	['/find/abc', '/sounds/abc'],
	['/transfers/banks/xyz/merge', '/sounds/banks/xyz/merge'],
	['/transfers/snapshots', '/sounds/snapshots'],
	['/transfers/families', '/sounds/look-alikes'],
	['/transfers/keeping', '/care'],
	['/bench', '/transfers/bench'],
	['/workshop', '/gear/workshop'],
	['/wiring/trace', '/wiring/problems'],
	['/wiring/returns', '/wiring/host'],
	['/wiring/timing', '/wiring/plan#timing']
])('leads %s on to %s', (from, to) => expect(movedTo(from)).toBe(to));

it.each(['/', '/transfers', '/transfers/abcdefghi', '/findings', '/gear/find', '/api/v1/find'])(
	'leaves %s as it is',
	(path) => expect(movedTo(path)).toBeNull()
);

it('keeps what was asked for, before the place on the page', () =>
	expect(movedTo('/wiring/timing', '?plan=3')).toBe('/wiring/plan?plan=3#timing'));
