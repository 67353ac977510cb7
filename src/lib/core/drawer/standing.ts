import { parseISO } from 'date-fns';
import { slotKey } from '../profile';
import { stateOf, tornBy, type Knowledge, type SlotRef, type KnownState } from './knowledge';

/** How a device stands: as its weakest slot does. Slots that it cannot send are not asked for. */
export interface DeviceStanding {
	/** Slots that it can send. */
	slots: number;
	/** How many of them stand in which way. */
	states: Record<KnownState, number>;
	/** Times of the last proved reading, ISO 8601, oldest first, each with how many slots it stands for. */
	proved: { at: string; slots: number }[];
	/** When its weakest slot was last proved; null while any slot never was, or was written since. */
	weakestAt: string | null;
	/** Restores that broke off, by transfer, with the slots of which nobody knows what they hold. */
	torn: { transferId: string; slots: number }[];
}

/** Knowledge and memories never change: how a device stands by both is worked out once. */
const standings = new WeakMap<Knowledge, WeakMap<readonly SlotRef[], DeviceStanding>>();

/** The standing of a device whose memory is `expected`. */
export function standingOf(knowledge: Knowledge, expected: readonly SlotRef[]): DeviceStanding {
	let own = standings.get(knowledge);
	if (!own) standings.set(knowledge, (own = new WeakMap()));
	let standing = own.get(expected);
	if (!standing) own.set(expected, (standing = workOut(knowledge, expected)));
	return standing;
}

function workOut(knowledge: Knowledge, expected: readonly SlotRef[]): DeviceStanding {
	const states = { proved: 0, unproved: 0, changed: 0, sent: 0, unknown: 0, never: 0 };
	const times = new Map<string, number>();
	let known = 0;
	for (const ref of expected) {
		const state = stateOf(knowledge, ref);
		states[state]++;
		const slot = knowledge.slots.get(slotKey(ref.area, ref.index));
		if (state === 'sent' || state === 'unknown' || !slot?.proved) continue;
		known++;
		times.set(slot.proved.at, (times.get(slot.proved.at) ?? 0) + 1);
	}
	const proved = [...times].map(([at, slots]) => ({ at, slots })).sort((a, b) => a.at.localeCompare(b.at));
	return {
		slots: expected.length,
		states,
		proved,
		weakestAt: expected.length > 0 && known === expected.length ? proved[0].at : null,
		torn: [...tornBy(knowledge)].map(([transferId, slots]) => ({ transferId, slots }))
	};
}

const DAY_MS = 86_400_000;

/** `today`, `yesterday`, `6 days ago`: the days between two moments, rounded. */
export const daysAgo = (at: string, now: number): string => {
	const days = (now - parseISO(at).getTime()) / DAY_MS;
	return days < 1 ? 'today' : days < 1.5 ? 'yesterday' : `${Math.round(days)} days ago`;
};

/** When its slots were read, in words: `read 6 days ago`, or `60 of 64 six days ago, 4 today` where they differ. */
export function readingLine({ proved, slots }: DeviceStanding, now: number): string {
	const byDay = new Map<string, number>();
	for (const { at, slots: n } of proved) byDay.set(daysAgo(at, now), (byDay.get(daysAgo(at, now)) ?? 0) + n);
	const parts = [...byDay];
	const sum = parts.reduce((all, [, n]) => all + n, 0);
	if (parts.length === 0) return 'Never read with a proof';
	if (parts.length === 1 && sum === slots) return `Last verified ${parts[0][0]}`;
	return `${parts.map(([day, n], i) => (i === 0 ? `${n} of ${slots} slots verified ${day}` : `${n} ${day}`)).join(', ')}${
		sum < slots ? `, ${slots - sum} never` : ''
	}`;
}
