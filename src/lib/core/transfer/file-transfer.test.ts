import { describe, expect, it } from 'vitest';
import { faultSchema } from '../bench';
import { toHex } from '../midi';
import { receiveFile, sendFile } from '.';
import { bareLine } from './line.fixture';

const content = (length: number) => Uint8Array.from({ length }, (_, i) => (i * 73 + (i >> 3)) & 0xff);
const quietly = () => undefined;

describe('files over the wire', () => {
	it.each([
		['a clean line', []],
		['lost bytes on the way here', [{ kind: 'lose bytes', share: 0.0006 }]],
		['flipped bits on the way here', [{ kind: 'flip bits', share: 0.0004 }]],
		['flipped bits on the way there', [{ kind: 'flip bits', share: 0.0004, way: 'to device' }]]
	])('are received and sent whole over %s', (_, faults) => {
		// A line that damages one of its bytes may damage another as well: what came is looked at, and not what was said.
		const { line, run } = bareLine(5);
		const keeper = line.attachFileKeeper(2);
		keeper.files.set('Set one', { type: 'MIDI', bytes: content(20_000) });
		line.faults = faults.map((fault) => faultSchema.parse(fault));
		const received = run(receiveFile(2, { type: 'MIDI', name: 'Set one' }, quietly));
		expect(received.status).toBe('complete');
		expect(received.file).toMatchObject({ type: 'MIDI', name: 'Set one' });
		expect(toHex(received.file!.bytes)).toBe(toHex(content(20_000)));
		const sent = run(sendFile(2, { type: 'BIN ', name: 'Set two', bytes: content(9001) }, quietly));
		expect(sent.status).toBe('complete');
		expect(toHex(keeper.files.get('Set two')!.bytes)).toBe(toHex(content(9001)));
		if (faults.length > 0) expect(received.resent + sent.resent).toBeGreaterThan(0);
	});

	it('more than 128 packets are told apart by their order', () => {
		const { line, run } = bareLine(6);
		const keeper = line.attachFileKeeper(2);
		keeper.files.set('Long', { type: 'TEXT', bytes: content(112 * 300 + 5) });
		const received = run(receiveFile(2, { type: 'TEXT', name: 'Long' }, quietly));
		expect(received.packets).toBe(301);
		expect(toHex(received.file!.bytes)).toBe(toHex(content(112 * 300 + 5)));
	});

	it('that begin at the panel are waited for', () => {
		const { line, clock, run } = bareLine();
		const keeper = line.attachFileKeeper(2);
		keeper.files.set('Set one', { type: 'MIDI', bytes: content(300) });
		clock.after(30_000, () => keeper.dump('Set one'));
		expect(run(receiveFile(2, null, quietly)).file!.bytes).toHaveLength(300);
	});

	it('that are not there, or whose device is not, are said', () => {
		const { line, run } = bareLine();
		line.attachFileKeeper(2);
		expect(run(receiveFile(2, { type: 'MIDI', name: 'No such' }, quietly))).toMatchObject({
			status: 'refused',
			reason: { code: 'rejected' }
		});
		expect(bareLine().run(receiveFile(2, { type: 'MIDI', name: 'x' }, quietly))).toMatchObject({
			status: 'refused',
			reason: { code: 'no answer' }
		});
	});

	it('on a line that damages everything end, and nothing is called whole', () => {
		const { line, run } = bareLine();
		const keeper = line.attachFileKeeper(2);
		keeper.files.set('Set one', { type: 'MIDI', bytes: content(3000) });
		line.faults = [faultSchema.parse({ kind: 'truncate', afterBytes: 60 })];
		expect(run(receiveFile(2, { type: 'MIDI', name: 'Set one' }, quietly))).toMatchObject({
			status: 'incomplete',
			file: null
		});
	});

	it('stopped in the middle are not whole', () => {
		const { line, clock, run } = bareLine();
		line.attachFileKeeper(2).files.set('Set one', { type: 'MIDI', bytes: content(3000) });
		const outcome = run(receiveFile(2, { type: 'MIDI', name: 'Set one' }, quietly), (running) =>
			clock.after(400, () => running.cancel())
		);
		expect(outcome).toMatchObject({ status: 'incomplete', file: null, reason: { code: 'cancelled' } });
	});
});
