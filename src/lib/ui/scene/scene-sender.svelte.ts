import type { LiveWorld } from '../../core/drawer';
import { toHex } from '../../core/midi';
import { recallOf, type Profile } from '../../core/profile';
import {
	playingQuestion,
	readBack,
	stepsFor,
	type Answer,
	type Desk,
	type PlayingQuestion,
	type SceneChange,
	type SceneMessage,
	type SentTo
} from '../../core/scene';
import { call } from '../../hardware/api';
import { desk } from '../../hardware/desk.svelte';
import { sendSceneOver } from '../../hardware/send-scene';
import { Doing } from '../doing.svelte';
import { problemOf } from '../words';
import type { OpenSet, SetState } from './open-set.svelte';

interface Question {
	asks: PlayingQuestion;
	/** What an answer's slot is selected by. */
	answer: (heard: readonly Uint8Array[]) => Answer;
}

/** Sends scenes to instruments, and tells what became of them. */
export class SceneSender {
	readonly doing = new Doing();
	/** How the last one went; null before. */
	outcome = $state.raw<{ title: string; world: LiveWorld; rows: SentTo[] } | null>(null);
	readonly #open: OpenSet;
	readonly #profiles: Record<string, Promise<Profile>> = {};

	constructor(open: OpenSet) {
		this.#open = open;
	}

	/** How an instrument is asked what it plays; null where nobody knows. */
	async #question(instrument: string): Promise<Question | null> {
		const asked = this.#open.lines.asked[instrument];
		if (!asked) return null;
		const profile = await (this.#profiles[asked.profile] ??= call<Profile>(
			'GET',
			`/profiles/${asked.profile}`
		));
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
			const results = await Promise.all(instruments.map((id) => this.#sendTo(id, to, change)));
			const lost = results.flatMap(({ row }) => (row.state === 'lost' ? [row.instrument] : []));
			const told = this.#open.set.setup.players.filter(
				({ id, own }) => id in to.local && own !== null && instruments.includes(own) && !lost.includes(own)
			);
			const now = await call<SetState>('POST', '/set/sent', {
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
				says: results.flatMap(({ row: { instrument, said } }) => (said ? [{ instrument, ...said }] : []))
			});
			this.#open.take(now);
			this.outcome = { title, world, rows: results.map(({ row }) => row) };
		});
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
