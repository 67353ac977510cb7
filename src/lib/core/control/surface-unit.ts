import type { Spoken, Touch } from '../bench';
import type { Surface, SurfaceControl } from './surface';

const STEP_MS = 12;
/** A control is moved from end to end in so many messages. */
const STRIDE = 8;
/** A control is left at its end, then so many steps further each time. */
const LEFT_STRIDES = 5;
const FIRST_CONTROLLER = 14;
const FIRST_NOTE = 36;
/** Controllers that mean something else wherever they arrive. */
const SPOKEN_FOR = new Set([32, 38, 64, 65, 66, 67, 68, 69, 96, 97, 98, 99, 100, 101]);

/**
 * A controller that is not there: it says what it was made to say on leaving the factory, by rules of its own that no map
 * knows. Its pads play notes from 36 on, its lowest row first; everything else has controllers from 14 on, in the order
 * of the surface, and each page goes on counting where the one before ended, as far as the numbers reach.
 */
export class SurfaceUnit {
	readonly #surface: Surface;
	/** Where each fader or knob stands, and what a hand has pressed in. */
	readonly #stands = new Map<string, number>();
	/** How often each was moved: a hand leaves it somewhere else each time. */
	readonly #moved = new Map<string, number>();
	page = 1;

	constructor(surface: Surface) {
		this.#surface = surface;
	}

	/** Controller numbers in the order of the surface. */
	#controllerOf(control: SurfaceControl): number {
		const row = this.#surface.controls.filter(
			({ kind, sends }) => kind !== 'pad' && sends[0] !== 'pitch-bend'
		);
		const free = Array.from({ length: 106 }, (_, i) => i + FIRST_CONTROLLER).filter(
			(number) => !SPOKEN_FOR.has(number)
		);
		return free[(row.indexOf(control) + (this.page - 1) * row.length) % free.length];
	}

	/** What the control says when it is touched; it knows no long push. @throws Error where the surface has no such control */
	touch(id: string, how: Touch = 'move'): Spoken[] {
		const control = this.#surface.controls.find((each) => each.id === id);
		if (!control) throw new Error(`${this.#surface.model} has no ${id}.`);
		if (control.kind === 'pad' || control.kind === 'keys') return this.#hit(control);
		if (!how.endsWith('move') || !control.gestures.includes('move')) return this.#push(control);
		if (control.sends[0] === 'pitch-bend') return this.#bend();
		const number = this.#controllerOf(control);
		const tell = (values: readonly number[]): Spoken[] =>
			values.map((value, i) => ({ afterMs: i * STEP_MS, bytes: [0xb0, number, value] }));
		if (control.sends[0] === 'relative') return tell([1, 1, 2, 3, 2, 1, 1, 127, 126, 126, 127, 127]);
		// There and to the other end: whoever listens hears both.
		const all = Array.from({ length: 128 / STRIDE }, (_, i) => i * STRIDE);
		const from = this.#stands.get(id) ?? 0;
		const times = this.#moved.get(id) ?? 0;
		const left = all[(times * LEFT_STRIDES) % all.length];
		this.#moved.set(id, times + 1);
		this.#stands.set(id, left);
		const up = all.filter((value) => value > from);
		return tell([
			...up,
			127,
			...all.slice(1).reverse(),
			0,
			...all.filter((value) => value > 0 && value <= left)
		]);
	}

	#hit(control: SurfaceControl): Spoken[] {
		const pads = this.#surface.controls
			.filter(({ kind }) => kind === 'pad')
			.sort((a, b) => b.y - a.y || a.x - b.x);
		const note = control.kind === 'keys' ? 60 : FIRST_NOTE + pads.indexOf(control);
		const status = control.kind === 'keys' ? 0x90 : 0x99;
		return [
			{ afterMs: 0, bytes: [status, note, 92] },
			{ afterMs: 3 * STEP_MS, bytes: [status - 16, note, 0] }
		];
	}

	#push(control: SurfaceControl): Spoken[] {
		const number = this.#controllerOf(control);
		return [0, 1].flatMap((again) => [
			{ afterMs: again * 4 * STEP_MS, bytes: [0xb0, number, 127] },
			{ afterMs: (again * 4 + 2) * STEP_MS, bytes: [0xb0, number, 0] }
		]);
	}

	#bend(): Spoken[] {
		return [64, 80, 104, 127, 96, 64, 40, 16, 0, 32, 64].map((high, i) => ({
			afterMs: i * STEP_MS,
			bytes: [0xe0, 0, high]
		}));
	}
}
