import { fromHex } from '../midi';
import { buildMessage, describesItself, isMatch, matchMessage, suitsVersion, type Profile } from '../profile';
import {
	ALL_DEVICES,
	identityRequest,
	modelKey,
	readIdentityReply,
	type Identity,
	type Model
} from '../sysex';
import type { Conversation } from './conversation';
import { firmwareOf, type Reason } from './outcome';
import { CANCELLED, UNPLUGGED, noAnswer, otherVariant, wrongDeviceId, wrongModel } from './reasons';

/** Where a device listens. `deviceId` as on the wire, `channel` 1–16. */
export interface Target {
	deviceId: number;
	channel: number;
}

/** Where a device of the catalogue listens: as it is noted, else as its model comes. */
export const targetOf = (
	{ deviceId, channel }: { deviceId: number | null; channel: number | null },
	profile: Profile | null
): Target => ({
	deviceId: deviceId ?? profile?.addressing.deviceId?.default ?? 0,
	channel: channel ?? 1
});

const ANSWER_MS = 700;

type Found = { identity: Identity | null; reason: null } | { identity: Identity | null; reason: Reason };

/** How long an unplugged port may stay away, in ms, where an order does not say. */
export const PATIENCE_MS = 20_000;

/**
 * Asks who is there, and refuses what is not the device of the catalogue. Devices that answer no identity pass. A port
 * that goes away is waited for, and asked anew.
 */
export function* identify(profile: Profile, target: Target, patienceMs = PATIENCE_MS): Conversation<Found> {
	for (;;) {
		const found = yield* askWhich(profile, target);
		if (found.reason !== UNPLUGGED) return found;
		const back = yield { do: 'await port', patienceMs };
		if (back.heard === 'cancelled') return { identity: null, reason: CANCELLED };
		if (back.heard !== 'done') return found;
	}
}

/** Asks who is there, then, where versions do not tell, which of several variants it is. */
function* askWhich(profile: Profile, target: Target): Conversation<Found> {
	const found = yield* ask(profile, target);
	const { tells } = profile.variant ?? {};
	if (found.reason || !tells) return found;
	const end = (reason: Reason | null): Found => ({ identity: found.identity, reason }) as Found;
	let isOther = false;
	for (let attempt = 0; attempt < 3; attempt++) {
		isOther = false;
		const sent = yield { do: 'send', bytes: buildMessage(profile, tells.ask, target) };
		if (sent.heard === 'cancelled') return end(CANCELLED);
		if (sent.heard === 'unplugged') return end(UNPLUGGED);
		for (;;) {
			const heard = yield { do: 'wait', idleMs: tells.timeoutMs };
			if (heard.heard === 'cancelled') return end(CANCELLED);
			if (heard.heard === 'unplugged') return end(UNPLUGGED);
			if (heard.heard === 'silence') break;
			if (heard.heard !== 'message') continue;
			const match = matchMessage(profile, tells.says, heard.bytes);
			if (isMatch(match) && (match.variables.deviceId ?? target.deviceId) === target.deviceId)
				return end(null);
			// Its maker's own word, and not what this variant answers; notes, and what others say, are no answer.
			isOther ||= isOfMaker(profile, heard.bytes);
		}
	}
	return end(isOther ? otherVariant(profile, firmwareOf(found.identity)) : noAnswer(profile));
}

/** Whether a message is system exclusive of the maker of the model. */
const isOfMaker = (profile: Profile, bytes: Uint8Array): boolean =>
	bytes[0] === 0xf0 && fromHex(profile.identity.manufacturer).every((byte, i) => bytes[1 + i] === byte);

function* ask(profile: Profile, target: Target): Conversation<Found> {
	if (!profile.identity.answers) return { identity: null, reason: null };
	const addressed = profile.addressing.deviceId !== undefined;
	const attempts = addressed
		? [target.deviceId, target.deviceId, ALL_DEVICES]
		: [ALL_DEVICES, ALL_DEVICES, ALL_DEVICES];
	let stranger: Identity | null = null;
	for (const deviceId of attempts) {
		const sent = yield { do: 'send', bytes: identityRequest(deviceId) };
		if (sent.heard === 'cancelled') return { identity: null, reason: CANCELLED };
		if (sent.heard === 'unplugged') return { identity: null, reason: UNPLUGGED };
		for (;;) {
			const heard = yield { do: 'wait', idleMs: ANSWER_MS };
			if (heard.heard === 'cancelled') return { identity: null, reason: CANCELLED };
			if (heard.heard === 'unplugged') return { identity: null, reason: UNPLUGGED };
			if (heard.heard === 'silence') break;
			if (heard.heard !== 'message') continue;
			const reply = readIdentityReply(heard.bytes);
			if (!reply) continue;
			if (!isModel(profile, reply)) {
				stranger = reply;
				continue;
			}
			if (addressed && reply.deviceId !== target.deviceId)
				return { identity: reply, reason: wrongDeviceId(profile, reply.deviceId, target.deviceId) };
			if (!suitsVersion(profile, reply.version))
				return { identity: reply, reason: otherVariant(profile, firmwareOf(reply)) };
			return { identity: reply, reason: null };
		}
	}
	return stranger
		? { identity: stranger, reason: wrongModel(profile) }
		: { identity: null, reason: noAnswer(profile) };
}

/** Whether a model answers when the roll is called: an identity request, or a discovery. */
export const answersRoll = (profile: Profile): boolean =>
	profile.identity.answers || describesItself(profile);

/** Whether an identity reply is that of the profile's model, in a version that it is for. */
export const isVariant = (profile: Profile, reply: Model & Pick<Identity, 'version'>): boolean =>
	isModel(profile, reply) && suitsVersion(profile, reply.version);

/** Whether an identity reply is that of the profile's model, whichever variant it is. */
export function isModel(profile: Profile, reply: Model): boolean {
	const { manufacturer, family, member } = profile.identity;
	const own = { manufacturer: fromHex(manufacturer), family: fromHex(family), member: fromHex(member) };
	return modelKey(reply) === modelKey(own);
}
