import { expect, it } from 'vitest';
import { strToU8, zipSync } from 'fflate';
import { LONGEST_MESSAGE, frameAll, readDumpFile } from '../core/sysex';
import { mustBeSane } from './sane-body';
import { openZip } from './zip';

const MB = 1024 * 1024;

it('a file of millions of messages is refused before it takes memory; the longest message is read whole', () => {
	const before = process.memoryUsage().rss;
	const kinds = {
		'empty messages': [0xf0, 0xf7],
		'notes without a status of their own': [0x40],
		clock: [0xf8]
	};
	for (const [what, pattern] of Object.entries(kinds)) {
		const bytes = new Uint8Array(24 * MB);
		for (let i = 0; i < bytes.length; i++) bytes[i] = pattern[i % pattern.length];
		if (what.startsWith('notes')) bytes[0] = 0x90;
		expect(() => readDumpFile(bytes), what).toThrow('more than 100,000 messages');
	}
	expect((process.memoryUsage().rss - before) / MB).toBeLessThan(300);
	const longest = new Uint8Array(LONGEST_MESSAGE);
	longest[0] = 0xf0;
	longest[longest.length - 1] = 0xf7;
	expect(frameAll(longest)).toMatchObject([{ kind: 'sysex', bytes: { length: LONGEST_MESSAGE } }]);
});

it('a MIDI file of millions of events says where it was left', () => {
	const events = 6 * MB;
	const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b];
	const bytes = new Uint8Array(head.length + 4 + 4 + events * 3);
	bytes.set(head);
	new DataView(bytes.buffer).setUint32(head.length, 4 + events * 3);
	bytes.set([0, 0x90, 60, 1], head.length + 4);
	const file = readDumpFile(bytes);
	expect(file.remarks).toMatchObject([{ says: 'a track holds more than 250000 events' }]);
});

it('an archive whose files share their bytes is refused', async () => {
	const zip = zipSync({ 'a.syx': strToU8('x'.repeat(4000)), 'b.syx': strToU8('y'.repeat(4000)) });
	const open = await openZip(zip);
	expect(open.has('b.syx')).toBe(true);
	open.close();
	// The second entry of the list of contents points into the first one's bytes.
	const overlapping = zip.slice();
	const view = new DataView(overlapping.buffer);
	const entries = [...overlapping.keys()].filter(
		(at) => at + 4 <= overlapping.length && view.getUint32(at, true) === 0x02014b50
	);
	view.setUint32(entries[1] + 42, 10, true);
	await expect(openZip(overlapping)).rejects.toThrow('over one another');
});

it('what is sent is looked through before anything else walks it', () => {
	const nested = (levels: number): unknown => {
		let value: unknown = 'x';
		for (let i = 0; i < levels; i++) value = i % 2 ? [value] : { a: value };
		return value;
	};
	mustBeSane(nested(150));
	mustBeSane({ name: 'a name', list: [1, null, true] });
	expect(() => mustBeSane(nested(250))).toThrow('levels deep');
	expect(() => mustBeSane(nested(100_000))).toThrow('levels deep');
	for (const value of ['a\0b', { 'a\0': 1 }, [[['\0']]]]) expect(() => mustBeSane(value)).toThrow('NUL');
});
