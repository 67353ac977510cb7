import { Problem } from '../problem';
import { modelKey } from '../sysex';
import type { Conversation, Heard } from '../transfer';
import { asciiJson, decodeBody, encodeBody, readJson, type Encoding } from './body';
import { Joined, chunksOf, type Property } from './chunks';
import {
	BROADCAST,
	CI,
	chunkBody,
	ciMessage,
	discoveryBody,
	goodbye,
	invalidation,
	OWN,
	pickMuid,
	readAbilities,
	readChunk,
	readCiMessage,
	readDiscovery,
	readInvalidated,
	readRefusal,
	type CiMessage,
	type Discovery,
	type Muid
} from './message';
import { headerSchema, type ReplyHeader } from './resources';
import { Subscriptions } from './subscriptions';

/** One that answered the discovery. */
export interface Peer {
	muid: Muid;
	version: number;
	says: Discovery;
}

/** What ended a question from outside: called off, a cable pulled, or nothing came. */
export class Interrupted extends Error {
	constructor(readonly heard: Heard) {
		super(heard.heard);
	}
}

/** The instrument will not, and says why. */
export class Refused extends Error {
	constructor(
		readonly status: number,
		readonly says: string
	) {
		super(says);
	}
}

/** An answer came and was hurt on its way. */
export class Damaged extends Error {}

/** Numbers are no longer what they were: somebody else has ours, or the instrument took another one. */
class Renumbered extends Error {}

const isSilence = (error: unknown): boolean =>
	error instanceof Interrupted && error.heard.heard === 'silence';

/** Silence after which nobody else answers a discovery. */
const QUIET_MS = 450;
const ANSWER_MS = 1500;
const TRIES = 2;
/** Rest between the chunks of what is sent. */
const GAP_MS = 2;
/** A property as it was answered. */
export interface Answer {
	header: ReplyHeader;
	body: Uint8Array;
}

/** The head of an answer that says that it was done. @throws Refused where it was not; Problem `ci.body` where it cannot be read */
function wellSaid(told: Uint8Array): ReplyHeader {
	const read = headerSchema.safeParse(readJson(told));
	if (!read.success) throw new Problem('ci.body', 'The head of its answer cannot be read.', 'Ask it again.');
	const { status = 200, message = '' } = read.data;
	if (status < 200 || status > 299) throw new Refused(status, message);
	return read.data;
}

/** Who speaks MIDI-CI with the instruments of a port: one question at a time. */
export class CiTalk {
	#me: Muid;
	#request = 0;
	#peer: Peer | null = null;
	readonly #subscriptions = new Subscriptions();

	/** @param random a number in [0, 1), which picks the number that is ours */
	constructor(
		private readonly random: () => number,
		private readonly paceFactor = 1
	) {
		this.#me = pickMuid(random);
	}

