import { ALL_DEVICES, modelKey } from '../sysex';
import { rollCall, type Conversation, type RollAnswer, type RollCall } from '../transfer';
import { CiTalk, Interrupted, type Peer } from './talk';
import { speaksProperties } from './message';

/** As the roll call tells it, with whether it describes itself. */
export interface CalledAnswer extends RollAnswer {
	describes: boolean;
}

/**
 * Those who answered an identity request with those who answered a discovery: who answers only this one has no device ID, and
 * is heard by all.
 */
export function withPeers(
	answers: readonly RollAnswer[],
	peers: readonly Pick<Peer, 'says'>[]
): CalledAnswer[] {
	const describing = new Set(
		peers.filter(({ says }) => speaksProperties(says)).map(({ says }) => modelKey(says))
	);
	const known = new Set(answers.map(({ identity }) => modelKey(identity)));
	const silent = new Map<string, RollAnswer>();
	for (const { says } of peers) {
		const { manufacturer, family, member, version } = says;
		const identity = { deviceId: ALL_DEVICES, manufacturer, family, member, version };
		const model = modelKey(identity);
		if (!known.has(model)) silent.set(model, { identity, units: (silent.get(model)?.units ?? 0) + 1 });
	}
	return [...answers, ...silent.values()].map((answer) => ({
		...answer,
		describes: describing.has(modelKey(answer.identity))
	}));
}

/** Calls the roll on one port by identity requests, then by a discovery. */
export function* rollCallWithDiscovery(
	random: () => number
): Conversation<Omit<RollCall, 'answers'> & { answers: CalledAnswer[] }> {
	const { answers, reason } = yield* rollCall();
	if (reason) return { answers: withPeers(answers, []), reason };
	const talk = new CiTalk(random);
	try {
		const peers = yield* talk.discover();
		return { answers: withPeers(answers, peers), reason: null };
	} catch (error) {
		if (!(error instanceof Interrupted)) throw error;
		return { answers: withPeers(answers, []), reason: null };
	}
}
