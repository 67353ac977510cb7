import { fromHex, toHex } from '../core/midi';
import { areaOf, decodeDump, describeWith, makeSlot, slotLabel, type Profile } from '../core/profile';
import { Problem, type ProblemData } from '../core/problem';
import {
	ProgressMeter,
	capture,
	converse,
	firmwareOf,
	reportOf,
	captureRaw,
	restore,
	restoreRaw,
	type CaptureOutcome,
	type Clock,
	type Conversation,
	type Emit,
	type Link,
	type Progress,
	type RestoreOutcome,
	type Running,
	type SafetyCopy,
	type Scope,
	type Target,
	type TraceLine,
	type TransferEvent,
	type TransferReport
} from '../core/transfer';
import type { Device } from '../core/gear';
import { proofOf, type LiveWorld, type RestoreSource } from '../core/drawer';
import { call } from './api';
import { steadyInterval } from './steady-time';

export interface TransferOrder {
	direction: 'capture' | 'restore';
	deviceId: string;
	/** Where it takes place. */
	world: LiveWorld;
	scope: Scope;
	kind: string;
	title: string;
	/** The version to restore from. */
	versionId: string | null;
	/** Where the content of a restore comes from, where it is not that version. */
	source?: RestoreSource | null;
	/** The studio snapshot that it belongs to. */
	snapshotId?: string | null;
	/** How long it is expected to take, in ms. */
	predictedMs?: number | null;
	/** For a device without a profile: listens twice and compares. */
	twice?: boolean;
	/** An unfinished capture to go on with. */
	resume: string | null;
	paceFactor: number;
}

export interface LogLine {
	atMs: number;
	way: TraceLine['way'];
	says: string;
	hex: string;
}

/** What a page sees of a running transfer. Plain data: it crosses from a worker. */
export interface SessionState {
	transferId: string;
	deviceId: string;
	deviceName: string;
	direction: 'capture' | 'restore';
	progress: Progress;
	/** What the musician must do on the device now. */
	hands: string | null;
	/** Slots that have arrived or gone out, newest last. */
	through: { area: string; label: string; name: string | null }[];
	retries: string[];
	log: LogLine[];
	/** Messages that the server has confirmed, of those received. */
	stored: number;
	received: number;
	storing: ProblemData | null;
	ended: TransferReport | null;
}

interface Opening {
	transfer: { id: string };
	device: Device;
	/** Null for a device that is kept raw. */
	profile: Profile | null;
	messages: string[];
	part: number;
	distrusted: boolean;
}

const LOG_LIMIT = 300;
const FLUSH_MS = 400;
const STORE_RETRY_MS = 1000;
const STORE_TRIES = 60;
/** Rest between the messages of a device whose pace nobody knows. */
const RAW_GAP_MS = 120;

/** Runs one transfer over a link and keeps the server informed: every message goes there as it arrives. */
export class TransferSession {
	readonly #meter = new ProgressMeter();
	/** Every message of this transfer in the order in which it is stored. */
	readonly #all: string[];
	readonly #queue: string[] = [];
	readonly #trace: LogLine[] = [];
	#part: number;
	#position: number;
	#running: Running | null = null;
	#startMs: number;
	#storing: Promise<void> = Promise.resolve();
	/** Parts of the log go out one after another. */
	#telling: Promise<void> = Promise.resolve();
	/** Damage was seen on the line. */
	#distrusted = false;
	readonly state: SessionState;

	private constructor(
		private readonly order: TransferOrder,
		private readonly opening: Opening,
		private readonly clock: Clock,
		private readonly changed: () => void
	) {
		this.#all = [...opening.messages];
		this.#part = opening.part;
		this.#position = opening.messages.length;
		this.#startMs = clock.now();
		this.state = {
			transferId: opening.transfer.id,
			deviceId: opening.device.id,
			deviceName: opening.device.name,
			direction: order.direction,
			progress: this.#meter.read(clock.now()),
			hands: null,
			through: [],
			retries: [],
			log: [],
			stored: this.#position,
			received: this.#position,
			storing: null,
			ended: null
		};
	}

