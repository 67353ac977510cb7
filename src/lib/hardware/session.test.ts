import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BenchStation, factoryState, seededRandom } from '../core/bench';
import { profileNamed } from '../core/bench/bench.fixture';
import { toHex } from '../core/midi';
import { VirtualClock } from '../core/transfer';
import { TransferSession } from './session';
import type { TransferOrder } from './session-state';

const profile = profileNamed('tarnow-parallax');

/** A server that remembers what it was told, and can be made to fail. */
class FakeServer {
	readonly stored: string[] = [];
	readonly trace: { says: string }[] = [];
	readonly order: string[] = [];
	safety: string[] | null = null;
	finished: Record<string, unknown> | null = null;
	down = 0;
	refuseSafety = false;
	opening = { messages: [] as string[], part: 0, distrusted: false };
	slots: unknown[] = [];

	readonly fetch = async (path: string, init: { method: string; body?: string }): Promise<Response> => {
		const route = path.replace('/api/v1', '');
		const body = init.body ? JSON.parse(init.body) : null;
		if (this.down > 0 && !route.endsWith('/trace')) {
			this.down--;
			throw new TypeError('fetch failed');
		}
		this.order.push(`${init.method} ${route}`);
		const reply = (value: unknown, status = 200) => new Response(JSON.stringify(value), { status });
		const device = { id: 'd', name: 'West', deviceId: 0, channel: 2, benchUnit: 'u' };
		if (route === '/transfers' || route.endsWith('/resume'))
			return reply({ transfer: { id: 't' }, device, profile, ...this.opening });
		if (route.endsWith('/messages')) {
			expect(body.position).toBe(this.stored.length + this.opening.messages.length);
			this.stored.push(...body.messages);
			return reply({ stored: this.stored.length }, 201);
		}
		if (route.endsWith('/trace')) {
			this.trace.push(...body.lines);
			return new Response(null, { status: 204 });
		}
		if (route.endsWith('/safety')) {
			if (this.refuseSafety)
				return reply(
					{ problem: { code: 'disk.full', message: 'The disk is full.', remedy: 'Make room.' } },
					507
				);
			this.safety = body.messages;
			return reply({ versionId: 's' }, 201);
		}
		if (route.endsWith('/wanted')) return reply({ slots: this.slots, messages: [] });
		if (route.endsWith('/finish')) this.finished = body;
		return reply({});
	};
}

let server: FakeServer;
beforeEach(() => {
	server = new FakeServer();
	vi.stubGlobal('fetch', server.fetch);
});
afterEach(() => vi.unstubAllGlobals());

const order = (more: Partial<TransferOrder> = {}): TransferOrder => ({
	direction: 'capture',
	deviceId: 'd',
	world: 'bench',
	scope: { kind: 'all' },
	kind: 'routine',
	title: '',
	versionId: null,
	resume: null,
	paceFactor: 1,
	...more
});

/** Runs a session against a bench device, virtual time flowing as fast as the machine can. */
async function perform(given: TransferOrder, prepare: (station: BenchStation) => void = () => undefined) {
	const clock = new VirtualClock();
	const station = new BenchStation('port', profile, factoryState(profile, seededRandom(3)), clock);
	prepare(station);
	let shown = 0;
	const session = await TransferSession.open(given, clock, () => shown++);
	const running = session.run(station);
	const pump = setInterval(() => clock.runUntil(clock.now() + 400), 1);
	try {
		return { report: await running, session, station, shown };
	} finally {
		clearInterval(pump);
	}
}

