import {
	answerSweep,
	beginQuick,
	controlName,
	beginSweep,
	beginWalk,
	endOf,
	hearBurst,
	insertAt,
	removeAt,
	sameAddress,
	speakersOf,
	sweepFrom,
	sweepText,
	touchQuick,
	toWalk,
	undoSweep,
	walkBurst,
	wantedOf,
	type ControlMap,
	type HeardMessage,
	type Quick,
	type Sweep,
	type SweepQuestion,
	type Walk
} from '../../core/control';
import type { LiveWorld } from '../../core/drawer';

/** What is done with what is heard of a surface: nothing but to show who spoke; learning; walking back. */
export class Teaching {
	sweep = $state.raw<Sweep | null>(null);
	walk = $state.raw<Walk | null>(null);
	/** Where the sweep or the walk was begun: what is heard in the other world is no part of it. */
	world: LiveWorld = 'bench';
	/** The controls that spoke last, and on which port. */
	spoke = $state.raw<{ controls: string[]; port: string } | null>(null);

	/** Quick map: asked for targets, or under way. */
	quick = $state.raw<Quick | null>(null);
	#asking = $state(false);

	get at(): 'rest' | 'learn' | 'walk' | 'quick' {
		return this.sweep ? 'learn' : this.walk ? 'walk' : this.#asking || this.quick ? 'quick' : 'rest';
	}

	/** The control whose turn it is. */
	get due(): string | null {
		return this.sweep?.wanted[this.sweep.next]?.control ?? null;
	}

	/** A sweep that is not kept yet, as it outlives a reload: its steps before that are not taken back one by one. */
	draft(page: number): string | null {
		const { sweep, world } = this;
		return sweep?.taken.some((taken) => taken !== null)
			? JSON.stringify({ page, world, text: sweepText(sweep) })
			: null;
	}

	/** Goes on with a sweep of this surface that a reload broke off. @returns its page; null where there is none */
	goOn(map: ControlMap, draft: string | null): number | null {
		if (draft === null) return null;
		const { page, world, text } = JSON.parse(draft) as { page: number; world: LiveWorld; text: string };
		const sweep = sweepFrom(text);
		if (JSON.stringify(sweep.wanted) !== JSON.stringify(wantedOf(map.surface))) return null;
		[this.sweep, this.world] = [sweep, world];
		return page;
	}

	learn(map: ControlMap, world: LiveWorld): void {
		this.rest();
		this.world = world;
		this.sweep = beginSweep(wantedOf(map.surface));
	}

	walkBack(map: ControlMap, page: number, world: LiveWorld): void {
		this.rest();
		this.world = world;
		this.walk = beginWalk(toWalk(map, page));
	}

	askQuick(): void {
		this.rest();
		this.#asking = true;
	}

	beginQuick(words: readonly string[]): void {
		this.rest();
		this.quick = beginQuick(words);
	}

	rest(): void {
		this.sweep = this.walk = this.spoke = this.quick = null;
		this.#asking = false;
	}

	answer = (answer: SweepQuestion['answers'][number]) => this.#step((sweep) => answerSweep(sweep, answer));
	insert = () => this.#step((sweep) => insertAt(sweep, Math.max(0, sweep.next - 1)));
	remove = () => this.#step((sweep) => removeAt(sweep, Math.max(0, sweep.next - 1)));
	back = () => this.#step(undoSweep);

	#step(change: (sweep: Sweep) => Sweep): void {
		if (this.sweep) this.sweep = change(this.sweep);
	}

	/** @returns what a quick map has given to the control that spoke */
	hear(
		map: ControlMap,
		page: number,
		burst: readonly HeardMessage[],
		port: string,
		world: LiveWorld
	): ReturnType<typeof touchQuick>['write'] {
		if ((this.sweep || this.walk) && world !== this.world) return null;
		if (this.sweep) this.sweep = hearBurst(this.sweep, burst);
		else if (this.walk) this.walk = walkBurst(this.walk, burst);
		// Only who is known to speak so by now: what a sweep asks about is nobody's yet.
		const known = this.sweep
			? this.sweep.wanted.flatMap(({ control }, i) => {
					const taken = this.sweep?.taken[i];
					return taken ? [{ control, address: taken.address }] : [];
				})
			: toWalk(map, page);
		const speakers = speakersOf(burst);
		const spoke = known.filter((each) => speakers.some((address) => sameAddress(address, each.address)));
		this.spoke = { controls: spoke.map(({ control }) => control), port };
		if (!this.quick) return null;
		const done = touchQuick(
			this.quick,
			spoke.map(({ control }) => ({ control, name: controlName(map.surface, control) }))
		);
		this.quick = done.quick;
		return done.write;
	}

	get end() {
		return this.walk ? endOf(this.walk) : null;
	}
}
