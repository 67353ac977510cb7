import * as Comlink from 'comlink';
import { sendScene, type SceneSent, type Step } from '../core/scene/send-scene';
import { z } from 'zod';
import { answered, type Answered } from '../core/answered';
import { describe, rollCallWithDiscovery, type CalledAnswer, type Described } from '../core/ci';
import { Problem } from '../core/problem';
import type { Device } from '../core/gear';
import {
	askLoader,
	audition,
	panicMessages,
	sendFirmware,
	type FirmwareOutcome,
	type FirmwareProgress,
	type LoaderMode,
	testThroughDevice,
	type Audition,
	type AdapterVerdict,
	type Conversation,
	type Link,
	receiveFile,
	receiveSample,
	sendFile,
	sendSample,
	type FileOutcome,
	type SampleOutcome,
	type Target
} from '../core/transfer';
import type { FirmwareFile, FirmwareWays } from '../core/profile';
import type { DumpedFile, Sample } from '../core/sysex';
import type { Spoken, Touch } from '../core/bench';
import { carryOut } from './carry-out';
import { sayAndHear } from './say-and-hear';
import { sendAll } from './send-all';
import { call } from './api';
import { BenchRoom, type PanelAction, type PanelState } from './bench-room';
import { pluggedIn } from './plugged-in';
import type { TransferSession } from './session';
import type { SessionState, TransferOrder } from './session-state';
import { runTransfer } from './transfer-run';
import { watchedLink, type Seen } from './watched-link';

// The page's content-security policy forbids code made from text; Zod does without it when told.
z.config({ jitless: true });

const TELL_MS = 50;
const room = new BenchRoom();
const sessions = new Map<string, TransferSession>();
// Hands are not faster because the line is: while the app waits for somebody, time runs as it does.
room.waitsForHands = () => [...sessions.values()].some(({ state }) => state.hands !== null);

const safely = <T>(work: () => Promise<T>): Promise<Answered<T>> =>
	answered(work, 'Reload the page and try again. What was confirmed is stored.');

/** What a bench unit's panel showed while it was played. */
export interface Heard {
	display: string[];
	/** Notes that sounded, as on the wire. */
	sounding: number[];
}

let seen: (messages: Seen[]) => void | Promise<void> = () => undefined;
const batch: Seen[] = [];

/** Tells the page of what passed since it was told last; done once it knows. */
async function tellBatch(): Promise<void> {
	if (batch.length > 0) await seen(batch.splice(0));
}

/** Tells the page of a message, in batches. */
function tellSeen(message: Seen): void {
	if (batch.push(message) === 1) setTimeout(() => void tellBatch(), TELL_MS);
}

/** A link whose traffic is told to the page. */
const watched = (name: string, link: Link) =>
	watchedLink(link, (way, bytes) => tellSeen({ port: name, way, bytes }));

/** Carries a conversation out on a line of the bench. The page has heard all of it before it is told what came of it. */
async function converseOn<R>(name: string, link: Link, conversation: Conversation<R>): Promise<R> {
	const result = await carryOut(conversation, watched(name, link), room.clock);
	await tellBatch();
	return result;
}

/** @throws Problem `bench.busy` while a dump passes the line of a unit */
function mustBeQuiet({ busy, name }: { busy: number; name: string }, remedy: string): void {
	if (busy > 0) throw new Problem('bench.busy', `A dump passes the line of “${name}”.`, remedy);
}

type Seat = Awaited<ReturnType<typeof room.seat>>;

/** A conversation with one unit of the bench. */
const withUnit = <R>(unitId: string, say: (seat: Seat) => Conversation<R>): Promise<Answered<R>> =>
	safely(() =>
		room.hold(async () => {
			const seat = await room.seat(unitId);
			return converseOn(seat.name, seat.station, say(seat));
		})
	);

