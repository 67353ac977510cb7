import {
	BenchLine,
	BenchStation,
	freezeMemory,
	thawMemory,
	type Fault,
	type FileKeeper,
	type PanelView
} from '../core/bench';
import { fromHex, toHex, writeMidiFile } from '../core/midi';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { Framer } from '../core/sysex';
import { VirtualClock } from '../core/transfer';
import { call } from './api';

interface StoredUnit {
	id: string;
	name: string;
	profileId: string;
	revision: number;
	profile: Profile;
	settings: Record<string, number>;
	firmware: [number, number];
	memory: string;
	faults: Fault[];
}

/** How long a unit is listened to after a hand was at its panel. */
const HEAR_MS = 300;

/** A unit of the bench that is switched on in this tab. */
interface Seat {
	id: string;
	name: string;
	revision: number;
	station: BenchStation;
	/** Changed since it was last stored. */
	dirty: boolean;
	/** Sounds were changed at the panel since it was last stored. */
	edited: boolean;
	/** A key of its panel is being dealt with: what it shows next is stored first. */
	acting: boolean;
	saving: Promise<void>;
	/** Transfers that run on it. */
	busy: number;
}

export interface PanelState extends PanelView {
	unitId: string;
	name: string;
	model: string;
	connected: boolean;
	faults: Fault[];
	lostBytes: number;
}

export type PanelAction =
	| { act: 'switch'; id: string; value: number }
	| { act: 'step'; by: number }
	| { act: 'edit'; parameter: string; raw: number }
	| { act: 'rename'; name: string }
	| { act: 'dump' }
	/** `held`: with the button for update mode held. */
	| { act: 'power'; held?: boolean }
	/** One fault more, or one away: what a page showed last may be older than what is so. */
	| { act: 'spoil'; fault: Fault }
	| { act: 'repair'; fault: Fault }
	| { act: 'unplug' }
	| { act: 'plug' };

function samplerLine(clock: VirtualClock): BenchLine {
	const line = new BenchLine('Sampler', clock);
	const sampler = line.attachSampler(0);
	for (const [number, hertz] of [220, 330].entries())
		sampler.samples.set(number + 1, {
			number: number + 1,
			bits: 16,
			periodNs: 45_351,
			loop: { start: 0, end: 0, kind: 'off' },
			words: Uint32Array.from({ length: 4000 }, (_, i) =>
				Math.round(32768 + 24000 * Math.exp(-i / 1500) * Math.sin((2 * Math.PI * hertz * i) / 22050))
			)
		});
	return line;
}

/** A recorder with two files on a port of its own: what it has is as made up as everything on the bench. */
function recorderLine(clock: VirtualClock): { line: BenchLine; keeper: FileKeeper } {
	const line = new BenchLine('Recorder', clock);
	const keeper = line.attachFileKeeper(1);
	const text = new TextEncoder();
	keeper.files.set('SHOW', {
		type: 'MIDI',
		bytes: writeMidiFile([
			{
				messages: [60, 64, 67].flatMap((key, i) => [
					{ atMs: 500 * i, bytes: Uint8Array.of(0x90, key, 80) },
					{ atMs: 500 * i + 400, bytes: Uint8Array.of(0x80, key, 0) }
				]),
				untilMs: 2000
			}
		])
	});
	keeper.files.set('NOTES', {
		type: 'TEXT',
		bytes: text.encode('Dome closes at 23:00.\nThe comet cue is on pad 4.\n'.repeat(8))
	});
	return { line, keeper };
}
/** How long a hand takes to the recorder's panel, in ms. */
const HAND_MS = 1500;

const TICK_MS = 8;
/** So much time is made up for at one go. */
const SLICE_MS = 100;
const BEHIND_MS = 10_000;
const SAVE_MS = 250;
const LOCK = 'silent-drawer-bench';

/**
 * The bench of this tab: simulated devices on a clock that runs at real time or faster. Their memory lives on the
 * server and is written back soon after every change; a lock keeps two tabs from using the bench at once.
 */
