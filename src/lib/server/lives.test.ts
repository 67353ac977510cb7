import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { BenchStation, factoryState, faultSchema, seededRandom, tweak, type Fault } from '../core/bench';
import {
	retentionSchema,
	standingOf,
	stateOf,
	type LiveWorld,
	type RestoreSource,
	type Transfer
} from '../core/drawer';
import type { Device } from '../core/gear';
import { joinBytes, toHex } from '../core/midi';
import { makeSlot, messagesFor, slotKey } from '../core/profile';
import {
	VirtualClock,
	capture,
	converse,
	firmwareOf,
	reportOf,
	restore,
	type CaptureOutcome,
	type Conversation,
	type Emit,
	type RestoreOutcome,
	type SafetyCopy,
	type Scope
} from '../core/transfer';
import { openStudio, type Studio } from './db/connection';
import { acceptVersion, listVersions, openVersion } from './drawer';
import { storeFile } from './files';
import { addDevice, factsOfModel, touchDevice } from './gear';
import { hashOf } from './hash';
import { applyRetention, previewRetention } from './keeping';
import { readableSlots } from './knowing';
import { shippedProfile } from './profiles';
import { readKnowledge } from './store/knowledge';
import { appendMessages, beginTransfer, finishTransfer, keepSafetyCopy, wantedOf } from './transfers';
import {
	abandonTransfer,
	dropUnfinished,
	keepUnfinished,
	resumeTransfer,
	unfinishedCaptures
} from './unfinished';

let profile = shippedProfile('tarnow-parallax');
const WORLDS = ['bench', 'hardware'] as const;
const target = { deviceId: 0, channel: 1 };

const slots = fc.uniqueArray(fc.nat(31), { minLength: 1, maxLength: 6 });
const world = fc.constantFrom<LiveWorld>(...WORLDS);
const act = fc.oneof(
	{ weight: 4, arbitrary: fc.record({ do: fc.constant('capture' as const), world, only: fc.option(slots) }) },
	{
		weight: 3,
		arbitrary: fc.record({
			do: fc.constant('broken capture' as const),
			world,
			afterBytes: fc.integer({ min: 30, max: 1800 }),
			then: fc.constantFrom(
				'wait' as const,
				'keep' as const,
				'drop' as const,
				/** Every sound is changed before it goes on. */
				'edit and resume' as const
			)
		})
	},
	{ weight: 2, arbitrary: fc.record({ do: fc.constant('resume' as const), world, keep: fc.boolean() }) },
	{
		weight: 4,
		arbitrary: fc.record({
			do: fc.constant('restore' as const),
			world,
			only: slots,
			pick: fc.nat(5),
			fault: fc.option(fc.integer({ min: 10, max: 900 })),
			/** Its page vanishes before it can say how it ended. */
			vanish: fc.boolean()
		})
	},
	{
		weight: 3,
		arbitrary: fc.record({ do: fc.constant('edit' as const), world, only: slots, noted: fc.boolean() })
	},
	{ weight: 1, arbitrary: fc.record({ do: fc.constant('wipe' as const), world, accept: fc.boolean() }) },
	{ weight: 1, arbitrary: fc.record({ do: fc.constant('import' as const), seed: fc.nat(9) }) }
);
type Act = typeof act extends fc.Arbitrary<infer A> ? A : never;

/** A studio with one device in two worlds, what they really held at every moment, and the acts of a musician. */
class Life {
	readonly clock = new VirtualClock();
	readonly stations = new Map<LiveWorld, BenchStation>();
	/** Per world: every state of the memory, with when it began. */
	readonly truth = new Map<LiveWorld, { at: string; held: Map<string, string> }[]>();
	/** Per world and slot: when the app itself last changed it. */
	readonly written = new Map<string, string>();
	#restoring: LiveWorld | null = null;
	#seconds = 0;
	#random = seededRandom(7);

