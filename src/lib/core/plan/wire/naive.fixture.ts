import type { Rig, RigDevice } from '../../rig';

/** A message of made-up music. `status` F8 is a pulse that the file itself holds. */
export interface Played {
	/** Milliseconds, whole. */
	ms: number;
	status: number;
	bytes: number;
	/** Channels of its track, for SysEx. */
	track: number[];
}

interface Arrival {
	due: number;
	/** In the order in which it was due. */
	turn: number;
	at: number;
	begun: number;
	status: number;
	bytes: number;
}

/** Lateness of each device (µs, sorted) and how far its clock strays, told by a simulation of single bytes. */
export interface Naive {
	late: Map<string, number[]>;
	jitter: Map<string, number | null>;
	/** Bytes that each interface out sent. */
	bytes: Map<string, number>;
}

/**
 * Plays music over a rig of interfaces, merge boxes, thru boxes and instruments, asking backwards from every instrument
 * what comes to it. Shares no code with the simulation that it checks.
 */
export function playNaively(
	rig: Rig,
	music: readonly Played[],
	pulsesMs: readonly number[],
	running: boolean
): Naive {
	const owner = new Map(
		rig.devices.flatMap((device) => device.ports.map((port) => [port.id, device] as const))
	);
	const port = (id: string) => owner.get(id)!.ports.find((entry) => entry.id === id)!;
	const is = (device: RigDevice, kind: string) => device.kind === kind;
	const set = (device: RigDevice): number[] => {
		const first = rig.settings.find((entry) => entry.device === device.id)?.channel;
		return first == null
			? []
			: Array.from({ length: device.receive.parts }, (_, i) => first + i).filter((c) => c < 17);
	};
	const everything = [
		...pulsesMs.map((ms) => ({ ms, status: 0xf8, bytes: 1, track: [], pulse: true })),
		...music.map((message) => ({ ...message, pulse: false }))
	]
		.map((message, place) => ({ ...message, place }))
		.sort((a, b) => a.ms - b.ms || a.place - b.place)
		.map((message, turn) => ({ ...message, turn }));

	/** Channels that somebody answers to behind a socket. */
	const answered = (socket: string, seen: string[] = []): number[] =>
		rig.cables
			.filter(({ from }) => from === socket)
			.flatMap(({ to }) => {
				const device = owner.get(to)!;
				if (seen.includes(to)) return [];
				const on = device.ports
					.filter(({ direction }) => direction !== 'in')
					.filter(({ direction }) => !is(device, 'sound module') || direction === 'thru' || device.softThru)
					.flatMap(({ id }) => answered(id, [...seen, to]));
				return [...(is(device, 'sound module') ? set(device) : []), ...on];
			});
	const anybody = (socket: string, seen: string[] = []): boolean =>
		is(owner.get(socket)!, 'sound module') && seen.length === 0
			? true
			: rig.cables
					.filter(({ from, to }) => from === socket && !seen.includes(to))
					.some(({ to }) => {
						const device = owner.get(to)!;
						return (
							is(device, 'sound module') ||
							device.ports
								.filter(({ direction }) => direction !== 'in')
								.some(({ id }) => anybody(id, [...seen, to]))
						);
					});
	const sentTo = (
		socket: string,
		channels: number[],
		message: (typeof everything)[number],
		clockOut: boolean
	) => {
		if (message.pulse) return clockOut;
		if (message.status < 0xf0) return channels.includes((message.status & 15) + 1);
		return message.status === 0xf0 && message.track.length > 0
			? message.track.some((channel) => channels.includes(channel))
			: anybody(socket);
	};

	/** What each endpoint of a computer’s USB cable brings to each of its sockets, frame by frame. */
	const brought = new Map<string, Arrival[]>();
	const endpoint = (sockets: string[]) => {
		const waiting: { socket: string; left: number; of: (typeof everything)[number] }[] = [];
		for (const message of everything)
			for (const socket of sockets) {
				const clockOut = rig.hosts.some(
					({ clock, ports }) =>
						clock &&
						ports.some((entry) => entry.port === socket && entry.direction === 'out' && entry.clockOut)
				);
				const device = owner.get(socket)!;
				const channels = is(device, 'sound module') ? set(device) : answered(socket);
				if (sentTo(socket, channels, message, clockOut))
					waiting.push({
						socket,
						of: message,
						left: message.status === 0xf0 ? Math.ceil(message.bytes / 3) : 1
					});
			}
		for (let frame = 1; waiting.length > 0; frame++)
			for (let packets = 16; packets > 0 && waiting.length > 0 && waiting[0].of.ms < frame; packets--) {
				if (--waiting[0].left > 0) continue;
				const { socket, of } = waiting.shift()!;
				const { ms, turn, status, bytes } = of;
				const arrival = { due: ms * 1000, turn, at: frame * 1000, begun: frame * 1000, status, bytes };
				brought.set(socket, [...(brought.get(socket) ?? []), arrival]);
			}
	};
	const shown = rig.hosts.flatMap(({ ports }) => ports.map(({ port }) => port));
	for (const device of rig.devices) {
		const outs = device.ports.filter(
			({ direction, connector }) => direction === 'out' && connector === 'din'
		);
		if (is(device, 'interface'))
			for (let first = 0; first < outs.length; first += 16)
				endpoint(outs.slice(first, first + 16).map(({ id }) => id));
		const usb = device.ports.find(({ connector }) => connector === 'usb-device');
		if (is(device, 'sound module') && usb && shown.includes(usb.id)) endpoint([usb.id]);
	}

	const bytes = new Map<string, number>();
	/** A wire, one byte after another. */
	const sent = (socket: string): Arrival[] => {
		const device = owner.get(socket)!;
		const ins = device.ports.filter(({ direction }) => direction === 'in');
		const handed = (
			is(device, 'interface')
				? (brought.get(socket) ?? [])
				: is(device, 'merge box')
					? ins.flatMap(({ id }) => come(id).map((arrival) => ({ ...arrival, at: arrival.at + 200 })))
					: [
							...(device.softThru
								? ins.flatMap(({ id }) => come(id).map((arrival) => ({ ...arrival, at: arrival.at + 2000 })))
								: []),
							...(device.clock.sends && device.clock.mode === 'internal'
								? everything
										.filter(({ pulse }) => pulse)
										.map(({ ms, turn }) => ({
											due: ms * 1000,
											turn,
											at: ms * 1000,
											begun: 0,
											status: 0xf8,
											bytes: 1
										}))
								: [])
						]
		).sort((a, b) => a.at - b.at || a.turn - b.turn);
		const real = handed.filter(({ status }) => status >= 0xf8);
		const rest = handed.filter(({ status }) => status < 0xf8);
		const gone: Arrival[] = [];
		let [now, last, count] = [0, 0, 0];
		let under: { of: Arrival; left: number; begun: number } | null = null;
		while (real.length + rest.length > 0 || under) {
			if (real.length > 0 && real[0].at <= now) {
				gone.push({ ...real.shift()!, begun: now, at: now + 320 });
				now += 320;
				count++;
			} else if (under) {
				now += 320;
				count++;
				if (--under.left === 0) {
					gone.push({ ...under.of, begun: under.begun, at: now });
					under = null;
				}
			} else if (rest.length > 0 && rest[0].at <= now) {
				const of = rest.shift()!;
				under = {
					of,
					left: of.bytes - (running && of.status === last && of.status < 0xf0 ? 1 : 0),
					begun: now
				};
				last = of.status < 0xf0 ? of.status : 0;
			} else now = Math.min(...[...real.slice(0, 1), ...rest.slice(0, 1)].map(({ at }) => at));
		}
		bytes.set(socket, count);
		return gone;
	};
	/** What comes in at a socket. */
	const come = (into: string): Arrival[] =>
		rig.cables
			.filter(({ to }) => to === into)
			.flatMap(({ from }) => {
				const device = owner.get(from)!;
				if (port(from).direction !== 'thru' && !is(device, 'thru box')) return sent(from);
				return device.ports
					.filter(({ direction }) => direction === 'in')
					.flatMap(({ id }) => come(id))
					.map((arrival) => ({ ...arrival, at: arrival.at + 2, begun: arrival.begun + 2 }));
			});

	const [late, jitter] = [new Map<string, number[]>(), new Map<string, number | null>()];
	for (const device of rig.devices.filter((entry) => is(entry, 'sound module'))) {
		const first = new Map<number, Arrival>();
		for (const { id, direction } of device.ports) {
			const arrivals = direction === 'in' ? come(id) : direction === 'both' ? (brought.get(id) ?? []) : [];
			for (const arrival of arrivals)
				if (arrival.at < (first.get(arrival.turn)?.at ?? Infinity)) first.set(arrival.turn, arrival);
		}
		const heard = [...first.values()].sort((a, b) => a.turn - b.turn);
		late.set(
			device.id,
			heard
				.filter(({ status }) => status < 0xf0 && set(device).includes((status & 15) + 1))
				.map(({ at, due }) => at - due)
				.sort((a, b) => a - b)
		);
		const pulses = heard.filter(({ status }) => status === 0xf8);
		jitter.set(
			device.id,
			pulses.length < 2
				? null
				: Math.max(
						...pulses.slice(1).map(({ at, due }, n) => Math.abs(at - pulses[n].at - (due - pulses[n].due)))
					)
		);
	}
	return { late, jitter, bytes };
}
