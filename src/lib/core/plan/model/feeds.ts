import { compatible, crosses, type Candidate, type Socket } from '../task';
import { allOf, each, onOut, type Draft, type Entry, type Seat } from './draft';

/** Each device on one out, if it is placed; a thru box where it is of use. */
export function seatDevices(draft: Draft): void {
	const { task, model, fed, shared, away, moves } = draft;
	const { milp } = model;
	for (const device of fed) {
		const placed = model.placed.get(device.id);
		const seats = task.outs
			.filter((out) => compatible(device, out) && (device.lockOut === null || device.lockOut === out.id))
			.map((out): Seat => ({ out, here: milp.choice(), options: [] }));
		model.seats.set(device.id, seats);
		const here = each(seats.map((seat) => seat.here));
		if (placed === undefined) milp.atMost(here, 1);
		else milp.equal([...here, [placed, -1]], 0);
		for (const seat of seats)
			if (!device.box && device.place && seat.out.place && device.place !== seat.out.place)
				away.push([seat.here, 1]);
		// What is played by somebody’s cable gives that cable up.
		if (device.present.player !== null) moves.push(...each(seats.map(({ here }) => here)));
		if (!shared)
			for (const { out, here } of seats)
				if (!isFedBy(device, out)) moves.push([here, crosses(device.intoTrs, out.trs) ? 2 : 1]);
	}
	for (const out of task.outs) {
		if (!out.off) continue;
		const used = milp.choice();
		moves.push([used, 1]);
		for (const { here } of onOut(draft, out)) milp.needs(here, used);
	}
	if (!shared) for (const out of task.outs) milp.atMost(each(onOut(draft, out).map(({ here }) => here)), 1);
}

/** Right at the out, or behind thru boxes that stay where they are. */
const isFedBy = ({ present: { feed, boxed } }: Candidate, out: Socket) =>
	boxed?.out === out.id || (feed !== null && 'out' in feed && feed.out === out.id);

/**
 * Chains: as many devices on a hop as the hop before has thru sockets. Devices that are chained today are followed one
 * by one, because a cable between two of them may stay; all others are counted by the number of their thru sockets.
 */
export function chainDevices(draft: Draft): void {
	const { task, model, fed } = draft;
	const { milp } = model;
	const parents = new Set(
		fed.flatMap(({ present: { feed } }) => (feed && 'device' in feed ? [feed.device] : []))
	);
	const followed = new Set(
		fed.filter(
			({ id, intoTrs, present: { feed } }) =>
				parents.has(id) ||
				(feed !== null && 'device' in feed) ||
				task.outs.some(({ trs }) => crosses(intoTrs, trs))
		)
	);
	for (const out of task.outs) {
		const here = onOut(draft, out);
		const levels = Array.from({ length: task.chain }, () => ({
			width: [] as Entry[],
			sockets: [] as Entry[]
		}));
		for (const { device, here: column } of here.filter((seat) => followed.has(seat.device))) {
			const hops = levels.map(({ width, sockets }) => {
				const hop = milp.choice();
				width.push([hop, 1]);
				sockets.push([hop, -device.thrus.length]);
				return hop;
			});
			model.hops.set(device.id, [
				...(model.hops.get(device.id) ?? []),
				...hops.map((hop, i) => ({ out: out.id, hop: i + 1, column: hop }))
			]);
			milp.equal([...each(hops), [column, -1]], 0);
		}
		const counted = here.filter(({ device }) => !followed.has(device));
		for (const thrus of new Set(counted.map(({ device }) => device.thrus.length))) {
			const alike = counted.filter(({ device }) => device.thrus.length === thrus);
			const counts = levels.map(({ width, sockets }, i) => {
				const many = milp.column(0, i === 0 ? 1 : alike.length, true);
				width.push([many, 1]);
				sockets.push([many, -thrus]);
				return many;
			});
			model.counts.set(`${out.id} ${thrus}`, counts);
			milp.equal(
				[
					...each(counts),
					...each(
						alike.map((seat) => seat.here),
						-1
					)
				],
				0
			);
		}
		levels.forEach(({ width }, i) =>
			milp.atMost(i === 0 ? width : [...width, ...levels[i - 1].sockets], i === 0 ? 1 : 0)
		);
	}
	for (const device of fed) keepFeed(draft, device, followed.has(device));
}