export class BenchRoom {
	readonly clock = new VirtualClock();
	/** 1 is the real speed of the wire. */
	speed = 1;
	/** Whether a transfer waits for somebody to press a key: time then runs at 1. */
	waitsForHands: () => boolean = () => false;
	/** Told when a panel has something new to show that nobody asked for at the panel itself. */
	panelChanged: (unitId: string) => void = () => undefined;
	/** Told what a unit says by itself. */
	spoke: (name: string, bytes: Uint8Array) => void = () => undefined;
	/** A sampler at device ID 0 with two made-up samples, on a port of its own. */
	readonly sampler = samplerLine(this.clock);
	/** A recorder at device ID 1 with two files, on a port of its own. */
	readonly #recorder = recorderLine(this.clock);

	get recorder(): BenchLine {
		return this.#recorder.line;
	}

	/** Somebody begins a dump at the recorder's panel. */
	dumpFile(): void {
		this.clock.after(HAND_MS, () => this.#recorder.keeper.dump('SHOW'));
	}

	readonly #seats = new Map<string, Seat>();
	#last = performance.now();
	#held = 0;
	#release: (() => void) | null = null;
	#waiting: Promise<void> | null = null;

	constructor() {
		setInterval(() => this.#tick(), TICK_MS);
	}

	#tick(): void {
		// A tab that was throttled or frozen catches up in slices: what was asked of it meanwhile is heard between two of them.
		// What it slept longer is no time of the bench: it then runs late, never wrong.
		const now = performance.now();
		this.#last = Math.max(this.#last, now - BEHIND_MS);
		const passed = Math.min(now - this.#last, SLICE_MS);
		this.clock.runUntil(this.clock.now() + passed * (this.waitsForHands() ? 1 : this.speed));
		this.#last += passed;
	}

	/** Holds the bench for `work`. @throws Problem `bench.elsewhere` when another tab has it */
	async hold<T>(work: () => Promise<T>): Promise<T> {
		if (this.#held++ === 0) this.#waiting = this.#lock();
		try {
			await this.#waiting;
		} catch (error) {
			this.#held--;
			throw error;
		}
		try {
			return await work();
		} finally {
			if (--this.#held === 0) {
				await this.#saveAll();
				if (this.#held === 0) {
					this.#release?.();
					this.#release = null;
				}
			}
		}
	}

	#lock(): Promise<void> {
		if (this.#release) return Promise.resolve();
		return new Promise((resolve, reject) => {
			void navigator.locks.request(LOCK, { ifAvailable: true }, (lock) => {
				if (!lock) {
					reject(
						new Problem(
							'bench.elsewhere',
							'Another tab is using the bench.',
							'Finish there, or close that tab; then try again.'
						)
					);
					return;
				}
				return new Promise<void>((release) => {
					this.#release = release;
					resolve();
				});
			});
		});
	}

	/** The unit as it is now; what another tab did to it in the meantime is taken over. */
	async seat(id: string): Promise<Seat> {
		const present = this.#seats.get(id);
		if (present && (present.busy > 0 || present.dirty)) return present;
		const stored = await call<StoredUnit>('GET', `/bench/units/${id}`);
		if (present && present.revision === stored.revision) return present;
		const state = {
			settings: stored.settings,
			firmware: stored.firmware,
			memory: thawMemory(stored.profile, fromHex(stored.memory))
		};
		const seat: Seat = {
			id,
			name: stored.name,
			revision: stored.revision,
			dirty: false,
			edited: false,
			acting: false,
			busy: 0,
			saving: Promise.resolve(),
			station: new BenchStation(stored.name, stored.profile, state, this.clock)
		};
		seat.station.faults = stored.faults;
		seat.station.unit.changed = () => {
			// What fails here stays dirty: it is stored, or the failure told, when the bench is let go of.
			if (!seat.dirty && !seat.acting)
				setTimeout(() => void this.#save(seat).catch(() => undefined), SAVE_MS);
			seat.dirty = true;
			if (!seat.acting) this.panelChanged(id);
		};
		seat.station.unit.showed = () => this.panelChanged(id);
		this.#seats.set(id, seat);
		return seat;
	}

	/** The units that this tab has used. */
	seated(): Seat[] {
		return [...this.#seats.values()];
	}

	#save(seat: Seat): Promise<void> {
		seat.saving = seat.saving
			.catch(() => undefined)
			.then(async () => {
				if (!seat.dirty) return;
				const { edited } = seat;
				seat.dirty = seat.edited = false;
				const { unit } = seat.station;
				try {
					const { revision } = await call<{ revision: number }>(
						'PUT',
						`/bench/units/${seat.id}`,
						{
							revision: seat.revision,
							settings: unit.state.settings,
							firmware: unit.state.firmware,
							memory: toHex(freezeMemory(unit.profile, unit.state)),
							faults: seat.station.faults,
							edited
						},
						{ keepalive: true }
					);
					seat.revision = revision;
				} catch (error) {
					seat.dirty = true;
					seat.edited ||= edited;
					throw error;
				}
			});
		return seat.saving;
	}

	async #saveAll(): Promise<void> {
		for (const seat of this.#seats.values()) await this.#save(seat);
	}

	async panel(id: string): Promise<PanelState> {
		const seat = await this.seat(id);
		return this.#view(seat);
	}

	#view(seat: Seat): PanelState {
		const { unit, connected, faults } = seat.station;
		return {
			...unit.panel(),
			unitId: seat.id,
			name: seat.name,
			model: `${unit.profile.maker} ${unit.profile.model}`,
			connected,
			faults,
			lostBytes: unit.lostBytes
		};
	}

	/** Does something on a front panel. What it changed is stored before anybody is shown it. */
	act(id: string, action: PanelAction): Promise<PanelState> {
		return this.hold(async () => {
			const seat = await this.seat(id);
			seat.acting = true;
			try {
				this.#press(seat, action);
				await this.#save(seat);
			} finally {
				seat.acting = false;
				// What a transfer changed in the meantime is stored as usual.
				if (seat.dirty) setTimeout(() => void this.#save(seat).catch(() => undefined), SAVE_MS);
			}
			return this.#view(seat);
		});
	}

	/** Tells what a unit says by itself; while something else listens on its line, that tells of it. */
	#hearing({ name, station, busy }: Seat, act: () => void): void {
		if (busy > 0) return act();
		const ear = new Framer();
		const deaf = station.listen({
			bytes: (chunk) => {
				for (const { bytes } of ear.push(chunk)) this.spoke(name, bytes);
			},
			unplugged: () => undefined,
			plugged: () => undefined
		});
		act();
		this.clock.after(HEAR_MS, deaf);
	}

	#press(seat: Seat, action: PanelAction): void {
		const { station } = seat;
		const { unit } = station;
		const { program } = unit.panel();
		switch (action.act) {
			case 'switch':
				unit.setSwitch(action.id, action.value);
				break;
			case 'step':
				// From where the unit is: a quick hand presses again before the panel has shown the first.
				this.#hearing(seat, () => unit.turnTo(program.index + action.by));
				break;
			case 'edit':
				unit.edit(program.area, program.index, action.parameter, action.raw);
				seat.edited = true;
				break;
			case 'rename':
				unit.rename(program.area, program.index, action.name);
				seat.edited = true;
				break;
			case 'dump':
				unit.dump();
				break;
			case 'power':
				unit.powerCycle(action.held);
				break;
			case 'unplug':
				station.unplug();
				break;
			case 'plug':
				station.plug();
				break;
			case 'spoil':
				station.faults = [...station.faults, action.fault];
				unit.changed();
				break;
			case 'repair': {
				const same = station.faults.findIndex(
					(fault) => JSON.stringify(fault) === JSON.stringify(action.fault)
				);
				// One that has counted down since it was shown is the same fault.
				const at = same >= 0 ? same : station.faults.findIndex(({ kind }) => kind === action.fault.kind);
				station.faults = station.faults.filter((_, i) => i !== at);
				unit.changed();
			}
		}
	}
}