	/** Opens the transfer on the server. */
	static async open(order: TransferOrder, clock: Clock, changed: () => void): Promise<TransferSession> {
		const opening = order.resume
			? await call<Opening>('POST', `/transfers/${order.resume}/resume`, { world: order.world })
			: await call<Opening>('POST', '/transfers', {
					deviceId: order.deviceId,
					direction: order.direction,
					world: order.world,
					scope: order.scope,
					kind: order.kind,
					title: order.title,
					sourceVersionId: order.versionId,
					source: order.source ?? null,
					snapshotId: order.snapshotId ?? null,
					predictedMs: order.predictedMs ?? null
				});
		return new TransferSession(order, opening, clock, changed);
	}

	get device(): Device {
		return this.opening.device;
	}

	cancel(): void {
		this.#running?.cancel();
	}

	/** Runs to the end; the report is stored when this resolves. */
	async run(link: Link): Promise<TransferReport> {
		const { profile, device } = this.opening;
		const target = {
			deviceId: device.deviceId ?? profile?.addressing.deviceId?.default ?? 0,
			channel: device.channel ?? 1
		};
		const emit = (event: TransferEvent) => this.#note(event);
		const flush = steadyInterval(() => void this.#sendTrace(), FLUSH_MS);
		try {
			const conversation = await this.#conversation(profile, target, emit);
			const outcome = await new Promise<CaptureOutcome | RestoreOutcome>((resolve) => {
				this.#startMs = this.clock.now();
				this.#running = converse<CaptureOutcome | RestoreOutcome>(
					conversation,
					{
						link,
						clock: this.clock,
						trace: (line) => this.#log(line),
						traffic: (received, sent) => {
							this.#meter.traffic(received, sent);
							this.#show();
						},
						keep: (what, kept) => {
							const { outcome: copy } = what as SafetyCopy;
							this.#keepSafety(copy).then(
								() => kept(),
								(error: unknown) =>
									kept(
										error instanceof Problem
											? error
											: new Problem('store.failed', String(error), 'Try again.')
									)
							);
						}
					},
					resolve
				);
			});
			await this.#storing;
			do await this.#insist(() => this.#sendTrace(true));
			while (this.#trace.length > 0);
			const report = reportOf(outcome);
			if (outcome.kind === 'capture')
				report.outcome.proof = profile
					? proofOf(profile)
					: 'proved' in outcome && outcome.proved
						? 'twice alike'
						: 'none';
			await this.#insist(() =>
				call('POST', `/transfers/${this.state.transferId}/finish`, {
					...report,
					proved: 'proved' in outcome && outcome.proved === true,
					use:
						outcome.kind === 'capture'
							? outcome.messages.map((bytes) => this.#all.indexOf(toHex(bytes)))
							: null
				})
			);
			this.state.ended = report;
			return report;
		} finally {
			flush();
			this.state.hands = null;
			this.#show();
		}
	}

