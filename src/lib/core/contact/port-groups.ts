import { nameLikeness, type PresentPort } from '../gear';

/** A port of the computer with the number that its name carries, counted from 1; by its place where it has none. */
export interface NumberedPort {
	port: PresentPort;
	number: number;
}

/** Ports of the computer that belong to one thing that is plugged in, as far as their names tell. */
export interface PortGroup {
	/** What their names have in common. */
	name: string;
	maker: string;
	ins: NumberedPort[];
	outs: NumberedPort[];
}

interface Parsed {
	port: PresentPort;
	base: string;
	number: number | null;
	/** Whether a word such as “port” says that the number is that of a port, and not a part of the model's name. */
	sure: boolean;
}

/** Numbers that some systems put in front of a second unit: “2- Ferry 8”. */
const UNIT = /^\d+\s*-\s*/;
/** Names of further ports on some systems: “MIDIIN3 (Ferry 8)”. */
const BRACKETED = /^midi\s*(?:in|out)\s*(\d+)\s*\((.+)\)$/i;
const WORDED = /^(.*?)[\s,:-]*\b(?:midi\s+)?(?:port|midi|in|out|input|output|socket|din)\s*#?\s*(\d+)\s*$/i;
const BARE = /^(.*?\D)\s*(\d+)$/;
/** A word for the direction at the end, without a number. */
const PLAIN = /^(.*?)[\s,:-]+\b(?:midi\s+)?(?:in|out|input|output|midi)\s*$/i;

function parse(port: PresentPort): Parsed {
	const name = port.name.trim();
	const bracketed = BRACKETED.exec(name);
	if (bracketed) return { port, base: bracketed[2].trim(), number: Number(bracketed[1]), sure: true };
	const whole = name.replace(UNIT, '');
	const worded = WORDED.exec(whole);
	if (worded && worded[1].trim())
		return { port, base: worded[1].trim(), number: Number(worded[2]), sure: true };
	const plain = PLAIN.exec(whole);
	if (plain && plain[1].trim()) return { port, base: plain[1].trim(), number: null, sure: true };
	const bare = BARE.exec(whole);
	if (bare) return { port, base: bare[1].trim(), number: Number(bare[2]), sure: false };
	return { port, base: whole, number: null, sure: false };
}

/** Bare numbers count as port numbers only where they run 1, 2, 3 … (or from 0, or from 2 behind a name without one). */
function areNumbers(list: readonly Parsed[], plain: boolean): boolean {
	const numbers = [...new Set(list.map(({ number }) => number!))].sort((a, b) => a - b);
	const first = plain ? 2 : numbers[0] === 0 ? 0 : 1;
	return (plain || numbers.length > 1) && numbers.every((number, i) => number === first + i);
}

const key = ({ port, base }: Parsed) => `${port.manufacturer}\n${base.toLowerCase()}`;

/**
 * Groups the computer's ports into the things that are plugged in, by their names: “Ferry 8 Port 1” and “Ferry 8 Port 2”
 * are two ports of the Ferry 8. Two units that show equal names become two groups. A guess, shown before it is taken.
 */
export function groupPorts(present: readonly PresentPort[]): PortGroup[] {
	const parsed = present.map(parse);
	const named = new Set(parsed.filter(({ sure }) => sure).map(key));
	const whole = new Set(parsed.filter(({ number }) => number === null).map(key));
	const bare = parsed.filter(({ number, sure }) => number !== null && !sure);
	for (const entry of bare) {
		const name = entry.port.name.trim().replace(UNIT, '');
		const alike = bare.filter((other) => key(other) === key(entry));
		// “Ferry 8” beside “MIDIIN2 (Ferry 8)” or “Ferry 8 Port 2” is its first port, not port 8 of a Ferry.
		const first = named.has(`${entry.port.manufacturer}\n${name.toLowerCase()}`);
		if (!first && areNumbers(alike, whole.has(key(entry)))) continue;
		entry.base = name;
		entry.number = null;
	}
	const groups: (PortGroup & { key: string })[] = [];
	for (const entry of parsed) {
		const ways = entry.port.direction === 'in' ? 'ins' : 'outs';
		const fits = groups.filter((group) => group.key === key(entry));
		// A number comes once in a unit: the second time it is the next unit of the model.
		const taken = (group: PortGroup) => group[ways].some(({ number }) => number === (entry.number ?? 1));
		let group = fits.find((candidate) => !taken(candidate));
		if (!group) {
			const name = fits.length === 0 ? entry.base : `${entry.base} (${fits.length + 1})`;
			group = { key: key(entry), name, maker: entry.port.manufacturer, ins: [], outs: [] };
			groups.push(group);
		}
		group[ways].push({ port: entry.port, number: entry.number ?? 1 });
	}
	return groups.map(({ name, maker, ins, outs }) => {
		const inOrder = (list: NumberedPort[]) => {
			const sorted = [...list].sort((a, b) => a.number - b.number);
			const shift = sorted[0]?.number === 0 ? 1 : 0;
			return sorted.map((entry) => ({ ...entry, number: entry.number + shift }));
		};
		return { name, maker, ins: inOrder(ins), outs: inOrder(outs) };
	});
}

/** “4 in, 4 out” */
export const portCount = ({ ins, outs }: PortGroup): string =>
	[ins.length > 0 ? `${ins.length} in` : '', outs.length > 0 ? `${outs.length} out` : '']
		.filter(Boolean)
		.join(', ');

/** How alike a port's name must be to a model's for the port to be the instrument's own USB port. */
const OWN_PORT = 0.66;

/** Whether ports are those of an instrument itself, by USB, and not of an interface: one of a kind, named as the model. */
export function isOwnPort(group: PortGroup, names: readonly string[]): boolean {
	return (
		group.ins.length <= 1 &&
		group.outs.length <= 1 &&
		names.some((name) => nameLikeness(group.name, name) >= OWN_PORT)
	);
}