const bench = {
	watchTraffic(tell: typeof seen): void {
		seen = tell;
		room.spoke = (name, bytes) => tellSeen({ port: name, way: 'received', bytes });
	},

	/** Calls the roll at bench units, one after another as on one port each. */
	rollCall: (unitIds: string[]): Promise<Answered<{ unitId: string; answers: CalledAnswer[] }[]>> =>
		safely(() =>
			room.hold(async () => {
				const heard = [];
				for (const unitId of unitIds) {
					const seat = await room.seat(unitId);
					const { answers } = await converseOn(seat.name, seat.station, rollCallWithDiscovery(Math.random));
					heard.push({ unitId, answers });
				}
				return heard;
			})
		),

	/** Asks a unit to describe itself. */
	describe: (unitId: string): Promise<Answered<Described>> => withUnit(unitId, () => describe(Math.random)),

	/** Judges the adapter of a bench unit by what its device sends. */
	testAdapter: (unitId: string, target: Target): Promise<Answered<AdapterVerdict>> =>
		withUnit(unitId, ({ station }) => testThroughDevice(station.unit.profile, target, () => undefined)),

	/** Asks a unit whether it is in update mode. */
	askLoader: (unitId: string, ways: FirmwareWays): Promise<Answered<LoaderMode>> =>
		withUnit(unitId, (seat) => {
			mustBeQuiet(seat, 'Wait for its end, then ask again.');
			return askLoader(ways);
		}),

	/** Sends a unit in update mode a new system. */
	sendFirmware: (
		unitId: string,
		file: Pick<FirmwareFile, 'messages' | 'variant'>,
		ways: FirmwareWays,
		tell: (progress: FirmwareProgress) => void
	): Promise<Answered<FirmwareOutcome>> =>
		safely(() =>
			room.hold(async () => {
				const seat = await room.seat(unitId);
				mustBeQuiet(seat, 'Wait for its end; nothing was sent.');
				seat.busy++;
				try {
					return await converseOn(seat.name, seat.station, sendFirmware(file, ways, tell));
				} finally {
					seat.busy--;
				}
			})
		),

	setSpeed(speed: number): void {
		room.speed = speed;
	},

	watchPanels(changed: (unitId: string) => void): void {
		room.panelChanged = changed;
	},

	panel: (unitId: string): Promise<Answered<PanelState>> => safely(() => room.panel(unitId)),

	act: (unitId: string, action: PanelAction): Promise<Answered<PanelState>> =>
		safely(() => room.act(unitId, action)),

	/** What a unit that is a controller says when it is touched. */
	touch: (unitId: string, control: string, how: Touch, template: number): Promise<Answered<Spoken[]>> =>
		safely(() => room.hold(async () => (await room.seat(unitId)).station.unit.touch(control, how, template))),

	/** Runs a transfer; `show` is told of its progress, a dozen times a second at most. */
	transfer: (order: TransferOrder, show: (state: SessionState) => void): Promise<Answered<SessionState>> =>
		safely(() =>
			room.hold(async () => {
				const device = await call<Device>('GET', `/devices/${order.deviceId}`);
				const seat = await room.seat(pluggedIn(device.name, device.benchUnit));
				seat.busy++;
				try {
					const run = await runTransfer(
						order,
						room.clock,
						() => Promise.resolve(watched(seat.name, seat.station)),
						show
					);
					const { transferId } = run.session.state;
					sessions.set(transferId, run.session);
					try {
						return await run.done;
					} finally {
						sessions.delete(transferId);
					}
				} finally {
					seat.busy--;
				}
			})
		),

	/** Sends messages to a bench unit; what it answers passes the monitor. */
	sendTo: (unitId: string, messages: Uint8Array[]): Promise<Answered<number>> =>
		withUnit(unitId, () => sendAll(messages)),

	/** Sends messages to a bench unit, asks a question, and gives what came after it. */
	say: (
		unitId: string,
		messages: Uint8Array[],
		ask: Uint8Array | null
	): Promise<Answered<Uint8Array[] | null>> =>
		withUnit(unitId, (seat) => {
			mustBeQuiet(seat, 'What is sent would break into it: wait for its end.');
			return sayAndHear(messages, ask);
		}),

	/** Sends a scene's messages to a bench unit, and asks it what it plays. */
	sendScene: (
		unitId: string,
		steps: Step[],
		question: { ask: Uint8Array; timeoutMs: number } | null
	): Promise<Answered<SceneSent>> =>
		withUnit(unitId, (seat) => {
			mustBeQuiet(seat, 'What is sent would break into it: wait for its end.');
			return sendScene(steps, question);
		}),

	/** Plays something on a bench unit; tells what its panel showed while it did. */
	audition: (unitId: string, order: Audition): Promise<Answered<{ left: boolean; shown: Heard }>> =>
		safely(() =>
			room.hold(async () => {
				const seat = await room.seat(unitId);
				mustBeQuiet(seat, 'A note would break into it: wait for its end.');
				const { unit } = seat.station;
				const look = (): Heard => {
					const { display, sounding } = unit.panel();
					return { display, sounding };
				};
				let shown: Heard | null = null;
				const left = await converseOn(
					seat.name,
					seat.station,
					audition(order, () => (shown = look()))
				);
				return { left, shown: shown ?? look() };
			})
		),

	/** Silences all units of the bench that are in use, but those whose line a dump passes. */
	panic: (): Promise<Answered<number>> =>
		safely(() =>
			room.hold(async () => {
				const seats = room.seated().filter(({ busy }) => busy === 0);
				for (const seat of seats) await converseOn(seat.name, seat.station, sendAll(panicMessages()));
				return seats.length;
			})
		),

	/** Receives a sample from the bench's sampler. */
	receiveSample: (
		deviceId: number,
		number: number,
		progress: (packets: number, of: number) => void
	): Promise<Answered<SampleOutcome>> =>
		safely(() => converseOn('Sampler', room.sampler, receiveSample(deviceId, number, progress))),

	/** Sends a sample to the bench's sampler. */
	sendSample: (
		deviceId: number,
		sample: Sample,
		progress: (packets: number, of: number) => void
	): Promise<Answered<SampleOutcome>> =>
		safely(() => converseOn('Sampler', room.sampler, sendSample(deviceId, sample, progress))),

	/** Receives a file from the bench's recorder: asked for, or, where nothing is wanted, begun by a hand at it. */
	receiveFile: (
		deviceId: number,
		wanted: Pick<DumpedFile, 'type' | 'name'> | null,
		progress: (packets: number, of: number) => void
	): Promise<Answered<FileOutcome>> =>
		safely(() => {
			if (!wanted) room.dumpFile();
			return converseOn('Recorder', room.recorder, receiveFile(deviceId, wanted, progress));
		}),

	/** Sends a file to the bench's recorder. */
	sendFile: (
		deviceId: number,
		file: DumpedFile,
		progress: (packets: number, of: number) => void
	): Promise<Answered<FileOutcome>> =>
		safely(() => converseOn('Recorder', room.recorder, sendFile(deviceId, file, progress))),

	cancel(transferId: string): void {
		sessions.get(transferId)?.cancel();
	}
};

export type BenchWorker = typeof bench;

Comlink.expose(bench);
