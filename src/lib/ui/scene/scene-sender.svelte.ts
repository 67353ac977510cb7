import type { LiveWorld } from '../../core/drawer';
import { toHex } from '../../core/midi';
import { recallOf, type Profile } from '../../core/profile';
import {
	heldSent,
	playingQuestion,
	readBack,
	stepsFor,
	unsentInWords,
	type Answer,
	type Desk,
	type PlayingQuestion,
	type SceneChange,
	type SceneMessage,
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

interface Question {
	asks: PlayingQuestion;
	/** What an answer's slot is selected by. */
	answer: (heard: readonly Uint8Array[]) => Answer;
}

/** What the server was not told yet. */
const OWED = 'set-sent';
type Owed = SentNote & { world: LiveWorld };
const forgetting = (world: LiveWorld, forget: string[]): Owed => ({
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
	readonly #owed: Owed[] = JSON.parse(readDraft(OWED) ?? '[]') as Owed[];
	readonly #open: OpenSet;
	readonly #profiles: Record<string, Promise<Profile | null>> = {};

	constructor(open: OpenSet) {
		this.#open = open;
		if (this.#owed.length === 0) return;
		// The page went away before the server could be told: a scene that was under way is not known to have arrived.
		for (const order of this.#owed) open.suppose(order.world, heldSent(open.heldIn(order.world), order));
		void this.#note();
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
			const instruments = change.messages
				.map(({ instrument }) => instrument)
				.filter((id, i, all) => all.indexOf(id) === i);
			// While it is under way nothing of them is known, should the page go away.
			const underWay = forgetting(world, instruments);
			this.#owed.push(underWay);
			this.#keepOwed();
			const results = await Promise.all(instruments.map((id) => this.#sendTo(id, to, change)));
			const lost = results.flatMap(({ row }) => (row.state === 'lost' ? [row.instrument] : []));
			const told = this.#open.set.setup.players.filter(
				({ id, own }) => id in to.local && own !== null && instruments.includes(own) && !lost.includes(own)
			);
			const says = results.flatMap(({ row: { instrument, said } }) =>
				said ? [{ instrument, ...said }] : []
			);
			this.outcome = {
				title,
				world,
				rows: results.map(({ row }) => row),
				unsent: unsentInWords(this.#open.set, change)
			};
			const order: Owed = {
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
			this.#open.suppose(world, heldSent(this.#open.heldIn(world), order));
			const at = this.#owed.indexOf(underWay);
			this.#owed.splice(at < 0 ? this.#owed.length : at, 1, order);
			await this.#note();
		});
	}

	/** Whatever is known of instruments in this tab's world counts no more: the next scene is sent whole. */
	async forget(): Promise<void> {
		const order = forgetting(
			desk.world,
			this.#open.set.setup.instruments.map(({ id }) => id)
		);
		this.#open.suppose(order.world, heldSent(this.#open.heldIn(order.world), order));
		this.#owed.push(order);
		await this.#note();
	}

	/** Has the server note what was sent, in its order; what it cannot take now is kept in this tab, and told with the next. */
	async #note(): Promise<void> {
		this.unnoted = null;
		try {
			while (this.#owed.length > 0) {
				const [order] = this.#owed;
				const held = await call<SetState['held']>('POST', '/set/sent', order);
				this.#owed.shift();
				this.#open.know(held);
				if (!this.#owed.some(({ world }) => world === order.world)) this.#open.suppose(order.world, null);
			}
		} catch (error) {
			this.unnoted = problemOf(error);
		}
		this.#keepOwed();
	}

	#keepOwed(): void {
		writeDraft(OWED, this.#owed.length > 0 ? JSON.stringify(this.#owed) : null);
	}

	async #sendTo(id: string, to: Desk, change: SceneChange): Promise<{ left: SceneMessage[]; row: SentTo }> {
		const own = change.messages.filter(({ instrument }) => instrument === id);
		const lost = (says: string): SentTo => ({ instrument: id, state: 'lost', says, said: null });
		try {
			const question = await this.#question(id);
			const { left, heard } = await sendSceneOver(
				this.#open.lines.lines[id],
				stepsFor(own, id, change.readyMs),
				question?.asks ?? null
			);
			return {
				left: own.slice(0, left),
				row:
					left < own.length
						? lost(
								`only ${left} of ${own.length} messages left: look at its cable. What it holds is not known.`
							)
						: readBack(this.#open.set, to, id, question ? question.answer(heard) : null)
			};
		} catch (error) {
			const { message, remedy } = problemOf(error);
			return { left: [], row: lost(`${message} ${remedy}`) };
		}
	}
}