	/** What is said to the device. */
	async #conversation(
		profile: Profile | null,
		target: Target,
		emit: Emit
	): Promise<Conversation<CaptureOutcome | RestoreOutcome>> {
		const { direction, scope, paceFactor, twice } = this.order;
		if (direction === 'capture')
			return profile
				? capture(
						{
							profile,
							target,
							scope,
							have: this.opening.messages.map(fromHex),
							distrusted: this.opening.distrusted,
							paceFactor
						},
						emit
					)
				: captureRaw({ twice }, emit);
		const { slots, messages } = await call<{
			slots: { area: string; index: number; hex: string }[];
			messages: string[];
		}>('GET', `/transfers/${this.state.transferId}/wanted`);
		if (!profile)
			return restoreRaw({ messages: messages.map(fromHex), gapMs: RAW_GAP_MS * paceFactor }, emit);
		const wanted = slots.map(({ area, index, hex }) => makeSlot(profile, area, index, fromHex(hex)));
		return restore({ profile, target, wanted, paceFactor }, emit);
	}

	async #keepSafety(copy: CaptureOutcome): Promise<void> {
		await this.#insist(() =>
			call('POST', `/transfers/${this.state.transferId}/safety`, {
				messages: copy.messages.map((bytes) => toHex(bytes)),
				firmware: firmwareOf(copy.identity)
			})
		);
	}

	#note(event: TransferEvent): void {
		const { profile } = this.opening;
		this.#meter.note(event, this.clock.now());
		if (event.event === 'phase') this.state.through = [];
		else if (event.event === 'hands') this.state.hands = event.says;
		else if (event.event === 'hands done') this.state.hands = null;
		else if (event.event === 'distrusted') this.#distrusted = true;
		else if (event.event === 'retry') this.state.retries = [...this.state.retries, event.says];
		else if (event.event === 'received' || event.event === 'written') {
			const labels = profile && event.area ? areaOf(profile, event.area).labels : null;
			const names =
				profile && event.event === 'received'
					? decodeDump(profile, [event.bytes]).slots.map((slot) => slot.name)
					: [];
			for (let i = 0; i < event.records; i++)
				this.state.through.push({
					area: event.area,
					label: labels ? slotLabel(labels, event.firstSlot + i) : String(event.firstSlot + i + 1),
					name: names[i] ?? null
				});
			if (event.event === 'received' && this.order.direction === 'capture') {
				this.state.received++;
				const hex = toHex(event.bytes);
				this.#all.push(hex);
				this.#queue.push(hex);
				this.#storing = this.#storing.then(() => this.#store());
			}
		}
		this.#show();
	}

	async #store(): Promise<void> {
		if (this.#queue.length === 0) return;
		const messages = this.#queue.splice(0, 100);
		await this.#insist(() =>
			call('POST', `/transfers/${this.state.transferId}/messages`, {
				position: this.#position,
				messages,
				distrusted: this.#distrusted
			})
		);
		this.#position += messages.length;
		this.state.stored = this.#position;
		this.#show();
	}

	/** Repeats a call for as long as the server cannot be reached, and shows it; nothing that arrived is let go. */
	async #insist<T>(work: () => Promise<T>): Promise<T> {
		for (let tries = 1; ; tries++) {
			try {
				const value = await work();
				this.state.storing = null;
				return value;
			} catch (error) {
				if (!(error instanceof Problem) || error.code !== 'server.unreachable' || tries >= STORE_TRIES)
					throw error;
				this.state.storing = error.toJSON();
				this.#show();
				await new Promise((resolve) => setTimeout(resolve, STORE_RETRY_MS));
			}
		}
	}

	#log(line: TraceLine): void {
		const entry: LogLine = {
			atMs: Math.round((line.atMs - this.#startMs) * 10) / 10,
			way: line.way,
			hex: toHex(line.bytes),
			says: line.says ?? describeWith(this.opening.profile, line.bytes)
		};
		this.#trace.push(entry);
		this.state.log.push({ ...entry, hex: entry.hex.slice(0, 96) });
		if (this.state.log.length > LOG_LIMIT) this.state.log.splice(0, this.state.log.length - LOG_LIMIT);
		this.#show();
	}

	/** Tells the server the next lines of the log; an empty part still says that this transfer is alive. */
	#sendTrace(strict = false): Promise<void> {
		const told = this.#telling.then(async () => {
			const lines = this.#trace.slice(0, 1000);
			await call('POST', `/transfers/${this.state.transferId}/trace`, {
				part: this.#part,
				lines,
				distrusted: this.#distrusted
			});
			this.#trace.splice(0, lines.length);
			if (lines.length > 0) this.#part++;
		});
		this.#telling = told.catch((error: unknown) => {
			this.state.storing = error instanceof Problem ? error.toJSON() : null;
		});
		return strict ? told : this.#telling;
	}

	#show(): void {
		this.state.progress = this.#meter.read(this.clock.now());
		this.changed();
	}
}
