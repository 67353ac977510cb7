import { sameBytes } from '../../midi';
import { deviceIdOffset, isMatch, matchMessage, type Match } from '../../profile';
import type { Conversation } from '../conversation';
import { CANCELLED, wrongDeviceId, wrongModel } from '../reasons';
import type { Ask } from '../ways';
import type { Haul } from './haul';
import { Stop, comeBack } from '../line';

/** Waits for a dump that somebody starts at the panel; twice where the line damages data. */
export function* listenForDump(haul: Haul, ask: Ask): Conversation<void> {
	if (ask.way.start.by !== 'panel') return;
	yield* listenOnce(haul, ask, ask.way.start, ask.way.start.instruction, (match, bytes) => {
		if (!haul.holds(match)) haul.accept(match, bytes);
	});
	// As in `confirm`: a line that damages data is believed only when it says the same twice.
	if (!haul.distrusted) return;
	const proved = new Set<number>();
	yield* listenOnce(
		haul,
		ask,
		ask.way.start,
		`Some of it arrived damaged. Once more, to compare: ${ask.way.start.instruction}`,
		(match, bytes) => {
			const before = haul.receivedFor(ask, match.firstSlot);
			if (before && sameBytes(before, bytes)) proved.add(match.firstSlot);
		}
	);
	for (const first of ask.firsts)
		if (!proved.has(first)) {
			haul.forget(ask, first);
			haul.blame(ask, first, 'it did not come twice in the same way');
		}
}

function* listenOnce(
	haul: Haul,
	ask: Ask,
	start: { waitMs: number },
	says: string,
	take: (match: Match, bytes: Uint8Array) => void
): Conversation<void> {
	const { order, emit } = haul;
	const { profile, target } = order;
	const { way } = ask;
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
		const match = matchMessage(profile, way.expect, heard.bytes);
		if (isMatch(match)) {
			haul.refuseOtherId(match);
			if (!begun) emit({ event: 'hands done' });
			begun = true;
			if (awaited.delete(match.firstSlot)) take(match, heard.bytes);
		} else if (match.why === 'other message') {
			if (heard.bytes[1] !== 0x7e && heard.bytes[1] !== 0x7f)
				throw new Stop(wrongModel(profile, 'A dump of another model arrived'));
		} else {
			begun = true;
			haul.distrust(match);
			const at = deviceIdOffset(profile, way.expect);
			if (at > 0 && heard.bytes[at] !== target.deviceId && match.why !== 'length')
				throw new Stop(wrongDeviceId(profile, heard.bytes[at], target.deviceId));
			emit({ event: 'retry', says: match.says });
			// Which group it was is unknown when it is damaged: all that are awaited stay missing with this reason.
			for (const first of awaited) haul.blame(ask, first, match.says);
		}
	}
	emit({ event: 'hands done' });
}
