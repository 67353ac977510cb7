import { BenchLine, seededRandom } from '../bench';
import { VirtualClock, converse, type Conversation } from '.';

/** A bench port on a clock of its own, and conversations over it carried out to their end. */
export function bareLine(seed = 1) {
	const clock = new VirtualClock();
	const line = new BenchLine('Port', clock, seededRandom(seed));
	const run = <R>(conversation: Conversation<R>, during?: (running: { cancel(): void }) => void): R => {
		let result: R | undefined;
		const running = converse<R>(
			conversation,
			{ link: line, clock, trace: () => undefined, keep: (_, kept) => kept() },
			(value) => (result = value)
		);
		during?.(running);
		clock.run(() => result !== undefined);
		if (result === undefined) throw new Error('The conversation never ended.');
		return result;
	};
	return { clock, line, run };
}
