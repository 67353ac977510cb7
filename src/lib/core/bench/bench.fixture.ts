import { readFileSync, readdirSync } from 'node:fs';
import { parseProfile, type Profile } from '../profile';
import {
	VirtualClock,
	capture,
	converse,
	restore,
	type CaptureOrder,
	type CaptureOutcome,
	type RestoreOrder,
	type RestoreOutcome,
	type TraceLine,
	type TransferEvent
} from '../transfer';
import { BenchStation, factoryState, seededRandom, type UnitState } from '.';

const profilesIn = (name: 'profiles' | 'insides'): Profile[] => {
	const folder = new URL(`../../../../${name}/`, import.meta.url);
	return readdirSync(folder)
		.filter((file) => file.endsWith('.json'))
		.map((file) => parseProfile(JSON.parse(readFileSync(new URL(file, folder), 'utf8'))));
};

export const shippedProfiles: Profile[] = profilesIn('profiles');
/** What simulated instruments are inside that no profile describes. */
const insides = profilesIn('insides');

export const profileNamed = (id: string): Profile =>
	[...shippedProfiles, ...insides].find((profile) => profile.id === id)!;

const made = new Map<string, UnitState>();
/** What leaves the works, made once for a seed. */
function stateOf(profile: Profile, seed: number): UnitState {
	const key = `${profile.id} ${seed}`;
	if (!made.has(key)) made.set(key, factoryState(profile, seededRandom(seed)));
	return structuredClone(made.get(key)!);
}

/** A model as it leaves the works, with made-up sounds of its own. */
export const makeUp = (profileId: string, seed: number) => {
	const profile = profileNamed(profileId);
	return { profile, state: stateOf(profile, seed) };
};

/** A bench with one device of that profile, and what a test wants to do with it. */
export function workbench(profileId: string, seed = 1) {
	const profile = profileNamed(profileId);
	const clock = new VirtualClock();
	const station = new BenchStation(
		'test port',
		profile,
		stateOf(profile, seed),
		clock,
		seededRandom(seed + 1)
	);
	const trace: TraceLine[] = [];
	const events: TransferEvent[] = [];
	const kept: unknown[] = [];
	const target = { deviceId: profile.addressing.deviceId?.default ?? 0, channel: 1 };
	let hands: (() => void) | null = () => clock.after(500, () => station.unit.dump());

	const run = <R>(
		start: (emit: (event: TransferEvent) => void) => Parameters<typeof converse<R>>[0],
		during?: (running: { cancel(): void }) => void
	): R => {
		let result: R | undefined;
		const conversation = start((event) => {
			events.push(event);
			if (event.event === 'hands') hands?.();
		});
		const running = converse<R>(
			conversation,
			{
				link: station,
				clock,
				trace: (line) => trace.push(line),
				keep: (what, done) => {
					kept.push(what);
					done();
				}
			},
			(value) => (result = value)
		);
		during?.(running);
		clock.run(() => result !== undefined);
		if (result === undefined) throw new Error('The conversation never ended.');
		return result;
	};

	return {
		profile,
		clock,
		station,
		unit: station.unit,
		trace,
		events,
		run,
		kept,
		target,
		onHands(action: (() => void) | null) {
			hands = action;
		},
		capture: (
			order: Partial<CaptureOrder> = {},
			during?: (running: { cancel(): void }) => void
		): CaptureOutcome =>
			run((emit) => capture({ profile, target, scope: { kind: 'all' }, ...order }, emit), during),
		restore: (
			order: Pick<RestoreOrder, 'wanted'> & Partial<RestoreOrder>,
			during?: (running: { cancel(): void }) => void
		): RestoreOutcome => run((emit) => restore({ profile, target, ...order }, emit), during)
	};
}
