import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { proofOf, proofUnfinished } from '../drawer';
import { toHex } from '../midi';
import { decodeDump, makeSlot, parseProfile, readValue, shownFields } from '../profile';

const SALLOW = 'corrie-sallow';
const ready = (seed = 3) => workbench(SALLOW, seed);
type Bench = ReturnType<typeof ready>;

const panelOf = ({ unit }: Bench) => toHex(unit.state.memory.panel[0]);
const readOf = (bench: Bench, messages: readonly Uint8Array[]) => {
	const { slots } = decodeDump(bench.profile, messages);
	return slots.length === 1 ? toHex(slots[0].bytes) : null;
};
/** Bytes that come out of the device besides what it means to tell. */
const says = ({ unit }: Bench, bytes: number[]) =>
	(unit as unknown as { reply(bytes: Uint8Array): void }).reply(Uint8Array.from(bytes));
/** The panel with some of its values changed. */
const changed = (bench: Bench, values: Record<string, number>) => {
	const other = workbench(SALLOW, 3).unit;
	for (const [id, value] of Object.entries(values)) other.edit('panel', 0, id, value);
	return [makeSlot(bench.profile, 'panel', 0, other.state.memory.panel[0])];
};

describe('a device that tells its panel as controllers', () => {
	it('is captured when asked, each value twice alike, and shown in units', () => {
		const bench = ready();
		const outcome = bench.capture();
		expect(outcome.status).toBe('complete');
		expect(readOf(bench, outcome.messages)).toBe(panelOf(bench));
		// 12 controllers, 4 parameters, a bank and its program: one statement each.
		expect(outcome.messages).toHaveLength(18);
		expect(proofOf(bench.profile)).toBe('twice alike');
		// Left in the middle, perhaps nothing came twice.
		expect(proofUnfinished(bench.profile)).toBe('none');
		const asked = bench.trace.filter(({ way, bytes }) => way === 'sent' && bytes[1] === 111);
		expect(asked).toHaveLength(2);
		const [{ bytes }] = decodeDump(bench.profile, outcome.messages).slots;
		const shown = shownFields(bench.profile, bench.profile.records.panel, bytes);
		expect(shown.map(({ name }) => name)).toContain('Sweep depth');
		// 20 to 18,000 Hz, each step multiplying; cutoff is the ninth controller of the panel.
		const hertz = 20 * 900 ** (bench.unit.state.memory.panel[0][8] / 127);
		expect(parseFloat(shown.find(({ id }) => id === 'cutoff')!.shown)).toBeCloseTo(hertz, 0);
	});

	it('hears nobody else: what is played and turned on another channel is no value of its own', () => {
		const bench = ready();
		const noise = [0xb4, 74, 1, 0x90, 60, 100, 0xb4, 99, 1, 0xb4, 98, 20, 0xb4, 6, 1, 0xb4, 38, 1, 0xc4, 3];
		bench.clock.after(20, () => says(bench, noise));
		const outcome = bench.capture();
		expect(outcome.status).toBe('complete');
		expect(readOf(bench, outcome.messages)).toBe(panelOf(bench));
	});

	it('names what it did not tell', () => {
		const bench = ready();
		bench.unit.dump = () => says(bench, [0xb0, 74, 5]);
		const outcome = bench.capture();
		expect(outcome.status).toBe('refused');
		expect(outcome.missing[0].why).toContain('Attack');
		expect(outcome.missing[0].why).not.toContain('Cutoff');
	});

	it('says that it does not answer, where it is switched off', () => {
		const bench = ready();
		bench.unit.state.settings.answers = 0;
		expect(bench.capture()).toMatchObject({ status: 'refused', reason: { code: 'no answer' } });
	});

	it('is restored value by value: only what differs is sent, and read back', () => {
		const bench = ready();
		bench.capture();
		const wanted = changed(bench, { cutoff: 12, sweep: 5000, registration: 4 });
		const bank = toHex(bench.unit.state.memory.panel[0].subarray(20, 21));
		const before = bench.trace.length;
		expect(bench.restore({ wanted }).status).toBe('verified');
		expect(panelOf(bench)).toBe(toHex(wanted[0].bytes));
		const written = bench.trace
			.slice(before)
			.filter(({ way, bytes }) => way === 'sent' && bytes[1] !== 111)
			.map(({ bytes }) => toHex(bytes, ' '));
		expect(written).toEqual(['b0 4a 0c', 'b0 63 01 b0 62 17 b0 06 27 b0 26 08', `b0 00 ${bank}`, 'c0 04']);
	});

	it('sends a bank with its program change, which alone makes it take effect', () => {
		const bench = ready();
		bench.capture();
		const [is] = decodeDump(bench.profile, bench.capture().messages).slots;
		const bank = bench.profile.records.panel.parameters.find(({ id }) => id === 'bank')!;
		const wanted = changed(bench, { bank: (readValue(bank, is.bytes) + 1) % 4 });
		expect(bench.restore({ wanted }).status).toBe('verified');
		expect(panelOf(bench)).toBe(toHex(wanted[0].bytes));
	});

	it('is not called restored where it takes no controllers', () => {
		const bench = ready();
		bench.unit.state.settings.receives = 0;
		const before = panelOf(bench);
		const outcome = bench.restore({ wanted: changed(bench, { cutoff: 12 }) });
		expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'protected' } });
		expect(panelOf(bench)).toBe(before);
	});

	it('is heard by hand where nothing asks it: twice, since nothing else would prove it', () => {
		const json = JSON.parse(JSON.stringify(ready().profile));
		json.capture[0].start = { by: 'panel', instruction: 'Press Send panel.' };
		const profile = parseProfile(json);
		const bench = ready();
		const outcome = bench.capture({ profile });
		expect(outcome.status).toBe('complete');
		expect(readOf(bench, outcome.messages)).toBe(panelOf(bench));
		const asked = bench.events.filter(({ event }) => event === 'hands');
		expect(asked).toHaveLength(2);
	});

	it.each([
		['asked', null],
		['started by hand', { by: 'panel', instruction: 'Press Send panel.' }]
	])('%s and called off before it came a second time, it is not called complete', (_, start) => {
		const json = JSON.parse(JSON.stringify(ready().profile));
		if (start) json.capture[0].start = start;
		const bench = ready();
		let told = 0;
		const dump = bench.unit.dump.bind(bench.unit);
		let cancel = () => undefined as void;
		bench.unit.dump = () => {
			if (++told === 1) dump();
			else cancel();
		};
		const outcome = bench.capture({ profile: parseProfile(json) }, (running) => {
			cancel = () => running.cancel();
		});
		expect(told).toBe(2);
		expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'cancelled' }, messages: [] });
		expect(outcome.missing).toHaveLength(1);
	});

	it('keeps what it said when its profile is stored and read again', () => {
		const { profile } = ready();
		const again = parseProfile(JSON.parse(JSON.stringify(profile)));
		expect(again).toEqual(JSON.parse(JSON.stringify(profile)));
		const cutoff = again.records.panel.parameters.find(({ id }) => id === 'cutoff')!;
		expect(readValue(cutoff, new Uint8Array(21).fill(0x40))).toBe(0x40);
	});
});
