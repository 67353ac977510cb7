import { Problem } from '../problem';
import { fromHex } from '../midi';
import {
	areaOf,
	formatValue,
	meaningOf,
	makeSlot,
	readValue,
	slotLabel,
	writeName,
	writeParameter,
	type Profile
} from '../profile';
import { ALL_DEVICES, Framer, identityReply, readIdentityRequest } from '../sysex';
import type { Clock } from '../transfer';
import type { Fault } from './faults';
import { Loader } from './loader';
import type { PanelSwitch, PanelView } from './panel-view';
import { factoryState } from './sounds';
import { seededRandom } from './random';

/** How long the loader writes one block. */
const LOADER_MS = 60;

/** All that a unit remembers. */
export interface UnitState {
	settings: Record<string, number>;
	/** Records by area, slot by slot. */
	memory: Record<string, Uint8Array[]>;
	/** Major and minor number. */
	firmware: [number, number];
}

/** What a hand does at a control, with shift held or without. */
type Hand = 'move' | 'push' | 'double' | 'long';
export type Touch = Hand | `shift-${Hand}`;

/** A message that a hand brings about, so many milliseconds after it begins. */
export interface Spoken {
	afterMs: number;
	bytes: number[];
}

export interface UnitManners {
	/** Bytes that wait while the device is busy; more are lost. */
	bufferBytes: number;
	/** Time that it takes to find an answer. */
	thinkMs: number;
	/** Switches that go back to their default at power-off. */
	forgets: string[];
}

/**
 * A simulated device: memory, settings, an input buffer that can run over, and a front panel. Its own way of
 * speaking is written by hand in the model's file, apart from the profile that the app uses, so that each checks
 * the other.
 */
export abstract class SimulatedDevice {
	faults: Fault[] = [];
	abstract readonly manners: UnitManners;
	/** Told when memory or settings changed. */
	changed: () => void = () => undefined;
	/** Told when only what the panel shows changed, which no memory keeps. */
	showed: () => void = () => undefined;
	/** What is played and not stored: it is gone with the next program. */
	#edit: Uint8Array | null = null;
	readonly #sounding = new Set<number>();
	#framer = new Framer();
	#queue: number[] = [];
	#busyUntil = 0;
	#cursor = 0;
	#note = '';
	/** While it is in update mode: nothing else of it is awake. */
	#loader: Loader | null = null;
	/** Bytes lost because the input ran over, since power-on. */
	lostBytes = 0;

	constructor(
		readonly profile: Profile,
		readonly state: UnitState,
		protected readonly clock: Clock,
		private readonly transmit: (bytes: Uint8Array) => void
	) {
		this.#wake();
	}

	abstract get switches(): PanelSwitch[];
	protected abstract handle(message: Uint8Array): void;
	protected dumpButton: string | null = null;

	/** The model number that its loader speaks with; null where it takes no new system. */
	protected get loaderModel(): number | null {
		return null;
	}

	/** The front panel's dump button. */
	dump(): void {
		throw new Problem(
			'bench.no-dump-button',
			`A ${this.profile.model} has no dump button.`,
			'Ask it for its memory instead.'
		);
	}

	get deviceId(): number {
		const wrong = this.faults.find((fault) => fault.kind === 'wrong device ID');
		const own = this.state.settings.deviceId ?? this.profile.addressing.deviceId?.default ?? 0;
		return wrong?.kind === 'wrong device ID' ? (own + wrong.add) % 127 : own;
	}

	/** What a control of a controller says when it is touched while a template plays; nothing where it is none. */
	touch(_control: string, _how: Touch, _template: number): Spoken[] {
		return [];
	}

	/** The slot that the panel stands at. */
	protected get cursor(): number {
		return this.#cursor;
	}

	/** The slot that plays; none that there is while something is played that is not stored. */
	protected get plays(): number {
		return this.#edit ? 0x7f : this.#cursor;
	}

	protected get mainArea(): string {
		return this.profile.areas[0].id;
	}

