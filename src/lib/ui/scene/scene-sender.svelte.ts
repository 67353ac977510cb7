import type { LiveWorld } from '../../core/drawer';
import { toHex } from '../../core/midi';
import { recallOf, type Profile } from '../../core/profile';
import {
	heldSent,
	instrumentsOf,
	playingQuestion,
	readBack,
	stepsFor,
	unsentInWords,
	type Answer,
	type Desk,
	type PlayingQuestion,
	type SceneChange,
	type SceneMessage,
	type Selected,
	type SentNote,
	type SentTo
} from '../../core/scene';
import { call } from '../../hardware/api';
import { desk } from '../../hardware/desk.svelte';
import { sendSceneOver } from '../../hardware/send-scene';
import { Doing } from '../doing.svelte';
import { readDraft, writeDraft } from '../remembered.svelte';
import { problemOf } from '../words';
import type { OpenSet, SetState } from './open-set.svelte';
import { Owed } from './owed';

interface Question {
	asks: PlayingQuestion;
	/** What an answer's slot is selected by. */
	answer: (heard: readonly Uint8Array[]) => Answer;
}

/** The draft of what the server was not told yet. */
const OWED = 'set-sent';
type Note = SentNote & { world: LiveWorld };
const forgetting = (world: LiveWorld, forget: string[]): Note => ({
	world,
	messages: [],
	local: {},
	pages: {},
	tempo: null,
	forget,
	says: []
});

/** How a scene went. */
export interface SceneOutcome {
	title: string;
	world: LiveWorld;
	rows: SentTo[];
	/** What was meant for instruments that nothing was sent to. */
	unsent: string[];
}

/** Sends scenes to instruments, and tells what became of them. */
export class SceneSender {
	readonly doing = new Doing();
	/** How the last one went; null before. */
	outcome = $state.raw<SceneOutcome | null>(null);
	/** Why what was sent could not be noted; it is sent all the same. */
	unnoted = $state.raw<{ message: string; remedy: string } | null>(null);
	/** What was said in the middle of sending. */
	readonly #told: Note[] = [];
	readonly #owed: Owed<Note>;
	readonly #open: OpenSet;
	readonly #profiles: Record<string, Promise<Profile | null>> = {};
	/** Who was asked what it plays and has not said so yet, with the desk that went out to it. */
	readonly #unanswered: Record<string, Desk> = {};

