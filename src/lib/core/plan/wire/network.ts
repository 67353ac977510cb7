import {
	hasVoice,
	heardBy,
	indexRig,
	isHostSocket,
	isUsb,
	isWire,
	leaving,
	sendMs,
	signalGraph,
	type Node,
	type Placed,
	type Rig,
	type RigIndex,
	type SignalGraph
} from '../../rig';

/** A line of bytes: what leaves one socket, one byte after another. */
export interface Line {
	/** Socket that sends. */
	port: string;
	/** Whether it is a wire of 31,250 bit/s; a USB device is at the end of its own cable. */
	din: boolean;
	/** The computer’s way to it (a USB endpoint of an interface), or `null` where other lines feed it, or a device’s own clock. */
	pipe: string | null;
	/** Lines whose messages are sent anew here, each so long after its last byte was there, and the socket that they come in at. */
	from: { line: number; into: string; delayUs: number }[];
	/** Its place among the sockets: in this order a message goes out that is sent to several. */
	rank: number;
	/** It begins at the computer, and clock goes out there. */
	clockOut: boolean;
	/** It begins at a device that sends its own clock. */
	ownClock: boolean;
}

/** A device at a line, behind so many microseconds of thru sockets. */
export interface Hearing {
	device: string;
	line: number;
	afterUs: number;
}

export interface Network {
	/** What feeds a line comes before it. */
	lines: Line[];
	hearings: Hearing[];
	/** Channels that each device answers to. */
	channels: Map<string, number[]>;
	/** The line of the computer that reaches each device; the first where there are several. */
	home: Map<string, number>;
}

/** Ports that one USB endpoint tells apart: its packets number their cable with four bits (USB-MIDI 1.0). */
const CABLES = 16;

/** A line that begins by itself, for whoever builds a network by hand. */
export const lineOf = (port: string, more: Partial<Line> = {}): Line => ({
	port,
	din: true,
	pipe: null,
	from: [],
	rank: 0,
	clockOut: false,
	ownClock: false,
	...more
});

/** Every line on which something of the computer, or of a device's own clock, comes to somebody, by today's cables. */
export function networkOf(rig: Rig): Network {
	return new Builder(rig).network();
}

class Builder {
	readonly #index: RigIndex;
	readonly #graph: SignalGraph;
	readonly #lines: Line[] = [];
	readonly #at = new Map<string, number>();
	readonly #hearings = new Map<string, Hearing>();
	readonly #home = new Map<string, number>();

	constructor(readonly rig: Rig) {
		this.#index = indexRig(rig);
		this.#graph = signalGraph(rig);
	}

