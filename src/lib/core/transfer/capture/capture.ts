import { believedTwice, messagesOf, tellsValues } from '../../profile';
import { countSlots, notThere, slotsInScope, type SlotSet } from '../scope';
import type { Identity } from '../../sysex';
import type { Conversation } from '../conversation';
import type { Emit } from '../events';
import { identify } from '../identify';
import { missingSlots } from '../missing';
import type { CaptureOutcome, Reason } from '../outcome';
import { damagedReason, doesNotFollow } from '../reasons';
import { asksBy, askingCost, planCapture, type Ask } from '../asks';
import { askFor, confirm, lookAt } from './asking';
import { Haul } from './haul';
import { Stop, rest } from '../line';
import { listenForDump } from './listening';
import type { CaptureOrder } from './order';

/**
 * Captures the memory in `scope`. Ends complete, incomplete with exactly what is missing, or refused with the reason.
 * A later call with `have` resumes where this one stopped.
 */
export function* capture(order: CaptureOrder, emit: Emit): Conversation<CaptureOutcome> {
	const { profile, target } = order;
	const absent = notThere(profile, order.scope);
	const wanted: SlotSet = absent === null ? slotsInScope(profile, order.scope) : new Map();
	const haul = new Haul(order, emit);
	const twice = believedTwice(profile);
	if (tellsValues(profile)) yield { do: 'attend' };
	let identity: Identity | null = null;
	const end = (reason: Reason | null): CaptureOutcome => {
		const missing = missingSlots(profile, wanted, haul, reason);
		const total = countSlots(wanted);
		const status =
			total > 0 && missing.length === 0 ? 'complete' : missing.length === total ? 'refused' : 'incomplete';
		return {
			kind: 'capture',
			status,
			reason: status === 'complete' ? null : (reason ?? damagedReason(profile, missing)),
			missing,
			messages: haul.messages,
			identity
		};
	};

	if (countSlots(wanted) === 0)
		return end({
			code: 'nothing to do',
			says: absent === null ? 'No slot was chosen.' : `A ${profile.model} has no “${absent}” to send.`,
			remedy: 'Choose what it has.'
		});
	if (!order.identified) {
		emit({ event: 'phase', phase: 'identity', bytes: 0, ms: 0, messages: 1 });
		const found = yield* identify(profile, target, order.patienceMs);
		identity = found.identity;
		if (found.reason) return end(found.reason);
	}

	const { asks, impossible } = planCapture(
		profile,
		haul.of(wanted, false),
		(area, slot, section) => haul.bytesOf(area, slot, section) === null
	);
	if (asks.length === 0 && impossible.length > 0)
		return end({
			code: 'receive only',
			says: `The ${profile.model} cannot send its memory.`,
			remedy: 'Write its settings down, or keep the dump that you send to it.'
		});
	const isCalled = ({ way }: Ask) => messagesOf(way.expect).some((id) => haul.panel.namesBehind(id));
	/** What never says where it stands, and what has no checksum, is believed only when it came twice alike. */
	const unsure = twice ? asks : asks.filter(isCalled);
	let isShown = false;
	const cost = askingCost(asks);
	emit({
		event: 'phase',
		phase: 'capture',
		bytes: cost.bytes,
		ms: cost.ms,
		messages: asks.reduce((sum, ask) => sum + ask.messages, 0)
	});

	try {
		yield* takeAll(haul, asks);
		if (haul.distrusted || unsure.length > 0)
			yield* confirmAll(haul, [...asks, ...planCapture(profile, haul.of(wanted, true)).asks]);
		yield* assertFollows(haul, asks.filter(isCalled));
		isShown = true;
		if (!order.panel) yield* haul.panel.putBack();
	} catch (error) {
		if (!(error instanceof Stop)) throw error;
		if (!isShown) for (const ask of unsure) haul.forget(ask);
		return end(error.reason);
	}
	return end(null);
}

/** Takes one message after the other, each in the way that the device knows. */
function* takeAll(haul: Haul, asks: readonly Ask[]): Conversation<void> {
	for (const [i, ask] of asks.entries()) {
		if (i > 0 && ask.way.gapMs > 0) yield* rest(ask.way.gapMs * (haul.order.paceFactor ?? 1));
		if (ask.way.start.by === 'panel') yield* listenForDump(haul, ask);
		else yield* askFor(haul, ask);
	}
}

/**
 * Makes sure that calling a slot up does anything: where all that came is alike, other slots are looked at, too.
 * @throws Stop where it gives the same, whatever is called up
 */
function* assertFollows(haul: Haul, asks: readonly Ask[]): Conversation<void> {
	const { profile } = haul.order;
	const { called } = haul.panel;
	for (const area of new Set(asks.map((ask) => ask.area))) {
		const own = asks.filter((ask) => ask.area === area);
		for (const ask of own) {
			const memory = haul.memoryFor(ask);
			if (memory) called.saw(area, ask.firsts[0], memory);
		}
		if (own.every((ask) => !haul.memoryFor(ask))) continue;
		const read = (slot: number) => lookAt(haul, asksBy(profile, own[0].way, slot)[0]);
		if (yield* called.witnesses(area, read)) continue;
		for (const ask of own) haul.forget(ask);
		throw new Stop(doesNotFollow(profile, haul.order.target.channel));
	}
}

/** Reads everything that can be asked for a second time. */
function* confirmAll(haul: Haul, asks: readonly Ask[]): Conversation<void> {
	const again = new Map(
		asks
			.filter((ask) => ask.way.start.by === 'request' && haul.memoryFor(ask))
			.map((ask) => [`${messagesOf(ask.way.expect).join()} ${JSON.stringify(ask.request)}`, ask])
	);
	haul.emit({ event: 'phase', phase: 'capture', ...askingCost([...again.values()]), messages: again.size });
	for (const ask of again.values()) yield* confirm(haul, ask);
}
