import {
	BenchStation,
	seededRandom,
	tweak,
	between,
	type Fault,
	type Random,
	inventName
} from '../src/lib/core/bench';
import type { Device } from '../src/lib/core/gear';
import { toHex } from '../src/lib/core/midi';
import { areaOf, describeWith, type Profile, type Slot } from '../src/lib/core/profile';
import {
	VirtualClock,
	capture,
	converse,
	firmwareOf,
	reportOf,
	restore,
	wireTime,
	type CaptureOutcome,
	type Conversation,
	type RestoreOutcome,
	type SafetyCopy,
	type TraceLine,
	type TransferEvent
} from '../src/lib/core/transfer';
import { listUnits, saveUnit } from '../src/lib/server/bench';
import type { Studio } from '../src/lib/server/db/connection';
import { openVersion, labelVersion } from '../src/lib/server/drawer';
import { getDevice, listDevices, touchDevice } from '../src/lib/server/gear';
import { benchProfile } from '../src/lib/server/profiles';
import {
	appendMessages,
	appendTrace,
	beginTransfer,
	finishTransfer,
	keepSafetyCopy
} from '../src/lib/server/transfers';
import type { Transfer } from '../src/lib/core/drawer';

interface Act {
	kind?: string;
	title?: string;
	note?: string;
	tags?: string[];
	pinned?: boolean;
	faults?: Fault[];
	/** The studio snapshot that it belongs to. */
	snapshotId?: string;
}

/** Plays the musician of the demo: turns knobs on the bench, takes dumps, restores, all through the real engine and services. */
export class Performer {
	readonly #stations = new Map<string, BenchStation>();
	readonly #clock = new VirtualClock();
	readonly random: Random;

	private constructor(
		private readonly studio: Studio,
		private devices: Device[],
		seed: number
	) {
		this.random = seededRandom(seed);
	}

