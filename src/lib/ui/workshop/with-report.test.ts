import { describe, expect, it } from 'vitest';
import { profileSchema, type ProfileReport } from '../../core/profile';
import { profileNamed } from '../../core/bench/bench.fixture';
import { withReport } from './with-report';

const report = (dumps: number): ProfileReport => ({
	at: '2026-11-29',
	firmware: ['1.04'],
	bench: true,
	dumps,
	messages: 4,
	read: 4,
	rebuilt: 4
});
const text = JSON.stringify(profileNamed('quillon-nadir'), null, '\t');
const triedIn = (now: string) => (JSON.parse(now) as { tried: ProfileReport[] }).tried;

describe('a report in the text of a profile', () => {
	it('comes behind those that are there, and the text stays a profile', () => {
		const once = withReport(text, report(1));
		const twice = withReport(once, report(2));
		expect(triedIn(twice).map(({ dumps }) => dumps)).toEqual([1, 2]);
		expect(profileSchema.safeParse(JSON.parse(twice)).success).toBe(true);
		expect((JSON.parse(twice) as { version: number }).version).toBe(2);
	});

	it('leaves everything else as it was written', () => {
		const spaced = text.replace('"model"', '"model" ');
		expect(withReport(spaced, report(1))).toContain('"model" :');
	});

	it('lets the oldest go where there are fifty', () => {
		let now = text;
		for (let i = 1; i <= 52; i++) now = withReport(now, report(i));
		expect(triedIn(now).map(({ dumps }) => dumps)).toEqual(Array.from({ length: 50 }, (_, i) => i + 3));
	});
});
