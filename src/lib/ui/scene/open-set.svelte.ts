import { getContext, setContext } from 'svelte';
import {
	deskOf,
	instrumentName,
	nothingHeld,
	sceneChange,
	type Desk,
	type FollowedSound,
	type Held,
	type LoadAsked,
	type SceneChange,
	type SetLines,
	type ShowSet,
	type SlotSeen,
	type ToldSet,
	type ZoneFinding
} from '../../core/scene';
import type { LiveWorld } from '../../core/drawer';
import { call } from '../../hardware/api';
import { refresh } from '../refresh';
import { Stepped, type SteppedState } from '../stepped.svelte';
import { putInTray } from '../tray/put';
import { keptSince } from './kept-stage.svelte';

export type SetState = SteppedState<ShowSet> & ToldSet;

/** The set that is worked on. */
export class OpenSet extends Stepped<ShowSet, SetState> {
	#lines: SetLines = $state.raw()!;
	#sent: Record<LiveWorld, Held | null> = $state.raw({ bench: null, hardware: null });
	/** What an older page that was kept opened with: what instruments hold since, it does not know. Null once the server told. */
	#kept: SetState | null = $state.raw(null);

	constructor(opened: SetState, lines: SetLines) {
		super(() => '/set', opened);
		this.#lines = lines;
		if (keptSince() !== null) this.#kept = opened;
	}

	override take(opened: SetState): void {
		if (this.#kept === null) super.take(opened);
		else if (opened !== this.#kept) {
			// Whatever the server has counts more than what was kept.
			this.#kept = null;
			this.now = opened;
		}
	}

	/** It was told by the server, and not by a page that was kept. */
	get fresh(): boolean {
		return this.#kept === null;
	}

	/** How instruments are reached, and what can be asked, as the server told it last. */
	get lines(): SetLines {
		return this.#lines;
	}
	reach(lines: SetLines): void {
		this.#lines = lines;
	}

	get set(): ShowSet {
		return this.now.document;
	}
	get desk(): Desk {
		return deskOf(this.set);
	}
	get findings(): ZoneFinding[] {
		return this.now.findings;
	}
	get sounds(): FollowedSound[] {
		return this.now.sounds;
	}
	get told(): SetState {
		return this.now;
	}

	instrument(id: string) {
		return this.set.setup.instruments.find((each) => each.id === id);
	}
	/** What an instrument is called; its id where it is gone. */
	nameOf(id: string): string {
		return instrumentName(this.set, id);
	}
	zoneName(id: string): string {
		return this.set.setup.zones.find((zone) => zone.id === id)?.name ?? id;
	}

	/** What instruments hold in a world: as it was noted, or, where the server could not note it yet, as it was sent. */
	heldIn(world: LiveWorld): Held {
		return this.#sent[world] ?? (this.fresh ? this.now.held[world].held : nothingHeld);
	}
	/** What the server knows of instruments since it was told of something that left for them. */
	know(held: SetState['held']): void {
		this.now = { ...this.now, held };
		// The server is there again, and may have another set by now.
		if (!this.fresh) void refresh();
	}
	/** What instruments hold by what just left for them; null once the server has it. */
	suppose(world: LiveWorld, held: Held | null): void {
		this.#sent = { ...this.#sent, [world]: held };
	}

	/** Slots of an instrument that can be chosen from, as they were last seen. @throws Problem */
	slotsOf(instrument: string): Promise<SlotSeen[]> {
		return call<SlotSeen[]>('GET', `/set/sounds?instrument=${encodeURIComponent(instrument)}`);
	}

	/** Lays a load of the set out in the bank builder, and puts it in the tray. */
	load(asked: LoadAsked): Promise<boolean> {
		return this.doing.run(async () => {
			const { bank, device } = await call<{ bank: string; device: string }>('POST', '/set/loads', asked);
			await putInTray(`bank=${bank}&device=${device}`);
		});
	}

	/** What it takes to bring a desk to the instruments, from what is known of them in a world. */
	changeTo(desk: Desk, world: LiveWorld, asked: readonly string[] = []): SceneChange {
		return sceneChange(this.set, this.heldIn(world), desk, {
			line: (id) => this.lineOf(id, world),
			asked
		});
	}

	/** The wire to an instrument: the computer's out, or its unit on the bench. */
	lineOf(id: string, world: LiveWorld): string | null {
		const line = this.#lines.lines[id];
		if (!line) return null;
		return world === 'bench'
			? line.unit && (line.way?.out?.name ?? line.unit.name)
			: (line.way?.out?.name ?? null);
	}
}

const KEY = Symbol('set');
/** One set for all its pages: what one has changed, the next one shows. */
export const provideSet = (opened: SetState, lines: SetLines): OpenSet =>
	setContext(KEY, new OpenSet(opened, lines));
export const openSet = (): OpenSet => getContext<OpenSet>(KEY);
