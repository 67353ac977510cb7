import type { Clock, Link } from '../core/transfer';
import { TransferSession } from './session';
import type { SessionState, TransferOrder } from './session-state';

const SHOW_MS = 80;

/** A transfer that runs: who watches it, and how it is called off. */
export interface TransferRun {
	session: TransferSession;
	done: Promise<SessionState>;
}

/**
 * Opens a transfer and runs it over a link; `show` is told of its progress, a dozen times a second at most, in plain
 * data that can cross to another thread.
 */
export async function runTransfer(
	order: TransferOrder,
	clock: Clock,
	link: () => Promise<Link>,
	show: (state: SessionState) => void
): Promise<TransferRun> {
	let session: TransferSession | null = null;
	let due = false;
	const changed = () => {
		if (due) return;
		due = true;
		setTimeout(() => {
			due = false;
			if (session && !session.state.ended) show(structuredClone(session.state));
		}, SHOW_MS);
	};
	const line = await link();
	session = await TransferSession.open(order, clock, changed);
	const opened = session;
	show(structuredClone(opened.state));
	return {
		session: opened,
		done: opened.run(line).then(() => structuredClone(opened.state))
	};
}