	/**
	 * Asks who is there. Numbers that clash are given up, and asked again.
	 * @throws Interrupted where it was called off or the port went away
	 */
	*discover(): Conversation<Peer[]> {
		for (let round = 0; ; round++) {
			yield* this.#send(ciMessage(CI.discovery, this.#me, BROADCAST, discoveryBody(OWN)));
			const peers: Peer[] = [];
			let clash = false;
			for (;;) {
				const heard = yield { do: 'wait', idleMs: QUIET_MS };
				if (heard.heard === 'silence') break;
				if (heard.heard === 'cancelled' || heard.heard === 'unplugged') throw new Interrupted(heard);
				const message = heard.heard === 'message' ? readCiMessage(heard.bytes) : null;
				if (!message) continue;
				if (this.#isMine(message)) clash = true;
				if (message.kind !== CI.discoveryReply || message.to !== this.#me) continue;
				const says = readDiscovery(message);
				if (!says) continue;
				const twin = peers.find(({ muid }) => muid === message.from);
				// Two with one number: both have to take another.
				if (twin) {
					yield* this.#send(invalidation(this.#me, message.from));
					clash = true;
				} else peers.push({ muid: message.from, version: message.version, says });
			}
			if (!clash || round === TRIES) return peers;
			this.#me = pickMuid(this.random);
		}
	}

	/** Speaks with this one from here on. */
	speakWith(peer: Peer): void {
		this.#peer = peer;
	}

	/** Whoever is behind the port now is to be found first. */
	forget(): void {
		this.#peer = null;
		this.#subscriptions.lose();
	}

	get peer(): Peer | null {
		return this.#peer;
	}

	/**
	 * Ends what is subscribed to and says goodbye to our number, so that the instrument keeps nothing for it.
	 * Whatever comes of it: the conversation is over.
	 */
	*leave(): Conversation<void> {
		if (!this.#peer) return;
		const { muid } = this.#peer;
		this.#peer = null;
		for (const subscribeId of this.#subscriptions.lose()) {
			const header = asciiJson({ command: 'end', subscribeId });
			const [chunk] = chunksOf(this.#nextRequest(), { header, data: new Uint8Array() }, OWN.mostBytes);
			yield { do: 'send', bytes: ciMessage(CI.subscription, this.#me, muid, chunkBody(chunk)) };
		}
		yield { do: 'send', bytes: goodbye(this.#me) };
	}

	/**
	 * Asks for a property.
	 * @throws Interrupted, Refused, Damaged; Problem `ci.body` where the answer cannot be read
	 */
	*get(resource: string, more: Record<string, unknown> = {}, timeoutMs = ANSWER_MS): Conversation<Answer> {
		const header = asciiJson({ resource, ...more });
		const { header: told, data } = yield* this.#again(() =>
			this.#ask(CI.get, CI.getReply, { header, data: new Uint8Array() }, timeoutMs)
		);
		const read = wellSaid(told);
		return { header: read, body: decodeBody(data, read.mutualEncoding) };
	}

	/**
	 * Has it tell when a property changes, until `leave`.
	 * @throws as {@link get}
	 */
	*subscribe(resource: string, more: Record<string, unknown> = {}): Conversation<void> {
		const header = asciiJson({ command: 'start', resource, ...more });
		const { header: told } = yield* this.#once(() =>
			this.#ask(CI.subscription, CI.subscriptionReply, { header, data: new Uint8Array() }, ANSWER_MS)
		);
		const { subscribeId } = wellSaid(told);
		if (subscribeId === undefined)
			throw new Problem('ci.body', 'It took a subscription and gave no number for it.', 'Ask it again.');
		this.#subscriptions.hold(subscribeId);
	}

	/** Whether anything that is subscribed to changed since this was asked last, or may have, unsaid. */
	toldChanges(): boolean {
		return this.#subscriptions.changed();
	}

	/** Takes what the instrument says while nothing is asked, and answers where an answer is due. */
	*overhear(bytes: Uint8Array): Conversation<void> {
		const message = this.#peer && readCiMessage(bytes);
		if (message && message.from === this.#peer?.muid && message.to === this.#me) yield* this.#told(message);
	}

	/**
	 * Gives it a property. It is sent once: where no answer comes, it may have been taken all the same.
	 * @throws as {@link get}
	 */
	*set(
		resource: string,
		more: Record<string, unknown>,
		body: Uint8Array,
		encoding: Encoding,
		timeoutMs = ANSWER_MS
	): Conversation<void> {
		const header = asciiJson({
			resource,
			...more,
			...(encoding === 'ASCII' ? {} : { mutualEncoding: encoding })
		});
		const data = encodeBody(body, encoding);
		const reply = yield* this.#once(() => this.#ask(CI.set, CI.setReply, { header, data }, timeoutMs));
		wellSaid(reply.header);
	}

	/** Whether it speaks property exchange, asked of itself. @throws Interrupted, Refused */
	*asksForProperties(): Conversation<boolean> {
		const peer = this.#peer!;
		yield* this.#send(ciMessage(CI.propertyAbilities, this.#me, peer.muid, [1, 0, 0]));
		const message = yield* this.#hear(CI.propertyAbilitiesReply, CI.propertyAbilities, ANSWER_MS);
		return (readAbilities(message) ?? 0) > 0;
	}

	/** Once more where nothing came, or nothing whole. An instrument that fell silent may have another number since. */
	*#again<R>(ask: () => Conversation<R>): Conversation<R> {
		for (let attempt = 1; ; attempt++) {
			try {
				return yield* ask();
			} catch (error) {
				const lost = isSilence(error) || error instanceof Renumbered;
				if (attempt === TRIES || !(lost || error instanceof Damaged)) throw error;
				if (lost) yield* this.#findAgain();
			}
		}
	}

	/** Once only, since what was sent may have arrived: whoever gave the order decides whether to give it again. */
	*#once<R>(ask: () => Conversation<R>): Conversation<R> {
		try {
			return yield* ask();
		} catch (error) {
			if (!(isSilence(error) || error instanceof Renumbered)) throw error;
			yield* this.#findAgain();
			throw new Interrupted({ heard: 'silence' });
		}
	}

	/** The same instrument under its new number. */
	*#findAgain(): Conversation<void> {
		const before = this.#peer!;
		// Whatever it held for us was held for another number.
		this.#subscriptions.lose();
		this.#me = pickMuid(this.random);
		const found = (yield* this.discover()).filter(({ says }) => modelKey(says) === modelKey(before.says));
		if (found.length !== 1) throw new Interrupted({ heard: 'silence' });
		this.#peer = found[0];
	}

	*#ask(kind: number, reply: number, property: Property, timeoutMs: number): Conversation<Property> {
		const peer = this.#peer!;
		const request = this.#nextRequest();
		for (const chunk of chunksOf(request, property, peer.says.mostBytes)) {
			if (chunk.chunk > 1) yield* this.#rest();
			yield* this.#send(ciMessage(kind, this.#me, peer.muid, chunkBody(chunk)));
		}
		const joined = new Joined();
		for (;;) {
			const message = yield* this.#hear(reply, kind, timeoutMs);
			const chunk = readChunk(message);
			if (!chunk || chunk.request !== request) continue;
			const whole = joined.push(chunk);
			if (whole === 'broken') throw new Damaged('its parts do not fit together');
			if (whole) return whole;
		}
	}

	#nextRequest(): number {
		this.#request = (this.#request + 1) % 128;
		return this.#request;
	}

	/** Word of a subscription: it is answered, whatever it is. */
	*#told(message: CiMessage): Conversation<void> {
		if (message.kind !== CI.subscription) return;
		const answer = this.#subscriptions.take(message);
		if (answer) yield* this.#send(ciMessage(CI.subscriptionReply, this.#me, message.from, chunkBody(answer)));
	}

	/** The next message of a kind that is for us. */
	*#hear(kind: number, asked: number, timeoutMs: number): Conversation<CiMessage> {
		for (;;) {
			const heard = yield { do: 'wait', idleMs: timeoutMs };
			if (heard.heard === 'broken') throw new Damaged(heard.reason);
			if (heard.heard !== 'message') throw new Interrupted(heard);
			const message = readCiMessage(heard.bytes);
			if (!message) continue;
			if (this.#isMine(message)) throw new Renumbered();
			const peer = this.#peer!;
			if (message.from !== peer.muid) continue;
			if (message.kind === CI.invalidate && readInvalidated(message) === peer.muid) throw new Renumbered();
			if (message.to !== this.#me) continue;
			if (message.kind === CI.nak) {
				const { about, status, text } = readRefusal(message);
				if (about === null || about === asked) throw new Refused(status, text);
			}
			if (message.kind === kind) return message;
			yield* this.#told(message);
		}
	}

	/** Whether somebody else speaks with our number, or says that it is not ours. */
	#isMine(message: CiMessage): boolean {
		return (
			message.from === this.#me || (message.kind === CI.invalidate && readInvalidated(message) === this.#me)
		);
	}

	*#send(bytes: Uint8Array): Conversation<void> {
		const heard = yield { do: 'send', bytes };
		if (heard.heard !== 'done') throw new Interrupted(heard);
	}

	*#rest(): Conversation<void> {
		const heard = yield { do: 'sleep', ms: GAP_MS * this.paceFactor };
		if (heard.heard === 'cancelled') throw new Interrupted(heard);
	}
}
