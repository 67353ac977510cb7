import { asciiJson, readJson } from './body';
import { Joined, type Property } from './chunks';
import { readChunk, type Chunk, type CiMessage } from './message';
import { headerSchema, type ReplyHeader } from './resources';

/** Words by which an instrument says that a property changed, with what it is now or without. */
const CHANGES = ['notify', 'full', 'partial'];

/** What an instrument was asked to tell of, and what it told (M2-103). */
export class Subscriptions {
	readonly #held = new Set<string>();
	/** What it is telling in parts, by its request. */
	readonly #coming = new Map<number, Joined>();
	#changed = false;

	/** @param id the number that the instrument gave it */
	hold(id: string): void {
		this.#held.add(id);
	}

	/** It tells of nothing any more. @returns the numbers of what was subscribed to */
	lose(): string[] {
		const held = [...this.#held];
		if (held.length > 0) this.#changed = true;
		this.#held.clear();
		this.#coming.clear();
		return held;
	}

	/** Whether something changed since this was asked last, or could have without its being told. */
	changed(): boolean {
		const changed = this.#changed;
		this.#changed = false;
		return changed;
	}

	/**
	 * Takes a message of a subscription that the instrument sent.
	 * @returns the answer that is due; null while parts of it are to come, and where it cannot be read
	 */
	take(message: CiMessage): Chunk | null {
		const chunk = readChunk(message);
		if (!chunk) return null;
		const joined = this.#coming.get(chunk.request) ?? new Joined();
		const whole = joined.push(chunk);
		if (whole === null) {
			this.#coming.set(chunk.request, joined);
			return null;
		}
		this.#coming.delete(chunk.request);
		const header = asciiJson(whole === 'broken' ? { status: 400 } : this.#hear(whole));
		return { request: chunk.request, header, chunks: 1, chunk: 1, data: new Uint8Array() };
	}

	/** @returns the head of the answer */
	#hear({ header }: Property): ReplyHeader {
		let said;
		try {
			said = headerSchema.safeParse(readJson(header)).data;
		} catch {
			return { status: 400 };
		}
		const { command, subscribeId } = said ?? {};
		if (command === undefined || subscribeId === undefined) return { status: 400 };
		// Of an earlier conversation, or of somebody else's.
		if (!this.#held.has(subscribeId)) return { status: 404, subscribeId };
		if (command === 'end') this.#held.delete(subscribeId);
		else if (!CHANGES.includes(command)) return { status: 400, subscribeId };
		this.#changed = true;
		return { status: 200, subscribeId };
	}
}