	/** Bytes from the cable. While the device is busy they wait in a buffer that can run over. */
	receive(bytes: Uint8Array): void {
		for (const byte of bytes) {
			if (this.busy && this.#queue.length >= this.manners.bufferBytes) this.lostBytes++;
			else this.#queue.push(byte);
		}
		this.#pump();
	}

	get busy(): boolean {
		return this.clock.now() < this.#busyUntil;
	}

	#pump(): void {
		while (!this.busy && this.#queue.length > 0) {
			const end = this.#queue.indexOf(0xf7);
			const part = this.#queue.splice(0, end < 0 ? this.#queue.length : end + 1);
			for (const event of this.#framer.push(Uint8Array.from(part))) {
				if (event.kind === 'message' && !this.#loader) this.#play(event.bytes);
				if (event.kind !== 'sysex') continue;
				if (this.#loader) {
					this.#loader.handle(event.bytes);
					this.changed();
					continue;
				}
				const asked = readIdentityRequest(event.bytes);
				if (asked) this.#answerIdentity(asked.deviceId);
				else this.handle(event.bytes);
			}
		}
	}

	/** Whether it has a voice of its own. */
	protected readonly voice: boolean = true;

	/** Channel messages, on whichever channel they come. */
	#play([status, first, second = 0]: Uint8Array): void {
		const kind = status & 0xf0;
		if (kind === 0xc0) {
			if (!this.programChange(first, (status & 15) + 1)) return;
		} else if (kind === 0xb0 && (first === 0 || first === 32)) return this.bankSelect(first, second);
		else if (kind === 0x90 && second > 0 && this.voice) this.#sounding.add(first);
		else if (kind === 0x80 || kind === 0x90) this.#sounding.delete(first);
		else if (kind === 0xb0 && this.controller(first, second, (status & 15) + 1)) return;
		else if (kind === 0xb0 && (first === 120 || first === 123)) this.#sounding.clear();
		else return;
		this.showed();
	}

	/** A program change on a channel; false where it is none of this device's. */
	protected programChange(number: number, _channel: number): boolean {
		if (number >= areaOf(this.profile, this.mainArea).slots) return false;
		this.select(number);
		return true;
	}

	/** A controller; true where it is all that it means. */
	protected controller(_number: number, _value: number, _channel: number): boolean {
		return false;
	}

	/** A bank select, of which most take no notice. */
	protected bankSelect(_controller: 0 | 32, _value: number): void {}

	/** What plays: the slot that is selected, or what was tried out since. */
	protected get playing(): Uint8Array {
		return this.#edit ?? this.#record(this.mainArea, this.#cursor);
	}

	/** Plays a record without storing it, until another program is selected. */
	protected tryOut(record: Uint8Array): void {
		this.#edit = record.slice();
		this.#note = 'EDIT BUFFER';
		this.showed();
	}

	/** Whether it says who it is when it is asked for its identity. */
	protected get answersIdentity(): boolean {
		return this.profile.identity.answers;
	}

