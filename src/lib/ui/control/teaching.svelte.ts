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

/** What is done with what is heard of a surface: nothing but to show who spoke; learning; walking back. */
export class Teaching {
	sweep = $state.raw<Sweep | null>(null);
	walk = $state.raw<Walk | null>(null);
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

	learn(map: ControlMap): void {
		this.rest();
		this.sweep = beginSweep(wantedOf(map.surface));
	}

	walkBack(map: ControlMap, page: number): void {
		this.rest();
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
		port: string
	): ReturnType<typeof touchQuick>['write'] {
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
