import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { PROFILE_TEMPLATE, profileSchema } from '../../core/profile';
import { shippedProfiles } from '../../core/bench/bench.fixture';
import { completeText, readText } from './document-text';

const schema = z.toJSONSchema(profileSchema, { io: 'input', unrepresentable: 'any' });
const text = JSON.stringify(PROFILE_TEMPLATE, null, '\t');
/** Offers where `|` stands. */
const at = (marked: string) => completeText(marked.replace('|', ''), marked.indexOf('|'), schema);

describe('the text of a profile', () => {
	it('of the template and of every shipped profile is read without a fault', () => {
		expect(readText(text, profileSchema).faults).toEqual([]);
		for (const profile of shippedProfiles)
			expect(readText(JSON.stringify(profile), profileSchema).faults).toEqual([]);
	});

	it('faults of the JSON are at their place', () => {
		const broken = text.replace('"kind"', 'kind');
		const { faults } = readText(broken, profileSchema);
		expect(broken.slice(faults[0].from, faults[0].to)).toBe('kind');
	});

	it('faults of the content are at what they are about', () => {
		const wrong = text.replace('"negated-sum-7"', '"sum-of-all"');
		const { faults, value } = readText(wrong, profileSchema);
		expect(value).toBeNull();
		expect(faults.some(({ from, to }) => wrong.slice(from, to).includes('sum-of-all'))).toBe(true);
		const missing = readText('{ "format": "silent-drawer.profile" }', profileSchema);
		expect(missing.faults.every(({ from }) => from === 0 || from > 0)).toBe(true);
		expect(missing.faults.some(({ says }) => says.startsWith('maker'))).toBe(true);
	});

	it('offers names that are not there yet, and values that are allowed', () => {
		expect(at('{ "format": "silent-drawer.profile", "|" }').map(({ label }) => label)).toContain('areas');
		expect(at('{ "format": "silent-drawer.profile", "|" }').map(({ label }) => label)).not.toContain(
			'format'
		);
		const part = '{ "messages": { "a": { "title": "A", "parts": [ { "part": "|" } ] } } }';
		expect(at(part).map(({ label }) => label)).toEqual([
			'bytes',
			'status',
			'variable',
			'bits',
			'count',
			'body',
			'section',
			'column',
			'memory',
			'stream',
			'contents',
			'listed',
			'checksum'
		]);
		const body = '{ "messages": { "a": { "parts": [ { "part": "body", "packing": "|" } ] } } }';
		expect(at(body).map(({ label }) => label)).toContain('nibbles-high-first');
		const keys = at('{ "messages": { "a": { "parts": [ { "part": "checksum", "|" } ] } } }').map(
			({ label }) => label
		);
		expect(keys).toContain('checksum');
		expect(keys).not.toContain('packing');
	});
});