	constructor(
		readonly studio: Studio,
		readonly device: Device
	) {
		studio.now = () => this.#now(1);
		for (const [i, name] of WORLDS.entries()) {
			const state = factoryState(profile, seededRandom(i + 1));
			state.settings.protect = 0;
			const station = new BenchStation(name, profile, state, this.clock, seededRandom(i + 11));
			this.stations.set(name, station);
			this.truth.set(name, []);
			station.unit.changed = () => this.#note(name);
			this.#note(name);
		}
	}

	#now(later: number): Date {
		return new Date(Date.UTC(2026, 0, 1) + 1000 * (this.#seconds += later));
	}

	#note(name: LiveWorld): void {
		const held = new Map<string, string>();
		for (const [area, records] of Object.entries(this.stations.get(name)!.unit.state.memory))
			records.forEach((bytes, index) => held.set(slotKey(area, index), hashOf(bytes)));
		const at = this.#now(1).toISOString();
		const before = this.truth.get(name)!.at(-1)?.held;
		if (this.#restoring === name)
			for (const [key, record] of held)
				if (before?.get(key) !== record) this.written.set(`${name} ${key}`, at);
		this.truth.get(name)!.push({ at, held });
	}

	/** Time passes. */
	pass(seconds: number): void {
		this.#now(seconds);
	}

	async #converse<R>(
		name: LiveWorld,
		faults: Fault[],
		make: (emit: Emit) => Conversation<R>,
		onSafety: (copy: SafetyCopy) => Promise<unknown>
	): Promise<{ result: R; distrusted: boolean }> {
		const station = this.stations.get(name)!;
		station.faults = faults;
		let result: R | undefined;
		let distrusted = false;
		let pending: Promise<unknown> | null = null;
		converse(
			make((event) => {
				if (event.event === 'distrusted') distrusted = true;
			}),
			{
				link: station,
				clock: this.clock,
				trace: () => undefined,
				keep: (what, kept) => {
					pending = onSafety(what as SafetyCopy).then(() => kept());
				}
			},
			(value) => (result = value)
		);
		while (result === undefined) {
			this.clock.run(() => result !== undefined || pending !== null);
			if (pending) {
				const waiting: Promise<unknown> = pending;
				pending = null;
				await waiting;
			}
		}
		station.faults = [];
		if (!station.connected) station.plug();
		return { result, distrusted };
	}