describe('a capture', () => {
	it('stores every message as it arrives, in order, and its log', async () => {
		const { report, session, shown } = await perform(order());
		expect(report).toMatchObject({ status: 'complete', firmware: '1.04' });
		expect(server.stored).toHaveLength(33);
		expect(new Set(server.stored).size).toBe(33);
		expect(server.finished).toMatchObject({
			status: 'complete',
			use: Array.from({ length: 33 }, (_, i) => i)
		});
		expect(session.state).toMatchObject({
			stored: 33,
			received: 33,
			hands: null,
			storing: null,
			deviceName: 'West'
		});
		expect(server.trace.filter(({ says }) => says.startsWith('Program dump'))).toHaveLength(32);
		expect(server.order.at(-1)).toBe('POST /transfers/t/finish');
		expect(shown).toBeGreaterThan(33);
	});

	it('insists while the server is away, and loses nothing', async () => {
		vi.useFakeTimers({ toFake: ['setTimeout'], shouldAdvanceTime: true, advanceTimeDelta: 200 });
		try {
			const { report } = await perform(order(), () => (server.down = 3));
			expect(report.status).toBe('complete');
		} catch (error) {
			// The opening itself is not repeated: nothing has been received yet.
			expect(error).toMatchObject({ code: 'server.unreachable' });
		} finally {
			vi.useRealTimers();
		}
		server = new FakeServer();
		vi.stubGlobal('fetch', server.fetch);
		const clock = new VirtualClock();
		const station = new BenchStation('port', profile, factoryState(profile, seededRandom(3)), clock);
		const session = await TransferSession.open(order(), clock, () => undefined);
		server.down = 1;
		const running = session.run(station);
		const pump = setInterval(() => clock.runUntil(clock.now() + 400), 1);
		expect(await running).toMatchObject({ status: 'complete' });
		clearInterval(pump);
		expect(server.stored).toHaveLength(33);
	}, 20_000);

	it('that is resumed asks for the rest alone, and numbers on from what is stored', async () => {
		const first = await perform(order());
		const had = server.stored.slice(0, 20);
		const earlier = first.report;
		expect(earlier.status).toBe('complete');
		server = new FakeServer();
		server.opening = { messages: had, part: 7, distrusted: false };
		vi.stubGlobal('fetch', server.fetch);
		const { report, session } = await perform(order({ resume: 't' }));
		expect(report.status).toBe('complete');
		expect(server.order[0]).toBe('POST /transfers/t/resume');
		expect(server.stored).toHaveLength(13);
		expect(session.state.stored).toBe(33);
		expect((server.finished as { use: number[] }).use).toHaveLength(33);
	});
});

describe('a restore', () => {
	const withSlots = (edit: (station: BenchStation) => void) => (station: BenchStation) => {
		server.slots = [0, 1].map((index) => ({
			area: 'programs',
			index,
			hex: toHex(station.unit.state.memory.programs[index])
		}));
		edit(station);
	};
	const restoring = order({
		direction: 'restore',
		versionId: 'v',
		scope: { kind: 'slots', slots: [0, 1].map((index) => ({ area: 'programs', index })) }
	});

	it('keeps its safety copy before it writes, and reports slot by slot', async () => {
		const { report, station } = await perform(
			restoring,
			withSlots((on) => on.unit.edit('programs', 1, 'level', 5))
		);
		expect(report.status).toBe('verified');
		expect(report.outcome.slots!.map(({ result }) => result)).toEqual(['already there', 'verified']);
		expect(server.safety).toHaveLength(2);
		expect(toHex(station.unit.state.memory.programs[1])).toBe((server.slots[1] as { hex: string }).hex);
		expect((server.finished as { readBack: string[] }).readBack).toHaveLength(1);
	});

	it('writes nothing when the safety copy cannot be stored', async () => {
		server.refuseSafety = true;
		let before = '';
		const { report, station } = await perform(
			restoring,
			withSlots((on) => {
				on.unit.edit('programs', 1, 'level', 5);
				before = toHex(on.unit.state.memory.programs[1]);
			})
		);
		expect(report).toMatchObject({ status: 'refused', reason: { code: 'no safety copy' } });
		expect(report.reason!.says).toContain('The disk is full.');
		expect(toHex(station.unit.state.memory.programs[1])).toBe(before);
	});
});
