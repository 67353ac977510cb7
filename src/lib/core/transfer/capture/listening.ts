import { SYSEX_START, sameBytes } from '../../midi';
import {
	Assembly,
	areaOf,
	deviceIdOffset,
	isMatch,
	isTold,
	matchOneOf,
	messagesOf,
	type Match
} from '../../profile';
import type { Conversation } from '../conversation';
import { CANCELLED, wrongDeviceId, wrongModel } from '../reasons';
import type { Ask } from '../asks';
import type { Haul } from './haul';
import { Stop, comeBack } from '../line';

/** Waits for a dump that somebody starts at the panel; twice where the line damages data. */
export function* listenForDump(haul: Haul, ask: Ask): Conversation<void> {
	if (ask.way.start.by !== 'panel') return;
	yield* listenOnce(haul, ask, ask.way.start, ask.way.start.instruction, (match, bytes) => {
		if (!haul.holds(match)) haul.accept(match, bytes);
	});
	// As in `confirm`: a line that damages data is believed only when it says the same twice, and so is what has no checksum.
	const told = isTold(areaOf(haul.order.profile, ask.area));
	if (!haul.distrusted && !told) return;
	const again = yield* listenOnce(
		haul,
		ask,
		ask.way.start,
		`${haul.distrusted ? 'Some of it arrived damaged. ' : ''}Once more, to compare: ${ask.way.start.instruction}`,
		() => undefined
	);
	for (const first of ask.firsts) {
		const group = { area: ask.area, brings: ask.brings.filter(({ slot }) => isIn(ask, first, slot)) };
		const alike = group.brings.every((span) => {
			const [before, now] = [haul, again].map((of) => of.bytesOf(ask.area, span.slot, span));
			return before && now && sameBytes(before, now);
		});
		if (alike) continue;
		haul.forget(group);
		haul.blame(ask.area, slotsFrom(ask, first), 'it did not come twice in the same way');
	}
}

/** Slots that travel together from `first` on. */
const slotsFrom = ({ records }: Ask, first: number): number[] =>
	Array.from({ length: records }, (_, i) => first + i);

const isIn = ({ records }: Ask, first: number, slot: number): boolean =>
	slot >= first && slot < first + records;

/** Whether everything of a group of slots has come. */
const hasGroup = (ask: Ask, first: number, came: Assembly): boolean =>
	ask.brings.every(
		(span) => !isIn(ask, first, span.slot) || came.bytesOf(ask.area, span.slot, span) !== null
	);

function* listenOnce(
	haul: Haul,
	ask: Ask,
	start: { waitMs: number },
	says: string,
	take: (match: Match, bytes: Uint8Array) => void
): Conversation<Assembly> {
	const { order, emit } = haul;
	const { profile, target } = order;
	const { way } = ask;
	const expected = messagesOf(way.expect);
	const came = new Assembly(profile);
	const awaited = new Set(ask.firsts);
	emit({ event: 'hands', says });
	let begun = false;
	while (awaited.size > 0) {
		const heard = yield { do: 'wait', idleMs: begun ? way.quietMs : start.waitMs };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard === 'silence') {
			if (!begun)
				throw new Stop({
					code: 'no answer',
					says: `No dump came from the ${profile.model}.`,
					remedy: says
				});
			break;
		}
		if (heard.heard === 'unplugged') {
			yield* comeBack(order);
			continue;
		}
		if (heard.heard !== 'broken' && heard.heard !== 'message') continue;
		if (heard.heard === 'broken') {
			begun = true;
			emit({ event: 'retry', says: `a message broke off (${heard.reason})` });
			continue;
		}
		const match = matchOneOf(profile, expected, heard.bytes);
		if (isMatch(match) ? haul.isElsewhere(match) : heard.bytes[0] < SYSEX_START) continue;
		if (isMatch(match)) {
			haul.refuseOtherId(match);
			if (!begun) emit({ event: 'hands done' });
			begun = true;
			take(match, heard.bytes);
			match.pieces.forEach((piece) => came.put(piece));
			for (const first of awaited) if (hasGroup(ask, first, came)) awaited.delete(first);
		} else if (match.why === 'other message') {
			if (heard.bytes[1] !== 0x7e && heard.bytes[1] !== 0x7f)
				throw new Stop(wrongModel(profile, 'A dump of another model arrived'));
		} else {
			begun = true;
			haul.distrust(match);
			const at = deviceIdOffset(profile, expected[0]);
			if (at > 0 && heard.bytes[at] !== target.deviceId && match.why !== 'length')
				throw new Stop(wrongDeviceId(profile, heard.bytes[at], target.deviceId));
			emit({ event: 'retry', says: match.says });
			// Which group it was is unknown when it is damaged: all that are awaited stay missing with this reason.
			for (const first of awaited) haul.blame(ask.area, slotsFrom(ask, first), match.says);
		}
	}
	emit({ event: 'hands done' });
	return came;
}
