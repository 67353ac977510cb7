import type { PresentPort, RememberedPort } from '../gear';
import type { HostWay } from '../rig';

/** When and where a device was last heard in one world. */
export interface Contact {
	world: 'bench' | 'hardware';
	/** ISO 8601 */
	at: string;
	/** Identity: it said who it is. Dump: it sent what it was asked for, or what its panel was told to. */
	how: 'identity' | 'dump';
	/** Ports of the rig; null on the bench, and where that was not known. */
	out: string | null;
	in: string | null;
	/** What these were called then. */
	outName: string;
	inName: string;
	/** As on the wire; null where it told none. */
	deviceId: number | null;
	firmware: string | null;
}

/** Everything that the line to a device depends on. */
export interface LineFacts {
	device: { id: string; name: string };
	world: 'bench' | 'hardware';
	/** How the computer reaches it by the wiring; null where nothing is noted. */
	way: HostWay | null;
	/** The bench unit that it is plugged in to. */
	unit: { id: string; name: string } | null;
	/** Device ID as its panel shows it; null where the model has none. */
	panelId: number | null;
	/** Whether its memory can be asked for or listened to: it needs a way back. */
	readable: boolean;
	/** The model says who it is when asked. */
	answers: boolean;
	/** The last contact in this world. */
	contact: Contact | null;
	/** Which port each socket was; the computer's ports now, or null while this tab may not use them. */
	remembered: readonly RememberedPort[];
	ports: readonly { key: string; direction: 'in' | 'out'; port: PresentPort | null }[] | null;
}

/** The same as it is stored: contacts of both worlds; the computer's ports come on top in the browser. */
export type StoredLine = Omit<LineFacts, 'world' | 'ports' | 'contact'> & { contacts: Contact[] };

export interface LineStop {
	name: string;
	/** The computer's own name for it, or the ID on the panel. */
	detail: string;
	state: 'there' | 'away' | 'not known';
}

/** What is missing, and the one thing to do about it. */
export interface LineGap {
	code:
		| 'no-unit'
		| 'ports-closed'
		| 'no-way'
		| 'no-return'
		| 'port-unknown'
		| 'port-away'
		| 'answers-elsewhere'
		| 'never-answered';
	says: string;
	action: 'find' | 'open ports' | 'note the way' | 'ask' | 'plug' | null;
}

/** The line from the computer to a device and back, as it is told on all its pages. */
export interface Line {
	world: 'bench' | 'hardware';
	stops: LineStop[];
	/** Whether messages can be sent and answers heard as far as the app can see; what a device does is its answer. */
	open: boolean;
	gap: LineGap | null;
}

const gap = (code: LineGap['code'], says: string, action: LineGap['action']): LineGap => ({
	code,
	says,
	action
});

/** Whether the contact was by the way that the wiring says. */
const sameWay = (contact: Contact, way: HostWay | null): boolean =>
	contact.out === (way?.out?.port ?? null) && (contact.in === null || contact.in === (way?.in?.port ?? null));

function onBench({ device, unit, panelId, contact }: LineFacts): Line {
	const stops: LineStop[] = [
		{ name: 'This computer', detail: '', state: 'there' },
		...(unit ? [{ name: unit.name, detail: 'bench', state: 'there' as const }] : []),
		{
			name: device.name,
			detail: panelId === null ? '' : `ID ${panelId}`,
			state: unit ? 'there' : 'not known'
		}
	];
	return {
		world: 'bench',
		stops,
		open: unit !== null,
		gap: unit
			? contact
				? null
				: gap('never-answered', 'It has not answered on the bench yet.', 'ask')
			: gap('no-unit', 'It is plugged in to nothing on the bench.', 'plug')
	};
}

/**
 * The line to a device in one world. What is missing is told one thing at a time: the first that keeps the next step
 * from working.
 */
export function lineTo(facts: LineFacts): Line {
	if (facts.world === 'bench') return onBench(facts);
	const { device, way, panelId, contact, ports, remembered, readable, answers } = facts;
	const stop = (end: HostWay['out'], direction: 'in' | 'out'): LineStop | null => {
		if (!end) return null;
		const now = ports?.find((port) => port.key === end.port && port.direction === direction);
		const before = remembered.find((port) => port.key === end.port && port.direction === direction);
		const name = now?.port?.name ?? before?.name ?? '';
		return {
			name: end.name,
			detail: name,
			state: now?.port ? 'there' : before ? (ports ? 'away' : 'not known') : 'not known'
		};
	};
	const out = stop(way?.out ?? null, 'out');
	const back = stop(way?.in ?? null, 'in');
	const stops: LineStop[] = [
		{ name: 'This computer', detail: '', state: 'there' },
		...(out ? [out] : []),
		{
			name: device.name,
			detail: panelId === null ? '' : `ID ${panelId}`,
			state: contact ? 'there' : 'not known'
		},
		...(back ? [back] : [])
	];
	const line = (open: boolean, missing: LineGap | null): Line => ({
		world: 'hardware',
		stops,
		open,
		gap: missing
	});
	const elsewhere =
		contact && contact.out !== null && !sameWay(contact, way)
			? gap(
					'answers-elsewhere',
					`It answered at ${contact.outName}${contact.inName && contact.inName !== contact.outName ? `, coming in at ${contact.inName}` : ''}; the wiring says ${way?.out ? `${way.out.name}${way.in ? ` and ${way.in.name}` : ''}` : 'nothing'}.`,
					'note the way'
				)
			: null;
	const lacking = (direction: 'in' | 'out'): LineGap | null => {
		const [end, at] = direction === 'out' ? [way?.out, out] : [way?.in, back];
		if (!end || !at) return null;
		if (!remembered.some((port) => port.key === end.port && port.direction === direction))
			return gap('port-unknown', `Which of the computer’s ports ${end.name} is, is not known yet.`, 'find');
		return at.state === 'away'
			? gap(
					'port-away',
					`The computer does not show ${end.name} (“${at.detail}”) now: is the interface plugged in and on?`,
					null
				)
			: null;
	};
	if (!out)
		return line(
			false,
			elsewhere ?? gap('no-way', `No port of the computer leads to ${device.name} yet.`, 'find')
		);
	if (!back && readable)
		return line(
			false,
			contact?.in
				? elsewhere
				: gap(
						'no-return',
						`Nothing comes back from ${device.name}: it can be sent to, and never read.`,
						'find'
					)
		);
	const missing = lacking('out') ?? lacking('in');
	if (missing?.code === 'port-unknown') return line(false, missing);
	if (!ports)
		return line(false, gap('ports-closed', 'The computer’s ports are not open in this tab.', 'open ports'));
	if (missing) return line(false, missing);
	// An answer from elsewhere may be older than the cable: asking at the cable decides.
	if (elsewhere) return line(true, elsewhere);
	if (!contact && answers) return line(true, gap('never-answered', 'It has not answered here yet.', 'ask'));
	return line(true, null);
}

/** The line in one sentence: “this computer → Ferry 8 Out 3 → Orrery (ID 17) → Ferry 8 In 5”. */
export const lineWords = ({ stops }: Line): string =>
	stops.map(({ name, detail }) => (detail && detail !== name ? `${name} (${detail})` : name)).join(' → ');