	network(): Network {
		[...this.#index.ports.values()].forEach((out, rank) => this.#begin(out, rank));
		// Whoever hears nothing at all of a line is of no use to it.
		const devices = [...new Set([...this.#hearings.values()].map(({ device }) => device))];
		return {
			...this.#inOrder(),
			channels: new Map(
				devices.map((id) => [id, heardBy(this.#index, this.#index.devices.get(id)!)] as const)
			),
			home: this.#home
		};
	}

	/** A socket that the computer sends to, or at which a device sends its own clock. */
	#begin(out: Placed, rank: number): void {
		const { port, device, role } = out;
		if (port.direction === 'in' || port.direction === 'thru') return;
		const hosts = (this.#index.hostPortsOf.get(port.id) ?? []).filter(({ direction }) => direction === 'out');
		const own = isUsb(port) && hasVoice(device) && hosts.length > 0;
		const wire = isHostSocket(this.#index, out);
		const clock =
			device.clock.sends && device.clock.mode === 'internal' && role === 'instrument' && isWire(port);
		if (!own && !wire && !clock) return;
		const line = this.#line(port.id, {
			din: !isUsb(port),
			pipe: own || wire ? this.#pipe(out) : null,
			rank,
			clockOut:
				(own || wire) && hosts.some(({ id, clockOut }) => clockOut && this.#index.hostOf.get(id)!.clock),
			ownClock: clock
		});
		if (own) this.#hear(device.id, line, 0, line);
		this.#follow(leaving(port), line, 0, own || wire ? line : null, new Set());
	}

	#pipe({ device, port }: Placed): string {
		const outs = device.ports.filter(
			({ direction, connector }) => direction !== 'in' && !connector.startsWith('usb')
		);
		const group = Math.floor(Math.max(0, outs.indexOf(port)) / CABLES);
		return group === 0 ? device.id : `${device.id} ${group + 1}`;
	}

	#line(port: string, more: Partial<Line>): number {
		const known = this.#at.get(port);
		if (known !== undefined) {
			const line = this.#lines[known];
			Object.assign(line, {
				pipe: line.pipe ?? more.pipe ?? null,
				rank: more.rank ?? line.rank,
				clockOut: line.clockOut || (more.clockOut ?? false),
				ownClock: line.ownClock || (more.ownClock ?? false)
			});
			return known;
		}
		this.#at.set(port, this.#lines.length);
		this.#lines.push(lineOf(port, more));
		return this.#lines.length - 1;
	}

	#hear(device: string, line: number, afterUs: number, home: number | null): void {
		const key = `${device} ${line}`;
		const before = this.#hearings.get(key);
		if (!before || before.afterUs > afterUs) this.#hearings.set(key, { device, line, afterUs });
		if (home !== null && !this.#home.has(device)) this.#home.set(device, home);
	}

	/** From a place on, through cables and thru sockets; where a box sends anew, another line begins. */
	#follow(place: Node, line: number, afterUs: number, home: number | null, been: ReadonlySet<string>): void {
		// A loop is a finding of its own; here nothing goes round.
		if (been.has(place.key)) return;
		const gone = new Set([...been, place.key]);
		for (const edge of this.#graph.after(place)) {
			if (!['cable', 'thru', 'inside', 'soft-thru'].includes(edge.kind)) continue;
			if (edge.pass({ kind: 'note', channel: 1 }).stop || gone.has(edge.to.key)) continue;
			const { port, device } = this.#index.ports.get(edge.to.id)!;
			const anew = edge.kind === 'soft-thru' || edge.kind === 'inside' ? sendMs(port) : 0;
			if (edge.to.kind === 'arriving' && hasVoice(device)) this.#hear(device.id, line, afterUs, home);
			if (anew === 0) {
				this.#follow(edge.to, line, afterUs + Math.round(edge.delayMs * 1000), home, gone);
				continue;
			}
			const next = this.#line(port.id, { din: !isUsb(port) });
			const delayUs = afterUs + Math.round((edge.delayMs - anew) * 1000);
			const { from } = this.#lines[next];
			// What comes in at two sockets goes on twice.
			const into = edge.from.id;
			if (!from.some((feed) => feed.line === line && feed.into === into)) from.push({ line, into, delayUs });
			this.#follow(edge.to, next, 0, home, gone);
		}
	}

	/** Lines so that each comes after those that feed it. */
	#inOrder(): Pick<Network, 'lines' | 'hearings'> {
		const place = new Map<number, number>();
		const lines: Line[] = [];
		const put = (old: number) => {
			if (place.has(old)) return;
			place.set(old, -1);
			const { from } = this.#lines[old];
			for (const feed of from) put(feed.line);
			place.set(old, lines.length);
			lines.push(this.#lines[old]);
		};
		this.#lines.forEach((_, i) => put(i));
		for (const line of lines)
			line.from = line.from
				.map((feed) => ({ ...feed, line: place.get(feed.line)! }))
				.filter((feed) => feed.line < lines.indexOf(line));
		for (const [device, home] of this.#home) this.#home.set(device, place.get(home)!);
		return {
			lines,
			hearings: [...this.#hearings.values()].map((hearing) => ({
				...hearing,
				line: place.get(hearing.line)!
			}))
		};
	}
}
