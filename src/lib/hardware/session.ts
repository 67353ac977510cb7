import { fromHex, toHex } from '../core/midi';
import { throughProperties } from '../core/ci';
import { areaOf, describeWith, makeSlot, slotLabel, type Profile } from '../core/profile';
import { Problem } from '../core/problem';
import {
	ProgressMeter,
	capture,
	converse,
	reportOf,
	captureRaw,
	restore,
	restoreRaw,
	targetOf,
	type CaptureOutcome,
	type Clock,
	type Conversation,
	type Emit,
	type Link,
	type RestoreOutcome,
	type Running,
	type SafetyCopy,
	type Target,
	type TraceLine,
	type TransferEvent,
	type TransferReport
} from '../core/transfer';
import type { Device } from '../core/gear';
import { proofOf } from '../core/drawer';
import { call } from './api';
import { Outbox } from './outbox';
import type { LogLine, SessionState, TransferOrder } from './session-state';
import { steadyInterval } from './steady-time';

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
/** Rest between the messages of a device whose pace nobody knows. */
const RAW_GAP_MS = 120;

/** Runs one transfer over a link and keeps the server informed: every message goes there as it arrives. */
export class TransferSession {
	readonly #meter = new ProgressMeter();
	readonly #outbox: Outbox;
	#running: Running | null = null;
	#startMs: number;
	readonly state: SessionState;

	private constructor(
		private readonly order: TransferOrder,
		private readonly opening: Opening,
		private readonly clock: Clock,
		private readonly changed: () => void
	) {
		this.#outbox = new Outbox(opening.transfer.id, opening, (told) => {
			Object.assign(this.state, told);
			this.#show();
		});
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
			stored: opening.messages.length,
			received: opening.messages.length,
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
		const target = targetOf(device, profile);
		const emit = (event: TransferEvent) => this.#note(event);
		// What cannot be told now is told with the next part, and is shown as such.
		const flush = steadyInterval(() => void this.#outbox.flush().catch(() => undefined), FLUSH_MS);
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
							this.#outbox.keepSafety(copy).then(
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
			const report = reportOf(outcome);
			if (outcome.kind === 'capture')
				report.outcome.proof = profile
					? proofOf(profile)
					: 'proved' in outcome && outcome.proved
						? 'twice alike'
						: 'none';
			await this.#outbox.finish(
				report,
				'proved' in outcome && outcome.proved === true,
				outcome.kind === 'capture' ? outcome.messages : null,
				this.order.line ?? null
			);
			this.state.ended = report;
			return report;
		} finally {
			flush();
			this.state.hands = null;
			this.#show();
		}
	}

	/** What is said to the device: as properties where it describes itself. */
	async #conversation(
		profile: Profile | null,
		target: Target,
		emit: Emit
	): Promise<Conversation<CaptureOutcome | RestoreOutcome>> {
		const conversation = await this.#plain(profile, target, emit);
		return profile
			? throughProperties(profile, conversation, Math.random, this.order.paceFactor)
			: conversation;
	}

	async #plain(
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
			slots: { area: string; index: number; hex: string; over?: string; rewrite?: true }[];
			messages: string[];
		}>('GET', `/transfers/${this.state.transferId}/wanted`);
		if (!profile)
			return restoreRaw({ messages: messages.map(fromHex), gapMs: RAW_GAP_MS * paceFactor }, emit);
		const wanted = slots.map(({ area, index, hex }) => makeSlot(profile, area, index, fromHex(hex)));
		const expected = slots.flatMap(({ area, index, over }) =>
			over === undefined ? [] : [makeSlot(profile, area, index, fromHex(over))]
		);
		const rewrite = slots.length > 0 && slots.every((slot) => slot.rewrite);
		return restore({ profile, target, wanted, expected, rewrite, paceFactor }, emit);
	}

	#note(event: TransferEvent): void {
		const { profile } = this.opening;
		this.#meter.note(event, this.clock.now());
		if (event.event === 'phase') this.state.through = [];
		else if (event.event === 'hands') this.state.hands = event.says;
		else if (event.event === 'hands done') this.state.hands = null;
		else if (event.event === 'distrusted') this.#outbox.distrusted = true;
		else if (event.event === 'retry') this.state.retries = [...this.state.retries, event.says];
		else if (event.event === 'named') this.#receive(event.bytes);
		else if (event.event === 'received' || event.event === 'written') {
			for (const { area, index, name } of event.slots)
				this.state.through.push({
					area,
					label: profile && area ? slotLabel(areaOf(profile, area).labels, index) : String(index + 1),
					name
				});
			if (event.event === 'received') this.#receive(event.bytes);
		}
		this.#show();
	}

	/** A message of a capture goes to the server as it arrives. */
	#receive(bytes: Uint8Array): void {
		if (this.order.direction !== 'capture') return;
		this.state.received++;
		this.#outbox.add(bytes);
	}

	#log(line: TraceLine): void {
		const entry: LogLine = {
			atMs: Math.round((line.atMs - this.#startMs) * 10) / 10,
			way: line.way,
			hex: toHex(line.bytes),
			says: line.says ?? describeWith(this.opening.profile, line.bytes)
		};
		this.#outbox.log(entry);
		this.state.log.push({ ...entry, hex: entry.hex.slice(0, 96) });
		if (this.state.log.length > LOG_LIMIT) this.state.log.splice(0, this.state.log.length - LOG_LIMIT);
		this.#show();
	}

	#show(): void {
		this.state.progress = this.#meter.read(this.clock.now());
		this.changed();
	}
}
