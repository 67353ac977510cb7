import { Problem } from '../problem';
import {
	describesItself,
	readSaid,
	recordOfState,
	sayOf,
	stateOfRecord,
	type DescribedArea,
	type Form,
	type Profile,
	type Said
} from '../profile';
import { isModel, type Conversation, type Heard } from '../transfer';
import { listOf, readResource, titlesOf } from './lists';
import { speaksProperties } from './message';
import { resourceListSchema } from './resources';
import { CiTalk, Damaged, Interrupted, Refused } from './talk';

/** What says that the instrument cannot just now (M2-103): it is asked again after a rest. */
const NOT_NOW = [341, 343];
const NOT_NOW_MS = 400;
const NOT_NOW_TRIES = 6;

/** It may not be written. */
const FORBIDDEN = 403;

const DONE: Heard = { heard: 'done' };

/**
 * Carries a conversation of the engine with an instrument that describes itself: what the engine asks and writes slot by slot
 * is asked and written as properties, and what comes is put into the messages that the engine knows. Everything else passes.
 * @param random a number in [0, 1)
 */
export function* throughProperties<R>(
	profile: Profile,
	conversation: Conversation<R>,
	random: () => number,
	paceFactor = 1
): Conversation<R> {
	if (!describesItself(profile)) return yield* conversation;
	const voice = new Voice(profile, random, paceFactor);
	let heard: Heard = DONE;
	for (;;) {
		const step = conversation.next(heard);
		if (step.done) {
			yield* voice.leave();
			return step.value;
		}
		const { value } = step;
		const said = value.do === 'send' ? readSaid(profile, value.bytes) : null;
		const answer = value.do === 'wait' ? voice.answer() : null;
		if (said) heard = yield* voice.carry(said);
		else if (answer) heard = answer;
		else {
			heard = yield value;
			if (heard.heard === 'message') yield* voice.overhear(heard.bytes);
		}
		if (heard.heard === 'unplugged') voice.forget();
	}
}

/** What is asked beside the matter: where no answer comes of it, all goes on without. @throws Interrupted but by silence */
function* orNothing<T>(asks: Conversation<T>): Conversation<T | null> {
	try {
		return yield* asks;
	} catch (error) {
		const without =
			error instanceof Interrupted
				? error.heard.heard === 'silence'
				: error instanceof Problem || error instanceof Damaged || error instanceof Refused;
		if (without) return null;
		throw error;
	}
}

/** Who speaks with the instrument in the engine's name. */
class Voice {
	readonly #talk: CiTalk;
	/** What the engine has not heard yet. */
	#answers: Heard[] = [];
	/** Titles of states by area, and what was asked since they were read. */
	#titles = new Map<string, { titles: Map<string, string>; used: Set<number> }>();
	/** What it tells changes of, as it says itself; and the areas whose list it was asked to tell of. */
	#tellsOf: ReadonlySet<string> = new Set();
	#followed = new Set<string>();

	constructor(
		private readonly profile: Profile,
		random: () => number,
		paceFactor: number
	) {
		this.#talk = new CiTalk(random, paceFactor);
	}

	answer = (): Heard | null => this.#answers.shift() ?? null;
	leave = (): Conversation<void> => this.#talk.leave();
	overhear = (bytes: Uint8Array): Conversation<void> => this.#talk.overhear(bytes);

	/** Behind a port that went away there may be another one. */
	forget(): void {
		this.#talk.forget();
		this.#titles.clear();
		this.#followed.clear();
	}