	static async prepare(studio: Studio, seed: number): Promise<Performer> {
		const performer = new Performer(studio, await listDevices(studio), seed);
		for (const unit of await listUnits(studio))
			performer.#stations.set(
				unit.id,
				new BenchStation(
					unit.name,
					benchProfile(unit.profileId),
					unit.state,
					performer.#clock,
					seededRandom(seed + 7)
				)
			);
		return performer;
	}

	device(name: string): Device {
		return this.devices.find((device) => device.name === name)!;
	}

	station(name: string): BenchStation {
		return this.#stations.get(this.device(name).benchUnit!)!;
	}

	#profile(name: string): Profile {
		return this.station(name).unit.profile;
	}

	/** Works on so many sounds at the panel. */
	async play(name: string, sounds: number, renames = 0): Promise<void> {
		const { unit } = this.station(name);
		const area = this.#profile(name).areas[0].id;
		const { slots } = areaOf(this.#profile(name), area);
		const record = this.#profile(name).records[areaOf(this.#profile(name), area).record];
		for (let i = 0; i < sounds; i++) {
			const index = between(this.random, 0, slots - 1);
			unit.state.memory[area][index] = tweak(
				this.#profile(name),
				area,
				unit.state.memory[area][index],
				this.random
			);
		}
		for (let i = 0; i < renames; i++)
			unit.rename(
				area,
				between(this.random, 0, slots - 1),
				inventName(this.#profile(name), record, this.random)
			);
		await touchDevice(this.studio, this.device(name).id);
	}

	#run<R>(
		name: string,
		faults: Fault[],
		make: (emit: (event: TransferEvent) => void) => Conversation<R>,
		onSafety: (copy: SafetyCopy) => void,
		heard: (event: TransferEvent) => void
	) {
		const station = this.station(name);
		station.faults = faults;
		const lines: TraceLine[] = [];
		let result: R | undefined;
		const start = this.#clock.now();
		converse(
			make((event) => {
				if (event.event === 'hands') this.#clock.after(3000, () => station.unit.dump());
				heard(event);
			}),
			{
				link: station,
				clock: this.#clock,
				trace: (line) => lines.push({ ...line, atMs: line.atMs - start }),
				keep: (what, kept) => {
					onSafety(what as SafetyCopy);
					kept();
				}
			},
			(value) => (result = value)
		);
		this.#clock.run(() => result !== undefined);
		station.faults = [];
		if (!station.connected) station.plug();
		const trace = lines.map((line) => ({
			atMs: line.atMs,
			way: line.way,
			hex: toHex(line.bytes),
			says: line.says ?? describeWith(station.unit.profile, line.bytes)
		}));
		return { result: result!, trace };
	}

	/** Takes a dump, as it went: complete, or broken off when `faults` say so. */
	async back(name: string, act: Act = {}): Promise<{ outcome: CaptureOutcome; transfer: Transfer }> {
		const device = await getDevice(this.studio, this.device(name).id);
		const profile = this.#profile(name);
		const transfer = await beginTransfer(this.studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'bench',
			scope: { kind: 'all' },
			kind: (act.kind ?? 'routine') as 'routine',
			title: act.title ?? '',
			sourceVersionId: null,
			snapshotId: act.snapshotId ?? null,
			predictedMs: wireTime(profile, { kind: 'all' })
		});
		const target = { deviceId: device.deviceId ?? 0, channel: device.channel ?? 1 };
		const { result: outcome, trace } = this.#run(
			name,
			act.faults ?? [],
			(emit) => capture({ profile, target, scope: { kind: 'all' }, patienceMs: 1000 }, emit),
			() => undefined,
			() => undefined
		);
		if (outcome.messages.length > 0)
			await appendMessages(this.studio, transfer.id, {
				position: 0,
				messages: outcome.messages.map((bytes) => toHex(bytes))
			});
		await appendTrace(this.studio, transfer.id, { part: 0, lines: trace.slice(0, 2000) });
		const ended = await finishTransfer(this.studio, transfer.id, {
			...reportOf(outcome),
			proved: false,
			use: null,
			outcome: { ...reportOf(outcome).outcome }
		});
		if (ended.versionId && (act.note ?? act.tags ?? act.pinned) !== undefined)
			await labelVersion(this.studio, ended.versionId, {
				title: act.title ?? '',
				note: act.note ?? '',
				tags: act.tags ?? [],
				pinned: act.pinned ?? false
			});
		return { outcome, transfer: ended };
	}

	/** Restores a version, or the slots of it that `only` chooses. */
	async bring(
		name: string,
		versionId: string,
		act: Act = {},
		only: (slot: Slot) => boolean = () => true
	): Promise<{ outcome: RestoreOutcome; transfer: Transfer }> {
		const device = await getDevice(this.studio, this.device(name).id);
		const profile = this.#profile(name);
		const wanted = (await openVersion(this.studio, versionId)).slots.filter(only);
		const scope = { kind: 'slots' as const, slots: wanted.map(({ area, index }) => ({ area, index })) };
		const transfer = await beginTransfer(this.studio, {
			deviceId: device.id,
			direction: 'restore',
			world: 'bench',
			scope,
			kind: 'after restore',
			title: act.title ?? '',
			sourceVersionId: versionId
		});
		const copies: SafetyCopy[] = [];
		const { result: outcome, trace } = this.#run(
			name,
			act.faults ?? [],
			(emit) =>
				restore(
					{ profile, target: { deviceId: device.deviceId ?? 0, channel: device.channel ?? 1 }, wanted },
					emit
				),
			(copy) => copies.push(copy),
			() => undefined
		);
		for (const { outcome: copy } of copies)
			await keepSafetyCopy(this.studio, transfer.id, {
				messages: copy.messages.map((bytes) => toHex(bytes)),
				firmware: firmwareOf(copy.identity)
			});
		await appendTrace(this.studio, transfer.id, { part: 0, lines: trace.slice(0, 2000) });
		const report = reportOf(outcome);
		return {
			outcome,
			transfer: await finishTransfer(this.studio, transfer.id, {
				...report,
				use: null,
				outcome: { ...report.outcome }
			})
		};
	}

	/** Puts the benches' memories where the app finds them. */
	async leave(): Promise<void> {
		for (const unit of await listUnits(this.studio)) {
			const station = this.#stations.get(unit.id)!;
			await saveUnit(this.studio, unit.id, unit.revision, station.unit.profile, station.unit.state, []);
		}
	}
}
