import { sameBytes, fromHex } from '../midi';
import type { Profile } from '../profile';
import { ALL_DEVICES, identityRequest, readIdentityReply, type Identity } from '../sysex';
import type { Conversation } from './conversation';
import type { Reason } from './outcome';

/** Where a device listens. `deviceId` as on the wire, `channel` 1–16. */
export interface Target {
	deviceId: number;
	channel: number;
}

const ANSWER_MS = 700;

type Found = { identity: Identity | null; reason: null } | { identity: Identity | null; reason: Reason };

const panelId = (profile: Profile, id: number) => id + (profile.addressing.deviceId?.panelAdd ?? 0);

export const wrongModel = (profile: Profile, says = 'Something else answered on this port'): Reason => ({
	code: 'wrong model',
	says: `${says}: it is not a ${profile.maker} ${profile.model}.`,
	remedy: 'Check which device is plugged in to this port. Nothing was written.'
});

export const wrongDeviceId = (profile: Profile, found: number, wanted: number): Reason => ({
	code: 'wrong device ID',
	says: `A ${profile.model} answers with device ID ${panelId(profile, found)}; the catalogue says ${panelId(profile, wanted)}.`,
	remedy: `Set device ID ${panelId(profile, wanted)} on its panel, or correct the catalogue. With two units of one model, this may be the other one.`
});

export const noAnswer = (profile: Profile): Reason => ({
	code: 'no answer',
	says: `The ${profile.model} does not answer.`,
	remedy: 'Check that it is on, that its out goes to this port’s in and its in to this port’s out, and that “exclusive” is enabled on it.'
});

export const CANCELLED: Reason = { code: 'cancelled', says: 'You cancelled it.', remedy: 'Start again when you are ready.' };
export const UNPLUGGED: Reason = { code: 'unplugged', says: 'The port went away and did not come back.', remedy: 'Plug it in again, then resume.' };

/** How long an unplugged port may stay away, in ms, where an order does not say. */
export const PATIENCE_MS = 20_000;

/**
 * Asks who is there, and refuses what is not the device of the catalogue. Devices that answer no identity pass. A port
 * that goes away is waited for, and asked anew.
 */
export function* identify(profile: Profile, target: Target, patienceMs = PATIENCE_MS): Conversation<Found> {
	for (;;) {
		const found = yield* ask(profile, target);
		if (found.reason !== UNPLUGGED) return found;
		const back = yield { do: 'await port', patienceMs };
		if (back.heard === 'cancelled') return { identity: null, reason: CANCELLED };
		if (back.heard !== 'done') return found;
	}
}

function* ask(profile: Profile, target: Target): Conversation<Found> {
	if (!profile.identity.answers) return { identity: null, reason: null };
	const addressed = profile.addressing.deviceId !== undefined;
	const attempts = addressed ? [target.deviceId, target.deviceId, ALL_DEVICES] : [ALL_DEVICES, ALL_DEVICES, ALL_DEVICES];
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
			if (addressed && reply.deviceId !== target.deviceId) return { identity: reply, reason: wrongDeviceId(profile, reply.deviceId, target.deviceId) };
			return { identity: reply, reason: null };
		}
	}
	return stranger ? { identity: stranger, reason: wrongModel(profile) } : { identity: null, reason: noAnswer(profile) };
}

/** Whether an identity reply is that of the profile's model. */
export function isModel(profile: Profile, reply: Identity): boolean {
	const { manufacturer, family, member } = profile.identity;
	return sameBytes(reply.manufacturer, fromHex(manufacturer)) && sameBytes(reply.family, fromHex(family)) && sameBytes(reply.member, fromHex(member));
}
