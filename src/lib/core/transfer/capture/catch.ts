import { Assembly, addressIn, type Match, type Profile, type Span, type Variables } from '../../profile';
import type { Ask } from '../asks';

/** A message as it came. */
export interface Came {
	match: Match;
	bytes: Uint8Array;
	/** What the device said of the slot, where the message does not. */
	namedBy: Uint8Array | null;
}

/** What came of one ask. */
export class Catch {
	messages: Came[] = [];
	/** Whether something came twice, and not alike. */
	contradicted = false;
	#assembly: Assembly;
	readonly #profile: Profile;
	readonly #ask: Ask;

	constructor(profile: Profile, ask: Ask) {
		this.#profile = profile;
		this.#ask = ask;
		this.#assembly = new Assembly(profile);
	}

	/** Nothing has come yet. */
	clear(): void {
		this.messages = [];
		this.#assembly = new Assembly(this.#profile);
	}

	/** Takes a message in; false where nothing of it was asked for. */
	take(came: Came): boolean {
		const { area, brings } = this.#ask;
		const ours = came.match.pieces.some(
			(piece) => piece.area === area && brings.some(({ slot }) => slot === piece.slot)
		);
		if (!ours) return false;
		this.messages.push(came);
		for (const piece of came.match.pieces) if (this.#assembly.put(piece)) this.contradicted = true;
		return true;
	}

	/** Whether these stretches have come. */
	holds(spans: readonly Span[]): boolean {
		return spans.every((span) => this.#assembly.bytesOf(this.#ask.area, span.slot, span));
	}

	/** All that was asked for, joined; null where some of it has not come. */
	get memory(): Uint8Array | null {
		return this.#assembly.joined(this.#ask.area, this.#ask.brings);
	}

	/**
	 * What is asked for next, and what that brings: all of it, or, where a request names an address, what has not come, one
	 * stretch after another.
	 */
	next(): { request: Variables; goal: Span[] } {
		const { area, brings, request } = this.#ask;
		if (request.address === undefined || this.messages.length === 0) return { request, goal: brings };
		const [gap] = brings.flatMap((span) =>
			this.#assembly.gapsOf(area, span.slot, span).map((each): Span => ({ slot: span.slot, ...each }))
		);
		return {
			request: { ...request, address: addressIn(this.#profile, area, gap.slot, gap.at)!, size: gap.size },
			goal: [gap]
		};
	}
}
