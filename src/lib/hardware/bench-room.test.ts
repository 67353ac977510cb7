import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { factoryState, freezeMemory, seededRandom } from '../core/bench';
import { profileNamed } from '../core/bench/bench.fixture';
import { toHex } from '../core/midi';
import { BenchRoom } from './bench-room';

const profile = profileNamed('ternhill-umbra');

/** The server's one unit, and the browser's locks, shared by all tabs. */
function world() {
	const state = factoryState(profile, seededRandom(2));
	const unit = {
		id: 'u',
		name: 'Umbra',
		profileId: profile.id,
		revision: 1,
		profile,
		settings: {} as Record<string, number>,
		firmware: [1, 4],
		memory: toHex(freezeMemory(profile, state)),
		faults: [] as unknown[]
	};
	const puts: { edited: boolean }[] = [];
	let held = false;
	vi.stubGlobal('fetch', async (_: string, init: { method: string; body?: string }) => {
		if (init.method === 'GET') return new Response(JSON.stringify(unit));
		const { revision, ...rest } = JSON.parse(init.body!);
		if (revision !== unit.revision)
			return new Response(
				JSON.stringify({
					problem: { code: 'bench.conflict', message: 'Another tab changed it.', remedy: 'Reload.' }
				}),
				{ status: 409 }
			);
		puts.push(rest);
		Object.assign(unit, rest, { revision: revision + 1 });
		return new Response(JSON.stringify({ revision: revision + 1 }));
	});
	vi.stubGlobal('navigator', {
		locks: {
			async request(_: string, __: unknown, use: (lock: object | null) => Promise<void> | undefined) {
				if (held) return use(null);
				held = true;
				await use({});
				held = false;
			}
		}
	});
	return { unit, puts };
}

beforeEach(() => void vi.useFakeTimers({ toFake: ['setInterval'] }));
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});

describe('the bench of a tab', () => {
	it('stores what a panel changed before it lets go, and says whether a sound was edited', async () => {
		const { unit, puts } = world();
		const room = new BenchRoom();
		await room.act('u', { act: 'switch', id: 'protect', value: 1 });
		expect(puts).toMatchObject([{ edited: false }]);
		const before = unit.memory;
		const panel = await room.act('u', { act: 'edit', parameter: 'decay', raw: 7 });
		expect(panel.program.parameters.find(({ id }) => id === 'decay')!.raw).toBe(7);
		expect(puts).toMatchObject([{ edited: false }, { edited: true }]);
		expect(unit.memory).not.toBe(before);
		await room.act('u', { act: 'rename', name: 'Dome' });
		expect(puts.at(-1)).toMatchObject({ edited: true });
	});

	it('sees what another tab did in the meantime', async () => {
		world();
		const [one, other] = [new BenchRoom(), new BenchRoom()];
		await one.act('u', { act: 'rename', name: 'First' });
		expect((await other.panel('u')).program.name).toBe('First');
		await other.act('u', { act: 'rename', name: 'Second' });
		expect((await one.panel('u')).program.name).toBe('Second');
	});

	it('is held by one tab at a time', async () => {
		world();
		const [one, other] = [new BenchRoom(), new BenchRoom()];
		let letGo: () => void = () => undefined;
		const holding = one.hold(() => new Promise<void>((done) => (letGo = done)));
		await vi.waitFor(() => expect(letGo).not.toBe(undefined));
		await expect(other.act('u', { act: 'power' })).rejects.toMatchObject({ code: 'bench.elsewhere' });
		// The tab that holds it may go on using it.
		await one.act('u', { act: 'step', by: 3 });
		letGo();
		await holding;
		await vi.waitFor(async () => expect((await other.act('u', { act: 'power' })).connected).toBe(true));
	});

	it('takes every press of a quick hand', async () => {
		world();
		const room = new BenchRoom();
		const from = (await room.panel('u')).program.index;
		await Promise.all([1, 2, 3].map(() => room.act('u', { act: 'step', by: 1 })));
		expect((await room.panel('u')).program.index).toBe(from + 3);
		// One repaired and another added before either is shown.
		await room.act('u', { act: 'spoil', fault: { kind: 'wrong device ID', add: 1 } });
		await Promise.all([
			room.act('u', { act: 'repair', fault: { kind: 'wrong device ID', add: 1 } }),
			room.act('u', { act: 'spoil', fault: { kind: 'wrong device ID', add: 2 } })
		]);
		expect((await room.panel('u')).faults).toEqual([{ kind: 'wrong device ID', add: 2 }]);
	});

	it('tells what a panel refuses, and goes on', async () => {
		world();
		const room = new BenchRoom();
		await expect(room.act('u', { act: 'dump' })).rejects.toMatchObject({ code: 'bench.no-dump-button' });
		await expect(room.act('u', { act: 'switch', id: 'protect', value: 9 })).rejects.toMatchObject({
			code: 'bench.switch-range'
		});
		expect(await room.act('u', { act: 'unplug' })).toMatchObject({ connected: false });
		expect(await room.act('u', { act: 'plug' })).toMatchObject({ connected: true });
		const { faults } = await room.act('u', { act: 'spoil', fault: { kind: 'wrong device ID', add: 1 } });
		expect(faults).toHaveLength(1);
	});
});

describe('a tab that was frozen', () => {
	/** A bench whose machine slept for so long, and what it did at each tick afterwards. */
	function slept(ms: number) {
		let now = 1000;
		vi.spyOn(performance, 'now').mockImplementation(() => now);
		const room = new BenchRoom();
		now += ms;
		const times: number[] = [];
		for (let i = 0; i < 200; i++) {
			vi.advanceTimersByTime(8);
			times.push(room.clock.now());
		}
		vi.restoreAllMocks();
		return times;
	}

	it('catches up in slices, so that what was asked of it meanwhile is heard on the way', () => {
		const times = slept(6000);
		expect(times[0]).toBeLessThanOrEqual(100);
		for (const [i, time] of times.entries()) expect(time - (times[i - 1] ?? 0)).toBeLessThanOrEqual(100);
		expect(times.at(-1), 'and loses nothing').toBe(6000);
	});

	it('does not make up for a night', () => {
		expect(slept(8 * 3_600_000).at(-1)).toBe(10_000);
	});
});
