import { Problem } from '../core/problem';
import { converse, type Clock, type Conversation, type Link, type Running } from '../core/transfer';

/** Carries a conversation out that stores nothing, and gives what it returned. */
export const carryOut = <R>(
	conversation: Conversation<R>,
	link: Link,
	clock: Clock,
	begun: (running: Running) => void = () => undefined
): Promise<R> =>
	new Promise((resolve) => {
		const running = converse<R>(
			conversation,
			{
				link,
				clock,
				trace: () => undefined,
				keep: (_, kept) =>
					kept(new Problem('keep.none', 'Nothing can be stored here.', 'Start it as a transfer.'))
			},
			resolve
		);
		begun(running);
	});