	async #capture(
		name: LiveWorld,
		scope: Scope,
		faults: Fault[],
		resumed?: Transfer
	): Promise<Transfer | null> {
		const have = resumed ? await resumeTransfer(this.studio, resumed.id, name) : null;
		const transfer =
			have?.transfer ??
			(await beginTransfer(this.studio, {
				deviceId: this.device.id,
				direction: 'capture',
				world: name,
				scope
			}));
		const { result, distrusted } = await this.#converse<CaptureOutcome>(
			name,
			faults,
			(emit) =>
				capture(
					{ profile, target, scope, patienceMs: 100, have: have?.messages, distrusted: have?.distrusted },
					emit
				),
			() => Promise.resolve()
		);
		const before = have?.messages.length ?? 0;
		const known = new Set((have?.messages ?? []).map((bytes) => toHex(bytes)));
		const fresh = result.messages.map((bytes) => toHex(bytes)).filter((hex) => !known.has(hex));
		if (fresh.length > 0)
			await appendMessages(this.studio, transfer.id, { position: before, messages: fresh, distrusted });
		if (result.status !== 'complete') {
			await abandonTransfer(this.studio, transfer.id);
			return transfer;
		}
		const all = [...(have?.messages ?? []).map((bytes) => toHex(bytes)), ...fresh];
		await finishTransfer(this.studio, transfer.id, {
			...reportOf(result),
			use: result.messages.map((bytes) => all.indexOf(toHex(bytes)))
		});
		return null;
	}

	async #restore({ world: name, only, pick, fault, vanish }: Act & { do: 'restore' }): Promise<void> {
		const versions = (await listVersions(this.studio, this.device.id)).filter(({ slots: n }) => n >= 32);
		if (versions.length === 0) return;
		const source: RestoreSource = {
			from: 'version',
			versionId: versions[pick % versions.length].id,
			scope: { kind: 'slots', slots: only.map((index) => ({ area: 'programs', index })) }
		};
		const transfer = await beginTransfer(this.studio, {
			deviceId: this.device.id,
			direction: 'restore',
			world: name,
			scope: source.scope!,
			source
		});
		const wanted = (await wantedOf(this.studio, transfer.id)).slots.map(({ area, index, hex }) =>
			makeSlot(profile, area, index, Uint8Array.from(Buffer.from(hex, 'hex')))
		);
		const faults =
			fault === null
				? []
				: [faultSchema.parse({ kind: 'unplug', way: 'to device', afterBytes: fault, forMs: 600_000 })];
		this.#restoring = name;
		const { result } = await this.#converse<RestoreOutcome>(
			name,
			faults,
			(emit) => restore({ profile, target, wanted, patienceMs: 100 }, emit),
			({ outcome }) =>
				keepSafetyCopy(this.studio, transfer.id, {
					messages: outcome.messages.map((bytes) => toHex(bytes)),
					firmware: firmwareOf(outcome.identity)
				})
		);
		this.#restoring = null;
		if (vanish) await abandonTransfer(this.studio, transfer.id);
		else await finishTransfer(this.studio, transfer.id, reportOf(result));
	}

	#edit(name: LiveWorld, only: readonly number[]): void {
		const { unit } = this.stations.get(name)!;
		const { programs } = unit.state.memory;
		for (const index of only) {
			programs[index] = tweak(profile, 'programs', programs[index], this.#random);
			unit.changed();
		}
	}

	async do(what: Act): Promise<void> {
		this.pass(3600);
		switch (what.do) {
			case 'capture': {
				const scope: Scope = what.only
					? { kind: 'slots', slots: what.only.map((index) => ({ area: 'programs', index })) }
					: { kind: 'all' };
				return void (await this.#capture(what.world, scope, []));
			}
			case 'broken capture': {
				const fault = faultSchema.parse({ kind: 'unplug', afterBytes: what.afterBytes, forMs: 600_000 });
				const open = await this.#capture(what.world, { kind: 'all' }, [fault]);
				if (!open) return;
				const [found] = (await unfinishedCaptures(this.studio)).filter(({ id }) => id === open.id);
				if (found && what.then === 'keep') await keepUnfinished(this.studio, open.id);
				if (found && what.then === 'drop') await dropUnfinished(this.studio, open.id);
				if (found && what.then === 'edit and resume') {
					this.pass(86_400);
					this.#edit(what.world, [...Array(32).keys()]);
					await this.#capture(what.world, { kind: 'all' }, [], found);
				}
				return;
			}
			case 'resume': {
				const [open] = (await unfinishedCaptures(this.studio)).filter((each) => each.world === what.world);
				if (!open) return;
				if (what.keep) await keepUnfinished(this.studio, open.id);
				else await this.#capture(what.world, { kind: 'all' }, [], open);
				return;
			}
			case 'restore':
				return this.#restore(what);
			case 'edit': {
				this.#edit(what.world, what.only);
				if (what.noted && what.world === this.studio.world) await touchDevice(this.studio, this.device.id);
				return;
			}
			case 'wipe': {
				const { unit } = this.stations.get(what.world)!;
				unit.state.memory.programs = unit.state.memory.programs.map((bytes) => new Uint8Array(bytes.length));
				unit.changed();
				await this.#capture(what.world, { kind: 'all' }, []);
				for (const { id, question } of await listVersions(this.studio, this.device.id))
					if (question && what.accept) await acceptVersion(this.studio, id);
				return;
			}
			case 'import': {
				const { memory } = factoryState(profile, seededRandom(what.seed));
				const dump = messagesFor(
					profile,
					memory.programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes)),
					target
				);
				await storeFile(this.studio, { bytes: joinBytes(dump), name: 'f.syx', deviceId: this.device.id });
			}
		}
	}

	/** What the device held in a slot at a time. */
	heldAt(name: LiveWorld, key: string, at: string): string {
		return this.truth
			.get(name)!
			.findLast((state) => state.at <= at)!
			.held.get(key)!;
	}
}

