import type { TransferReport } from '../core/transfer';
import type { Mark } from './StateMark.svelte';
import { count } from './words';

export const STATUS_WORDS: Record<string, { word: string; state: Mark }> = {
	running: { word: 'Running', state: 'going' },
	unfinished: { word: 'Unfinished', state: 'attention' },
	complete: { word: 'Complete', state: 'verified' },
	incomplete: { word: 'Incomplete', state: 'attention' },
	refused: { word: 'Refused', state: 'danger' },
	verified: { word: 'Verified', state: 'verified' },
	differs: { word: 'Differs', state: 'danger' },
	sent: { word: 'Sent, check by eye', state: 'attention' }
};

/** How a transfer stands, in a word; what the musician called off was not refused. */
export const statusOf = ({ status, reason }: { status: string; reason: { code: string } | null }) =>
	reason?.code === 'cancelled' && (status === 'refused' || status === 'incomplete')
		? ({ word: status === 'refused' ? 'Cancelled' : 'Stopped in the middle', state: 'attention' } as const)
		: STATUS_WORDS[status];

/** What a complete capture proves. */
export const COMPLETE_WORDS: Record<string, string> = {
	checksum: 'Complete, checksums right',
	'twice alike': 'Complete, twice in the same way',
	none: 'Complete, and nothing proves it'
};

const PROVED_BY: Record<string, string> = {
	checksum: 'complete, every checksum right',
	'twice alike': 'complete, twice in the same way',
	none: 'complete, and nothing proves it'
};

/** One line on how a transfer ended. */
export function outcomeLine(
	device: string,
	report: Pick<TransferReport, 'status' | 'reason' | 'outcome'>
): string {
	const slots = report.outcome.slots ?? [];
	const of = (result: string) => slots.filter((slot) => slot.result === result).length;
	switch (report.status) {
		case 'complete':
			return `${device} is backed up: ${PROVED_BY[report.outcome.proof ?? 'none']}.`;
		case 'verified':
			return `${device} holds exactly what was chosen: ${count(of('verified'), 'slot')} written and verified, ${of('already there')} already there.`;
		case 'sent':
			return `${count(of('sent'), 'slot')} sent to ${device}: check the names by eye.${
				of('verified') > 0 ? ` ${count(of('verified'), 'other')} written and verified.` : ''
			}`;
		case 'differs':
			return `${device}: ${count(of('differs'), 'slot differs', 'slots differ')} from what was sent.`;
		case 'incomplete':
			return `${device}: ${report.reason?.code === 'cancelled' ? 'stopped in the middle' : 'incomplete'}. ${report.reason?.says ?? ''}`;
		case 'refused':
			return report.reason?.code === 'cancelled'
				? `${device}: cancelled before anything was written or kept.`
				: `${device}: ${report.reason?.says ?? 'refused.'}`;
	}
}