/** A feed is kept where the same socket still feeds the device; every other one is a cable to plug. */
function keepFeed(draft: Draft, device: Candidate, followed: boolean): void {
	const { model, moves } = draft;
	const seats = model.seats.get(device.id)!;
	const { feed } = device.present;
	moves.push(...each(seats.map(({ here }) => here)));
	// A crossing adapter is one thing more to plug.
	for (const { out } of seats)
		if (crosses(device.intoTrs, out.trs) && !(feed !== null && 'out' in feed && feed.out === out.id))
			moves.push([model.hops.get(device.id)!.find((at) => at.out === out.id && at.hop === 1)!.column, 1]);
	if (feed === null) return;
	if ('out' in feed) {
		const seat = seats.find(({ out }) => out.id === feed.out);
		if (!seat) return;
		const first = followed
			? model.hops.get(device.id)!.find(({ out, hop }) => out === feed.out && hop === 1)!.column
			: model.counts.get(`${feed.out} ${device.thrus.length}`)![0];
		moves.push([allOf(draft, [seat.here, first]), -1]);
		return;
	}
	for (const mine of model.hops.get(device.id) ?? []) {
		const above = model.hops
			.get(feed.device)
			?.find(({ out, hop }) => out === mine.out && hop === mine.hop - 1);
		if (above) moves.push([allOf(draft, [mine.column, above.column]), -1]);
	}
}

/** What answers to every channel has its out for itself. */
export function keepOmniAlone(draft: Draft): void {
	const { milp } = draft.model;
	for (const out of draft.task.outs) {
		const here = onOut(draft, out).filter(({ device }) => !device.box);
		const omni = each(here.filter(({ device }) => device.omni).map((seat) => seat.here));
		if (omni.length === 0) continue;
		milp.atMost(omni, 1);
		for (const seat of here.filter(({ device }) => !device.omni)) milp.atMost([[seat.here, 1], ...omni], 1);
	}
}

/** Counts tight devices that are not alone on their out. */
export function countCrowded(draft: Draft): void {
	const { model, real, crowded } = draft;
	const { milp } = model;
	const tight = new Set(real.filter((device) => device.tight && device.into !== null));
	crowded.push(...each([...tight].map(({ id }) => model.placed.get(id)!)));
	for (const out of draft.task.outs) {
		const here = onOut(draft, out).filter(({ device }) => !device.box);
		const alone = here
			.filter(({ device }) => tight.has(device))
			.map((seat) => {
				const column = milp.choice();
				milp.needs(column, seat.here);
				crowded.push([column, -1]);
				return { device: seat.device, here: seat.here, column };
			});
		for (const seat of here)
			milp.atMost(
				[
					[seat.here, 1],
					...each(alone.filter(({ device }) => device !== seat.device).map(({ column }) => column))
				],
				1
			);
	}
}

/** Of one model with one device ID, all but one on a port get another. */
export function tellApart(draft: Draft): void {
	const { model, moves } = draft;
	const groups = new Map<string, Candidate[]>();
	for (const device of draft.real)
		if (device.model !== '' && device.present.deviceId !== null && device.into !== null) {
			const key = `${device.model} ${device.present.deviceId}`;
			groups.set(key, [...(groups.get(key) ?? []), device]);
		}
	for (const group of groups.values()) {
		if (group.length < 2) continue;
		const renamed = group.map(({ id }) => {
			const column = model.milp.choice();
			model.renamed.set(id, column);
			return column;
		});
		moves.push(...each(renamed));
		for (const out of draft.task.outs) {
			const here = group.map(({ id }) => model.seats.get(id)!.find((seat) => seat.out === out)?.here ?? null);
			here.forEach((a, i) =>
				here.slice(i + 1).forEach((b, j) => {
					if (a !== null && b !== null)
						model.milp.atMost([...each([a, b]), ...each([renamed[i], renamed[i + 1 + j]], -1)], 1);
				})
			);
		}
	}
}

/** The load of the busiest out, in steps of `model.step` bytes/s. */
export function measureLoad(draft: Draft): void {
	const { task, model } = draft;
	for (const out of task.outs) {
		const loads = onOut(draft, out).map(({ device, here }): Entry => [
			here,
			device.bytesPerSecond / model.step
		]);
		model.milp.atMost([...loads, [model.busiest, -1]], 0);
	}
}