	#answerIdentity(deviceId: number): void {
		const { identity } = this.profile;
		if (!this.answersIdentity || (deviceId !== ALL_DEVICES && deviceId !== this.deviceId)) return;
		this.reply(
			identityReply({
				deviceId: this.deviceId,
				manufacturer: fromHex(identity.manufacturer),
				family: fromHex(identity.family),
				member: fromHex(identity.member),
				version: Uint8Array.of(this.state.firmware[0], this.state.firmware[1], 0, 0)
			})
		);
	}

	/** Busy with its memory for so long; what arrives meanwhile waits. */
	protected work(ms: number): void {
		const slow = this.faults.find((fault) => fault.kind === 'slow memory');
		const total = slow?.kind === 'slow memory' ? ms * slow.factor : ms;
		this.#busyUntil = this.clock.now() + total;
		this.clock.after(total, () => this.#pump());
	}

	protected reply(bytes: Uint8Array, afterMs = this.manners.thinkMs): void {
		const slow = this.faults.find((fault) => fault.kind === 'slow answers');
		this.clock.after(afterMs + (slow?.kind === 'slow answers' ? slow.addMs : 0), () => this.transmit(bytes));
	}

	/** Overwrites slots from `first`. */
	protected store(area: string, first: number, records: readonly Uint8Array[]): void {
		records.forEach((record, i) => {
			this.state.memory[area][first + i] = record.slice();
		});
		this.changed();
	}

	/** Shows a line under the program until the next key. */
	protected say(note: string): void {
		this.#note = note;
		this.changed();
	}

	setSwitch(id: string, value: number): void {
		const found = this.switches.find((entry) => entry.id === id);
		if (!found)
			throw new Problem('bench.no-switch', `There is no switch “${id}”.`, 'Choose one that the panel has.');
		if (!Number.isInteger(value) || value < found.low || value > found.high)
			throw new Problem(
				'bench.switch-range',
				`“${found.label}” goes from ${found.low} to ${found.high}.`,
				'Choose a value in that range.'
			);
		this.state.settings[id] = value;
		this.#note = '';
		this.changed();
	}

	select(index: number): void {
		const { slots } = areaOf(this.profile, this.mainArea);
		this.#cursor = ((index % slots) + slots) % slots;
		this.#edit = null;
		this.#note = '';
	}

	/** A hand chooses another slot at the panel. */
	turnTo(index: number): void {
		this.select(index);
		this.chosen();
	}

	/** What it says by itself when a hand has chosen another slot. */
	protected chosen(): void {}

	/** Edits one parameter of a slot at the panel and stores it. */
	edit(area: string, index: number, parameterId: string, raw: number): void {
		const record = this.profile.records[areaOf(this.profile, area).record];
		const parameter = record.parameters.find(({ id }) => id === parameterId);
		if (!parameter)
			throw new Problem(
				'bench.no-parameter',
				`There is no parameter “${parameterId}”.`,
				'Choose one that the panel has.'
			);
		const bytes = this.#record(area, index);
		this.store(area, index, [writeParameter(meaningOf(record, parameter, bytes), bytes, raw)]);
	}

	rename(area: string, index: number, name: string): void {
		const record = this.profile.records[areaOf(this.profile, area).record];
		this.store(area, index, [writeName(this.profile, record, this.#record(area, index), name)]);
	}

	/** Puts the contents of two slots in each other's place. */
	swap(area: string, a: number, b: number): void {
		const [one, other] = [this.#record(area, a), this.#record(area, b)];
		this.store(area, a, [other]);
		this.store(area, b, [one]);
	}

	#record(area: string, index: number): Uint8Array {
		const record = this.state.memory[area]?.[index];
		if (!record)
			throw new Problem(
				'bench.no-slot',
				`There is no slot ${index} in “${area}”.`,
				'Choose one that the panel has.'
			);
		return record;
	}

	/** Awake as its state says: in update mode where that was asked for, or where there is no system to start. */
	#wake(): void {
		const { settings } = this.state;
		const model = this.loaderModel;
		this.#loader =
			model !== null && (settings.erased === 1 || settings.loader === 1)
				? new Loader(
						model,
						this.state,
						(bytes) => this.reply(bytes),
						() => this.work(LOADER_MS),
						() => (this.state.memory = factoryState(this.profile, seededRandom(77)).memory)
					)
				: null;
	}

	/** Whether it can be switched on in update mode. */
	get takesSystems(): boolean {
		return this.loaderModel !== null;
	}

	/**
	 * Switched off and on again: the settings that it forgets are back at their defaults.
	 * @param held whether the button for update mode was held while it was switched on
	 */
	powerCycle(held = false): void {
		if (held && this.loaderModel !== null) this.state.settings.loader = 1;
		else delete this.state.settings.loader;
		this.#wake();
		for (const id of this.manners.forgets) delete this.state.settings[id];
		this.#framer = new Framer();
		this.#queue = [];
		this.#busyUntil = 0;
		this.#edit = null;
		this.#sounding.clear();
		this.#note = '';
		this.changed();
	}

	panel(): PanelView {
		const area = areaOf(this.profile, this.mainArea);
		const bytes = this.#edit ?? this.#record(area.id, this.#cursor);
		const slot = makeSlot(this.profile, area.id, this.#cursor, bytes);
		const record = this.profile.records[area.record];
		const word = area.slotWord[0].toUpperCase() + area.slotWord.slice(1);
		return {
			display: this.#loader
				? [this.#loader.shows, '', '']
				: [`${word} ${slot.label}`, slot.name ?? '', this.#note || (this.busy ? 'Writing…' : '')],
			switches: this.switches,
			program: {
				area: area.id,
				index: this.#cursor,
				label: slotLabel(area.labels, this.#cursor),
				name: slot.name,
				parameters: record.parameters.map((parameter) => {
					const value = readValue(parameter, bytes);
					const meaning = meaningOf(record, parameter, bytes);
					return {
						id: parameter.id,
						name: meaning.name,
						raw: value,
						low: meaning.range[0],
						high: meaning.range[1],
						shown: formatValue(meaning, value)
					};
				})
			},
			slots: area.slots,
			dumpButton: this.dumpButton,
			takesSystems: this.takesSystems,
			updating: this.#loader !== null,
			busy: this.busy,
			sounding: [...this.#sounding]
		};
	}

	protected flag(id: string, label: string, byDefault: 0 | 1): PanelSwitch {
		return { id, label, kind: 'switch', value: this.state.settings[id] ?? byDefault, low: 0, high: 1 };
	}

	protected dial(id: string, label: string, byDefault: number, low: number, high: number): PanelSwitch {
		return { id, label, kind: 'dial', value: this.state.settings[id] ?? byDefault, low, high };
	}

	protected isOn(id: string): boolean {
		return this.switches.find((entry) => entry.id === id)?.value === 1;
	}
}

/** `bytes` cut into records of `size`. */
export const cutRecords = (bytes: Uint8Array, size: number): Uint8Array[] =>
	Array.from({ length: Math.floor(bytes.length / size) }, (_, i) => bytes.slice(i * size, (i + 1) * size));