	constructor(open: OpenSet) {
		this.#open = open;
		const earlier = JSON.parse(readDraft(OWED) ?? '[]') as Note[];
		this.#owed = new Owed(
			earlier,
			async (order) => {
				open.know(await call<SetState['held']>('POST', '/set/sent', order));
				const more = this.#owed.orders.some((other) => other !== order && other.world === order.world);
				if (!more) open.suppose(order.world, null);
			},
			(orders) => writeDraft(OWED, orders.length > 0 ? JSON.stringify(orders) : null)
		);
		if (earlier.length === 0) return;
		// The page went away before the server could be told: a scene that was under way is not known to have arrived.
		for (const order of earlier) this.#suppose(order);
		void this.#note();
	}

	/** What instruments hold by what just left for them, until the server has it. */
	#suppose(order: Note): void {
		this.#open.suppose(order.world, heldSent(this.#open.heldIn(order.world), order));
	}

	#owe(order: Note): void {
		this.#suppose(order);
		this.#owed.add(order);
	}

	/** How an instrument is asked what it plays; null where nobody knows. */
	async #question(instrument: string): Promise<Question | null> {
		const asked = this.#open.lines.asked[instrument];
		if (!asked) return null;
		this.#profiles[asked.profile] ??= call<Profile>('GET', `/profiles/${asked.profile}`).catch(() => null);
		const profile = await this.#profiles[asked.profile];
		// Without the profile a scene is sent all the same, and nobody is asked; the next one tries again.
		if (!profile) {
			delete this.#profiles[asked.profile];
			return null;
		}
		const asks = playingQuestion(profile, { deviceId: asked.deviceId });
		const area = profile.areas.find(({ id }) => id === asks?.area);
		if (!asks || !area) return null;
		return {
			asks,
			answer: (heard) => {
				const slot = heard.map((bytes) => asks.read(bytes)).findLast((each) => each !== null);
				return slot == null ? 'nothing' : (recallOf(area, slot) ?? 'unstored');
			}
		};
	}

	/** Sends a change that was worked out of what is known now, to each instrument on its own line. */
	async send(title: string, to: Desk, change: SceneChange): Promise<boolean> {
		if (this.doing.busy) return false;
		const world = desk.world;
		return this.doing.run(async () => {
			const instruments = instrumentsOf(change.messages);
			for (const id of instruments) delete this.#unanswered[id];
			// While it is under way nothing of them is known, should the page go away.
			const underWay = forgetting(world, instruments);
			this.#owed.add(underWay);
			// On the bench every instrument has a wire of its own.
			const wires = Object.values(
				Object.groupBy(change.messages, (message) => (world === 'bench' ? message.instrument : message.line))
			).flatMap((messages) => (messages ? [messages] : []));
			const results = await Promise.all(wires.map((messages) => this.#sendWire(messages, to, change)));
			const rows = instruments.flatMap(
				(id) => results.flatMap((each) => each.rows).find(({ instrument }) => instrument === id) ?? []
			);
			const lost = rows.flatMap(({ state, instrument }) => (state === 'lost' ? [instrument] : []));
			const told = this.#open.set.setup.players.filter(
				({ id, own }) => id in to.local && own !== null && instruments.includes(own) && !lost.includes(own)
			);
			const says = rows.flatMap(({ instrument, said }) => (said ? [{ instrument, ...said }] : []));
			this.outcome = {
				title,
				world,
				rows,
				unsent: unsentInWords(this.#open.set, change)
			};
			const order: Note = {
				world,
				messages: results
					.flatMap(({ left }) => left)
					.map(({ instrument, channel, bytes }) => ({
						instrument,
						channel,
						bytes: toHex(Uint8Array.from(bytes))
					})),
				local: Object.fromEntries(told.map(({ id }) => [id, to.local[id]])),
				pages: Object.fromEntries(to.pages.map(({ controller, page }) => [controller, page])),
				tempo: to.tempo,
				forget: lost,
				says
			};
			this.#suppose(order);
			this.#owed.replace(underWay, order);
			await this.#noteTold();
		});
	}

	/** What an instrument said by itself that it plays, once nothing is being sent any more; null: something that nobody can name. */
	async tell(instrument: string, channel: number | null, selected: Selected | null): Promise<void> {
		const { world } = desk;
		// Of which of several parts it spoke is not known either.
		const order: Note =
			channel === null || selected === null
				? forgetting(world, [instrument])
				: { ...forgetting(world, []), says: [{ instrument, channel, selected }] };
		this.#told.push(order);
		if (!this.doing.busy) await this.#noteTold();
	}

	async #noteTold(): Promise<void> {
		for (const order of this.#told.splice(0)) this.#owe(order);
		await this.#note();
	}

	/** Whatever is known of instruments in this tab's world counts no more: the next scene is sent whole. */
	async forget(): Promise<void> {
		const order = forgetting(
			desk.world,
			this.#open.set.setup.instruments.map(({ id }) => id)
		);
		this.#owe(order);
		await this.#note();
	}

	/** Has the server note what was sent, in its order; what it cannot take now is kept in this tab, and told with the next. */
	async #note(): Promise<void> {
		this.unnoted = null;
		try {
			await this.#owed.tell();
		} catch (error) {
			this.unnoted = problemOf(error);
		}
	}

	/** Sends what goes over one wire, in the order of time; then asks whoever on it can be asked. */
	async #sendWire(
		messages: readonly SceneMessage[],
		to: Desk,
		{ readyMs }: SceneChange
	): Promise<{ left: SceneMessage[]; rows: SentTo[] }> {
		const ids = instrumentsOf(messages);
		const line = (id: string) => this.#open.lines.lines[id];
		try {
			// One alone on its wire is asked at once; of several, each after all was sent.
			const alone = ids.length === 1;
			const question = alone ? await this.#question(ids[0]) : null;
			const sent = await sendSceneOver(line(ids[0]), stepsFor(messages, readyMs), question?.asks ?? null);
			const left = messages.slice(0, sent.left);
			const rows: SentTo[] = [];
			for (const id of ids) {
				const all = messages.filter(({ instrument }) => instrument === id).length;
				const own = left.filter(({ instrument }) => instrument === id).length;
				if (own < all)
					rows.push(
						lost(id, `only ${own} of ${all} messages left: look at its cable. What it holds is not known.`)
					);
				else if (alone) rows.push(this.#read(id, to, question, sent.heard));
				else rows.push(await this.#ask(id, to));
			}
			return { left, rows };
		} catch (error) {
			const { message, remedy } = problemOf(error);
			return { left: [], rows: ids.map((id) => lost(id, `${message} ${remedy}`)) };
		}
	}

	/** What an instrument said to the question; where it said nothing in time, its next word is the answer. */
	#read(id: string, to: Desk, question: Question | null, heard: readonly Uint8Array[]): SentTo {
		const answer = question?.answer(heard) ?? null;
		if (answer === 'nothing') this.#unanswered[id] = to;
		return readBack(this.#open.set, to, id, answer);
	}

	/** Takes what an instrument says as its answer to the question of the last scene, where it still owes that. */
	takeLate(instrument: string, plays: Selected | 'unstored'): boolean {
		const to = this.#unanswered[instrument];
		if (!to || !this.outcome) return false;
		delete this.#unanswered[instrument];
		const row = readBack(this.#open.set, to, instrument, plays);
		this.outcome = {
			...this.outcome,
			rows: this.outcome.rows.map((one) => (one.instrument === instrument ? row : one))
		};
		void this.tell(instrument, row.said?.channel ?? null, row.said?.selected ?? null);
		return true;
	}

	/** Asks an instrument that was sent everything what it plays, where somebody knows how. */
	async #ask(id: string, to: Desk): Promise<SentTo> {
		const question = await this.#question(id);
		if (!question) return readBack(this.#open.set, to, id, null);
		const line = this.#open.lines.lines[id];
		try {
			const { heard } = await sendSceneOver(line, [], question.asks);
			return this.#read(id, to, question, heard);
		} catch (error) {
			const row = readBack(this.#open.set, to, id, null);
			return { ...row, says: `${row.says} It could not be asked: ${problemOf(error).message}` };
		}
	}
}

const lost = (instrument: string, says: string): SentTo => ({
	instrument,
	state: 'lost',
	says,
	said: null
});
