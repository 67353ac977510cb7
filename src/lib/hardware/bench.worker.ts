import * as Comlink from 'comlink';
import { z } from 'zod';
import { Problem, type ProblemData } from '../core/problem';
import type { Device } from '../core/gear';
import { call } from './api';
import { BenchRoom, type PanelAction, type PanelState } from './bench-room';
import { TransferSession, type SessionState, type TransferOrder } from './session';

// The page's content-security policy forbids code made from text; Zod does without it when told.
z.config({ jitless: true });

const SHOW_MS = 80;
const room = new BenchRoom();
const sessions = new Map<string, TransferSession>();
// Hands are not faster because the line is: while the app waits for somebody, time runs as it does.
room.waitsForHands = () => [...sessions.values()].some(({ state }) => state.hands !== null);

/** Problems cross to the page as data: an Error would lose its code on the way. */
export type Answer<T> = { ok: T } | { problem: ProblemData };

async function safely<T>(work: () => Promise<T>): Promise<Answer<T>> {
	try {
		return { ok: await work() };
	} catch (error) {
		if (error instanceof Problem) return { problem: error.toJSON() };
		return {
			problem: {
				code: 'unforeseen',
				message: error instanceof Error ? error.message : String(error),
				remedy: 'Reload the page and try again. What was confirmed is stored.'
			}
		};
	}
}

const bench = {
	setSpeed(speed: number): void {
		room.speed = speed;
	},

	watchPanels(changed: (unitId: string) => void): void {
		room.panelChanged = changed;
	},

	panel: (unitId: string): Promise<Answer<PanelState>> => safely(() => room.panel(unitId)),

	act: (unitId: string, action: PanelAction): Promise<Answer<PanelState>> =>
		safely(() => room.act(unitId, action)),

	/** Runs a transfer; `show` is told of its progress, a dozen times a second at most. */
	transfer: (order: TransferOrder, show: (state: SessionState) => void): Promise<Answer<SessionState>> =>
		safely(() =>
			room.hold(async () => {
				const device = await call<Device>('GET', `/devices/${order.deviceId}`);
				if (!device.benchUnit)
					throw new Problem(
						'bench.unplugged',
						`“${device.name}” is plugged in to nothing.`,
						'Choose a bench unit for it on its Ports page.'
					);
				const seat = await room.seat(device.benchUnit);
				let session: TransferSession | null = null;
				let due = false;
				const changed = () => {
					if (due) return;
					due = true;
					setTimeout(() => {
						due = false;
						if (session && !session.state.ended) show(structuredClone(session.state));
					}, SHOW_MS);
				};
				session = await TransferSession.open(order, room.clock, changed);
				sessions.set(session.state.transferId, session);
				seat.busy++;
				try {
					show(structuredClone(session.state));
					await session.run(seat.station);
					return structuredClone(session.state);
				} finally {
					seat.busy--;
					sessions.delete(session.state.transferId);
				}
			})
		),

	cancel(transferId: string): void {
		sessions.get(transferId)?.cancel();
	}
};

export type BenchWorker = typeof bench;

Comlink.expose(bench);