async function assertTrue(life: Life): Promise<void> {
	for (const name of WORLDS) {
		const knowledge = await readKnowledge(life.studio, life.device.id, name);
		for (const [key, slot] of knowledge.slots) {
			for (const sight of [slot.seen, slot.proved])
				if (sight)
					expect(sight.record, `${name} ${key} at ${sight.at}`).toBe(life.heldAt(name, key, sight.at));
			// What the app itself wrote since is never shown as what was seen before.
			const state = stateOf(knowledge, slot);
			const writtenAt = life.written.get(`${name} ${key}`);
			if (writtenAt && (state === 'proved' || state === 'unproved' || state === 'changed'))
				expect(slot.seen!.at >= writtenAt, `${name} ${key} is ${state}`).toBe(true);
		}
	}
}

const counts = new Map<string, number>();

async function live(acts: readonly Act[]): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'drawer-life-'));
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	try {
		const device = await addDevice(studio, factsOfModel(studio, profile.id, 'Parallax'));
		const life = new Life(studio, device);
		for (const what of acts) {
			counts.set(what.do, (counts.get(what.do) ?? 0) + 1);
			await life.do(what);
			await assertTrue(life);
		}
		// Years later the old versions go, and nothing less is known than before.
		life.pass(3 * 365 * 86_400);
		const known = async () =>
			Promise.all(
				WORLDS.map(async (name) => {
					const knowledge = await readKnowledge(studio, device.id, name);
					return { slots: [...knowledge.slots], standing: standingOf(knowledge, readableSlots(profile)) };
				})
			);
		const before = await known();
		const rules = retentionSchema.parse({ keepAllDays: 1, weeklyDays: 0, monthlyDays: 1, safetyDays: 1 });
		const { going } = await previewRetention(studio, rules);
		await applyRetention(
			studio,
			rules,
			going.map(({ id }) => id)
		);
		expect(await known()).toEqual(before);
		for (const { slots: rows } of before)
			for (const [key, { proved }] of rows) {
				if (!proved) continue;
				const { seen } = await openVersion(studio, proved.versionId);
				expect(seen.find(({ slot }) => slotKey(slot.area, slot.index) === key)?.record).toBe(proved.record);
			}
	} finally {
		await studio.close();
		rmSync(folder, { recursive: true, force: true });
	}
}

it('whatever is claimed of a device was true in it at that time, in both worlds, through any life', async () => {
	/** One of each kind: chance alone leaves one out now and then. */
	const each: Act[] = [
		{ do: 'capture', world: 'bench', only: null },
		{ do: 'broken capture', world: 'bench', afterBytes: 400, then: 'wait' },
		{ do: 'resume', world: 'bench', keep: false },
		{ do: 'edit', world: 'bench', only: [3], noted: true },
		{ do: 'restore', world: 'bench', only: [3], pick: 0, fault: null, vanish: false },
		{ do: 'import', seed: 1 },
		{ do: 'wipe', world: 'bench', accept: false }
	];
	await fc.assert(fc.asyncProperty(fc.array(act, { minLength: 3, maxLength: 14 }), live), {
		numRuns: 14,
		endOnFailure: true,
		examples: [[each]]
	});
	expect([...counts.keys()].sort()).toHaveLength(7);
}, 180_000);

it('so it is of one that never says where it stands, and whose store command may go astray', async () => {
	profile = shippedProfile('merrow-skiff');
	await fc.assert(fc.asyncProperty(fc.array(act, { minLength: 3, maxLength: 10 }), live), {
		numRuns: 6,
		endOnFailure: true
	});
}, 180_000);
