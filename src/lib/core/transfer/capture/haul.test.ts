import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../../bench';
import { profileNamed } from '../../bench/bench.fixture';
import { buildMessage, isMatch, matchAny, slotKey, type Match } from '../../profile';
import type { TransferEvent } from '..';
import { planCapture } from '../asks';
import { slotsInScope } from '../scope';
import { Haul } from './haul';
import { Stop } from '../line';
import type { CaptureOrder } from './order';

const profile = profileNamed('tarnow-parallax');
const { programs } = factoryState(profile, seededRandom(4)).memory;
const dump = (slot: number, deviceId = 0, content = slot) =>
	buildMessage(profile, 'program-dump', { deviceId, slot }, programs[content]);
const read = (bytes: Uint8Array): Match => {
	const match = matchAny(profile, bytes);
	if (!isMatch(match)) throw new Error(match.says);
	return match;
};
const wanted = slotsInScope(profile, { kind: 'area', area: 'programs' });
const { asks } = planCapture(profile, wanted);

function haul(more: Partial<CaptureOrder> = {}) {
	const events: TransferEvent[] = [];
	const order: CaptureOrder = {
		profile,
		target: { deviceId: 0, channel: 1 },
		scope: { kind: 'area', area: 'programs' },
		...more
	};
	return { events, haul: new Haul(order, (event) => events.push(event)) };
}
const take = (into: Haul, ...messages: Uint8Array[]) => {
	for (const bytes of messages) into.accept(read(bytes), bytes);
};

describe('what a capture has got', () => {
	it('is nothing at first, then what was accepted, in order, each told', () => {
		const { haul: box, events } = haul();
		expect(box.isBare).toBe(true);
		expect(box.of(wanted, false)).toEqual(wanted);
		take(box, dump(3), dump(1));
		expect(box.isBare).toBe(false);
		expect(box.messages).toEqual([dump(3), dump(1)]);
		expect([...box.of(wanted, true).get('programs')!]).toEqual([1, 3]);
		expect(box.of(wanted, false).get('programs')).toHaveLength(programs.length - 2);
		expect(events).toMatchObject([
			{ event: 'received', slots: [{ area: 'programs', index: 3 }] },
			{ event: 'received', slots: [{ area: 'programs', index: 1 }] }
		]);
	});

	it('begins with what an earlier attempt had: that is held and not told again, also what no profile reads', () => {
		const stray = Uint8Array.of(0xf0, 0x7d, 0x01, 0xf7);
		const { haul: box, events } = haul({ have: [dump(5), stray] });
		expect(box.messages).toEqual([dump(5), stray]);
		expect(box.holds(read(dump(5)))).toBe(true);
		expect(box.holds(read(dump(6)))).toBe(false);
		expect(box.isBare).toBe(true);
		expect(events).toEqual([]);
	});

	it('takes a message back: its slot is open again, and no other', () => {
		const { haul: box } = haul();
		take(box, dump(3), dump(4), dump(5));
		const ask = asks.find(({ firsts }) => firsts[0] === 4)!;
		expect(box.memoryFor(ask)).toEqual(programs[4]);
		box.forget(ask);
		expect(box.memoryFor(ask)).toBeNull();
		expect(box.messages).toEqual([dump(3), dump(5)]);
		expect([...box.of(wanted, true).get('programs')!]).toEqual([3, 5]);
		// Nothing is there to be taken back.
		box.forget(ask);
		expect(box.messages).toEqual([dump(3), dump(5)]);
	});

	it('says why slots are missing', () => {
		const { haul: box } = haul();
		box.blame('programs', asks[2].firsts, 'no answer');
		expect(box.why.get(slotKey('programs', asks[2].firsts[0]))).toBe('no answer');
		expect(box.why.size).toBe(asks[2].records);
	});

	it('is distrusted once a checksum or a content was wrong, and says so once', () => {
		const { haul: box, events } = haul();
		box.distrust({ why: 'other message', at: 0, says: '' });
		box.distrust({ why: 'length', at: 0, says: '' });
		expect(box.distrusted).toBe(false);
		box.distrust({ why: 'checksum', at: 0, says: '' });
		box.distrust({ why: 'content', at: 0, says: '' });
		expect(box.distrusted).toBe(true);
		expect(events).toEqual([{ event: 'distrusted' }]);
		expect(haul({ distrusted: true }).haul.distrusted).toBe(true);
	});

	it('is of the device that was asked: another ID stops it', () => {
		const { haul: box } = haul();
		expect(() => box.refuseOtherId(read(dump(1)))).not.toThrow();
		let stopped: unknown;
		try {
			box.refuseOtherId(read(dump(1, 6)));
		} catch (error) {
			stopped = error;
		}
		expect(stopped).toBeInstanceOf(Stop);
		expect((stopped as Stop).reason.code).toBe('wrong device ID');
	});
});
