import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { localDay, localMonth, localWeek } from './local-time';

const ms = (text: string) => Date.parse(text);
let zone: string | undefined;
beforeEach(() => (zone = process.env.TZ));
afterEach(() => {
	if (zone === undefined) delete process.env.TZ;
	else process.env.TZ = zone;
});

describe.each(['UTC', 'Pacific/Auckland', 'America/Los_Angeles', 'Asia/Kolkata'])('in %s', (name) => {
	beforeEach(() => (process.env.TZ = name));

	it('a week begins on Monday, at midnight where the musician is', () => {
		// Every hour of five weeks: what a calendar says of it.
		const start = ms('2026-03-20T00:00:00Z');
		for (let hour = 0; hour < 35 * 24; hour++) {
			const now = new Date(start + hour * 3_600_000);
			const before = new Date(now.getTime() - 3_600_000);
			const monday = now.getDay() === 1 && before.getDay() === 0;
			expect(localWeek(now.getTime()) === localWeek(before.getTime())).toBe(!monday);
		}
	});

	it('months and days change where the calendar does', () => {
		const start = ms('2025-12-25T00:00:00Z');
		for (let hour = 0; hour < 20 * 24; hour++) {
			const now = new Date(start + hour * 3_600_000);
			const before = new Date(now.getTime() - 3_600_000);
			expect(localMonth(now.getTime()) === localMonth(before.getTime())).toBe(
				now.getMonth() === before.getMonth()
			);
			expect(localDay(now.getTime()) === localDay(before.getTime())).toBe(now.getDate() === before.getDate());
		}
	});
});

it('a day is told as it is written in file names', () => {
	process.env.TZ = 'Pacific/Auckland';
	expect(localDay('2026-03-01T23:30:00.000Z')).toBe('2026-03-02');
	process.env.TZ = 'America/Los_Angeles';
	expect(localDay('2026-03-01T03:30:00.000Z')).toBe('2026-02-28');
});

it('weeks and months of different years are different', () => {
	process.env.TZ = 'UTC';
	expect(localWeek(ms('2025-01-06T12:00:00Z'))).not.toBe(localWeek(ms('2026-01-05T12:00:00Z')));
	expect(localMonth(ms('2025-01-06T12:00:00Z'))).not.toBe(localMonth(ms('2026-01-06T12:00:00Z')));
});