	/** Does what the engine said; what comes of it is waited for. */
	*carry(said: Said): Conversation<Heard> {
		// An answer that nobody waited for is not one to this.
		this.#answers = [];
		try {
			if (!(yield* this.#meet())) return DONE;
			if (said.form === 'ask') yield* this.#read(said);
			else if (said.form === 'state') yield* this.#write(said);
		} catch (error) {
			if (error instanceof Interrupted) return error.heard.heard === 'silence' ? DONE : error.heard;
			// What cannot be read, or is refused, is asked again by the engine, as any damaged answer.
			if (!(error instanceof Problem || error instanceof Damaged || error instanceof Refused)) throw error;
			const reason =
				error instanceof Refused ? `it refused: ${error.says || `status ${error.status}`}` : error.message;
			this.#answers.push({ heard: 'broken', bytes: new Uint8Array(), reason });
		}
		return DONE;
	}

	/** Finds the instrument on the line, once: it has to be that model, and the only one. */
	*#meet(): Conversation<boolean> {
		if (this.#talk.peer) return true;
		const found = (yield* this.#talk.discover()).filter(
			({ says }) => speaksProperties(says) && isModel(this.profile, says)
		);
		if (found.length !== 1) return false;
		this.#talk.speakWith(found[0]);
		if (!(yield* this.#talk.asksForProperties())) return false;
		const resources = yield* orNothing(readResource(this.#talk, 'ResourceList', resourceListSchema));
		this.#tellsOf = new Set(
			resources?.flatMap(({ resource, canSubscribe }) => (canSubscribe ? [resource] : []))
		);
		return true;
	}

	/** Has it tell when the list that names an area's slots changes: else that is seen when they are asked a second time. */
	*#follow({ id, described: { titles } }: DescribedArea): Conversation<void> {
		const { resource, more } = listOf(titles);
		if (this.#followed.has(id) || !this.#tellsOf.has(resource)) return;
		this.#followed.add(id);
		yield* orNothing(this.#talk.subscribe(resource, more));
	}

	*#read({ area, slot }: Said): Conversation<void> {
		const { described } = area;
		const resId = described.states[slot];
		const titles = yield* this.#titlesFor(area, slot);
		const { body } = yield* this.#patiently(() =>
			this.#talk.get('State', { resId, mutualEncoding: described.encoding }, described.timeoutMs)
		);
		const record = recordOfState(this.profile, area, { title: titles.get(resId) ?? '', body });
		if (!record)
			throw new Damaged(
				`its state has ${body.length} bytes; it said ${described.room} at most: ask it what it is now`
			);
		this.#tell(area, 'state', slot, record);
	}

	#tell(area: DescribedArea, form: Form, slot: number, memory?: Uint8Array): void {
		this.#answers.push({ heard: 'message', bytes: sayOf(this.profile, area, form, slot, memory) });
	}

	/** What slots are called now: read again where one is asked for a second time, was written since, or the list is told to have changed. */
	*#titlesFor(area: DescribedArea, slot: number): Conversation<Map<string, string>> {
		if (this.#talk.toldChanges()) this.#titles.clear();
		const known = this.#titles.get(area.id);
		if (known && !known.used.has(slot)) {
			known.used.add(slot);
			return known.titles;
		}
		yield* this.#follow(area);
		const titles = yield* this.#patiently(() => titlesOf(this.#talk, area.described.titles));
		this.#titles.set(area.id, { titles, used: new Set([slot]) });
		return titles;
	}

	*#write({ area, slot, memory }: Said): Conversation<void> {
		const { described } = area;
		const state = stateOfRecord(this.profile, memory);
		let form: Form = 'refused';
		if (state)
			try {
				this.#titles.clear();
				yield* this.#patiently(() =>
					this.#talk.set(
						'State',
						{ resId: described.states[slot] },
						state.body,
						described.encoding,
						described.timeoutMs
					)
				);
				form = 'taken';
			} catch (error) {
				if (!(error instanceof Refused)) throw error;
				if (error.status === FORBIDDEN) form = 'locked';
			}
		this.#tell(area, form, slot);
	}

	/** Again after a rest where it cannot just now. */
	*#patiently<T>(work: () => Conversation<T>): Conversation<T> {
		for (let attempt = 1; ; attempt++) {
			try {
				return yield* work();
			} catch (error) {
				if (!(error instanceof Refused) || !NOT_NOW.includes(error.status) || attempt === NOT_NOW_TRIES)
					throw error;
				const heard = yield { do: 'sleep', ms: NOT_NOW_MS };
				if (heard.heard === 'cancelled') throw new Interrupted(heard);
			}
		}
	}
}
