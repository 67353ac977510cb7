import type { Setup, Zone } from './setup';
import { strike } from './strike';

export type Step =
	{ do: 'play'; player: string; message: [number, number, number] } | { do: 'change'; setup: Setup };

const DOWN = 64;

/**
 * What sounds after each step, as `place note`, said of every moment by itself: from what was played until then, with no state
 * that is carried along but whether a note rang before. Slow, and shares nothing with the performance but how a key is struck.
 */
export function naiveSounding(first: Setup, steps: readonly Step[]): Set<string>[] {
	const setupAt = (t: number): Setup => {
		const last = steps.slice(0, t + 1).findLast((step) => step.do === 'change');
		return last?.do === 'change' ? last.setup : first;
	};
	const plays = (t: number, player: string) => {
		const step = steps[t];
		return step.do === 'play' && step.player === player ? step.message : null;
	};
	const controller = (player: string, number: number, t: number, rest = 0): number => {
		for (let u = t; u >= 0; u--) {
			const message = plays(u, player);
			if (message && message[0] === 0xb0 && message[1] === number) return message[2];
		}
		return rest;
	};
	const isActive = (zone: Zone, t: number): boolean => {
		if (!zone.on) return false;
		if (!zone.leaves) return true;
		const down = t >= 0 && controller(zone.player, zone.leaves.controller, t) >= DOWN;
		return down !== (zone.leaves.when === 'down');
	};
	const place = (instrument: string, channel: number) => `${instrument}/${channel}`;

	/** Stretches of time in which a key keeps a note on: from, to (not with it). */
	const keys: { place: string; note: number; from: number; to: number }[] = [];
	steps.forEach((_, t) => {
		const setup = setupAt(t);
		for (const player of setup.players) {
			const message = plays(t, player.id);
			if (!message || message[0] !== 0x90 || message[2] === 0) continue;
			const [, key, velocity] = message;
			let up = t + 1;
			while (up < steps.length) {
				const next = plays(up, player.id);
				if (next && (next[0] === 0x90 || next[0] === 0x80) && next[1] === key) break;
				up++;
			}
			if (player.own !== null && player.local)
				keys.push({ place: place(player.own, 0), note: key, from: t, to: up });
			for (const zone of setup.zones) {
				if (zone.player !== player.id || !isActive(zone, t)) continue;
				if (key < zone.keys[0] || key > zone.keys[1]) continue;
				const struck = strike(zone, key, velocity, controller(player.id, 11, t, 127));
				if ('dropped' in struck) continue;
				let to = up;
				for (let u = t + 1; u < to; u++) {
					const now = setupAt(u).zones.find(({ id }) => id === zone.id);
					const before = setupAt(u - 1).zones.find(({ id }) => id === zone.id);
					if (
						now?.on &&
						now.leaves?.notes === 'end' &&
						before !== undefined &&
						isActive(before, u - 1) &&
						!isActive(now, u)
					)
						to = u;
				}
				for (const { instrument: id, channel } of zone.to) {
					const instrument = setup.instruments.find((each) => each.id === id);
					if (!instrument || struck.note < instrument.keys[0] || struck.note > instrument.keys[1]) continue;
					keys.push({ place: place(id, channel), note: struck.note, from: t, to });
				}
			}
		}
	});
	const players = [
		...new Set(
			[first, ...steps.flatMap((s) => (s.do === 'change' ? [s.setup] : []))].flatMap((setup) =>
				setup.players.map(({ id }) => id)
			)
		)
	];
	const reaches = (player: string, where: string, t: number): boolean => {
		const setup = setupAt(t);
		const one = setup.players.find(({ id }) => id === player);
		return (
			(one?.own != null && one.local && place(one.own, 0) === where) ||
			setup.zones.some(
				(zone) =>
					zone.player === player &&
					zone.through.pedals &&
					isActive(zone, t) &&
					zone.to.some(({ instrument, channel }) => place(instrument, channel) === where)
			)
		);
	};
	/** Whether a pedal holds a place: some player’s is down, and reached it at some moment since it went down. */
	const holds = (number: number, where: string, t: number): boolean =>
		players.some((player) => {
			for (let u = t; u >= 0 && controller(player, number, u) >= DOWN; u--)
				if (reaches(player, where, u)) return true;
			return false;
		});
	const isKept = (where: string, note: number, t: number) =>
		keys.some((key) => key.place === where && key.note === note && key.from <= t && t < key.to);

	const all = [...new Set(keys.map((key) => JSON.stringify([key.place, key.note])))].map(
		(text) => JSON.parse(text) as [string, number]
	);
	const rang = new Set<string>();
	return steps.map((_, t) => {
		for (const [where, note] of all) {
			const name = `${where} ${note}`;
			const isCaught = (u: number): boolean => {
				if (u < 0 || !holds(66, where, u)) return false;
				let from = u;
				while (from > 0 && holds(66, where, from - 1)) from--;
				return isKept(where, note, from);
			};
			const isHeld = (u: number) => u >= 0 && (holds(64, where, u) || isCaught(u));
			const on = isKept(where, note, t);
			// A key that is let go leaves its note to a pedal that was down before.
			const rings = rang.has(name) && isHeld(t) && (!isKept(where, note, t - 1) || isHeld(t - 1));
			if (on || rings) rang.add(name);
			else rang.delete(name);
		}
		return new Set(rang);
	});
}
