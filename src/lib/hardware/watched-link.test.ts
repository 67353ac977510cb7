import { describe, expect, it } from 'vitest';
import { BenchLine, seededRandom } from '../core/bench';
import { makeUp } from '../core/bench/bench.fixture';
import { identityRequest } from '../core/sysex';
import { VirtualClock, rollCall } from '../core/transfer';
import { carryOut } from './carry-out';
import { sendAll } from './send-all';
import { watchedLink } from './watched-link';

function bench() {
	const clock = new VirtualClock();
	const line = new BenchLine('Port', clock, seededRandom(1));
	const { profile, state } = makeUp('ternhill-umbra', 1);
	line.attach(profile, state);
	const seen: string[] = [];
	const link = watchedLink(line, (way, bytes) => seen.push(`${way} ${bytes.length}`));
	return { clock, line, link, seen };
}

describe('a watched link', () => {
	it('is the same line, and tells whole messages of both ways', async () => {
		const { clock, link, seen } = bench();
		const sent = carryOut(sendAll([identityRequest(), identityRequest(0)]), link, clock);
		clock.run();
		expect(await sent).toBe(2);
		expect(seen).toEqual(['sent 6', 'sent 6', 'received 15', 'received 15']);
	});

	it('passes on that a cable comes out, and what is connected', async () => {
		const { clock, line, link } = bench();
		expect(link.connected).toBe(true);
		const called = carryOut(rollCall(), link, clock);
		clock.after(50, () => line.unplug());
		clock.run();
		expect((await called).reason?.code).toBe('unplugged');
		expect(link.connected).toBe(false);
	});

	it('what cannot be stored here is refused in words', async () => {
		const { clock, link } = bench();
		const asked = carryOut(
			(function* () {
				const heard = yield { do: 'keep' as const, what: 1 };
				return heard.heard === 'not kept' ? heard.problem.code : heard.heard;
			})(),
			link,
			clock
		);
		clock.run();
		expect(await asked).toBe('keep.none');
	});
});
