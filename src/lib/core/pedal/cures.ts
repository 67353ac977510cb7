import { applyEdits, type Edit } from '../edit';
import { uniqueId } from '../unique-id';
import type { Pairing } from './circuit';
import { CABLE_KINDS, modeOf, type CableKind, type Floor, type FootLine, type Jack } from './floor';
import { pairingOf } from './pairing';
import { judge, VERDICTS, type Verdict } from './verdict';

/** One thing that can be done about a line, in the order of the effort. */
export interface FootCure {
	says: string;
	/** What it makes of the floor; empty for what only a hand can do first, such as getting a cable. */
	edits: Edit[];
	/** What the line comes to after it. */
	verdict: Verdict;
	/** A cable that nobody has: its kind. */
	wants: CableKind | null;
}

interface Move {
	effort: number;
	says: string;
	edits: Edit[];
	wants?: CableKind;
}

const inMenu = (path: string) => (path ? ` (${path})` : '');

/** What the jack at a place of the floor can be set to. */
function settings(floor: Floor, line: FootLine): Move[] {
	return line.jacks.flatMap((at): Move[] => {
		const b = floor.boxes.findIndex(({ id }) => id === at.box);
		const j = floor.boxes[b]?.jacks.findIndex(({ id }) => id === at.jack) ?? -1;
		const jack: Jack | undefined = floor.boxes[b]?.jacks[j];
		if (!jack) return [];
		const mode = modeOf(jack);
		const set = (key: string, value: unknown): Edit => ({
			path: ['boxes', b, 'jacks', j, 'set', key],
			value
		});
		const moves: Move[] = [];
		if (mode.takes !== 'expression' && mode.rest === 'set') {
			const rest = jack.set.rest === 'open' ? 'closed' : 'open';
			moves.push({
				effort: 1,
				says: `Tell “${jack.name}” that the switch is ${rest} when the foot is up${inMenu(mode.settingMenu)}`,
				edits: [set('rest', rest)]
			});
		}
		if (mode.takes === 'expression' && mode.reverses)
			moves.push({
				effort: 1,
				says: `Turn the direction of “${jack.name}” round${inMenu(mode.settingMenu)}`,
				edits: [set('reversed', !jack.set.reversed)]
			});
		for (const other of jack.modes)
			if (other.id !== mode.id)
				moves.push({
					effort: 2,
					says: `Set “${jack.name}” to ${modeWords(other.takes, other.wiper)}${inMenu(other.menu)}`,
					edits: [set('mode', other.id)]
				});
		return moves;
	});
}

export const modeWords = (takes: 'switch' | 'switches' | 'expression', wiper: 'tip' | 'ring'): string =>
	takes === 'expression'
		? `expression, wiper on the ${wiper}`
		: takes === 'switch'
			? 'one switch'
			: 'two switches';

function pedalMoves(floor: Floor, line: FootLine): Move[] {
	return line.pedals.flatMap((id): Move[] => {
		const p = floor.pedals.findIndex((pedal) => pedal.id === id);
		const pedal = floor.pedals[p];
		return pedal?.flips
			? [
					{
						effort: 3,
						says: `Move the switch on ${pedal.name} that exchanges open and closed`,
						edits: [{ path: ['pedals', p, 'flipped'], value: !pedal.flipped }]
					}
				]
			: [];
	});
}

/** Other cables, first those that lie about; and, for a cable for two, the other jack or pedal that it needs. */
function cableMoves(floor: Floor, line: FootLine): Move[] {
	const l = floor.lines.findIndex(({ id }) => id === line.id);
	const now = floor.cables.find(({ id }) => id === line.cable);
	if (!now) return [];
	const used = new Set(floor.lines.map(({ cable }) => cable));
	return (Object.keys(CABLE_KINDS) as CableKind[])
		.filter((kind) => kind !== now.kind)
		.flatMap((kind): Move[] => {
			const spare = floor.cables.find((cable) => cable.kind === kind && !used.has(cable.id));
			const cable = spare ?? {
				id: uniqueId(kind, new Set(floor.cables.map(({ id }) => id)), 'cable'),
				name: CABLE_KINDS[kind],
				kind
			};
			const base: Edit[] = [
				...(spare ? [] : [{ path: ['cables', floor.cables.length], value: cable }]),
				{ path: ['lines', l, 'cable'], value: cable.id }
			];
			const says = spare ? `Use “${spare.name}”, which nobody uses` : `Get a ${CABLE_KINDS[kind]}`;
			const effort = spare ? 4 : 6;
			const wants = spare ? undefined : kind;
			if (kind !== 'split') return line.jacks.length > 1 ? [] : [{ effort, says, edits: base, wants }];
			// One three-contact plug at the pedal, two at jacks of the same box that nobody uses.
			const [first] = line.jacks;
			const box = floor.boxes.find(({ id }) => id === first.box);
			const taken = new Set(
				floor.lines.flatMap(({ id, jacks }) =>
					id === line.id ? [] : jacks.map(({ box: b, jack }) => `${b} ${jack}`)
				)
			);
			return (box?.jacks ?? [])
				.filter((jack) => jack.id !== first.jack && !taken.has(`${first.box} ${jack.id}`))
				.map((jack) => ({
					effort: effort + 1,
					says: `${says}, with its second plug in “${jack.name}”`,
					edits: [
						...base,
						{ path: ['lines', l, 'jacks'], value: [first, { box: first.box, jack: jack.id }] }
					],
					wants
				}));
		});
}

/** Jacks of the same box that nobody uses. */
function jackMoves(floor: Floor, line: FootLine): Move[] {
	if (line.jacks.length > 1) return [];
	const l = floor.lines.findIndex(({ id }) => id === line.id);
	const [first] = line.jacks;
	const box = floor.boxes.find(({ id }) => id === first.box);
	const taken = new Set(
		floor.lines.flatMap(({ jacks }) => jacks.filter((at) => at.box === first.box).map(({ jack }) => jack))
	);
	return (box?.jacks ?? [])
		.filter(({ id }) => !taken.has(id))
		.map((jack) => ({
			effort: 5,
			says: `Plug it in at “${jack.name}”`,
			edits: [{ path: ['lines', l, 'jacks'], value: [{ box: first.box, jack: jack.id }] }]
		}));
}

/** What another line of the same box and this one do with each other's jacks; the other one must go on working. */
function exchangeMoves(floor: Floor, line: FootLine): Move[] {
	if (line.jacks.length > 1) return [];
	const l = floor.lines.findIndex(({ id }) => id === line.id);
	const [mine] = line.jacks;
	return floor.lines.flatMap((other, o): Move[] => {
		if (o === l || other.jacks.length > 1 || other.jacks[0].box !== mine.box) return [];
		const edits: Edit[] = [
			{ path: ['lines', l, 'jacks'], value: other.jacks },
			{ path: ['lines', o, 'jacks'], value: line.jacks }
		];
		const after = applyEdits(floor, edits);
		const pairing = pairingOf(after, after.lines[o]);
		if (!pairing || !works(judge(pairing))) return [];
		const names = other.pedals.map((id) => floor.pedals.find((pedal) => pedal.id === id)?.name ?? id);
		return [{ effort: 5, says: `Exchange its jack with that of ${names.join(' and ')}`, edits }];
	});
}

const works = ({ kind, sure }: Verdict) => kind === 'works' && sure;

/**
 * What makes a line work, found by trying: every single thing that can be set, moved or plugged otherwise, then every two of
 * them that no single one makes needless; each judged by the circuit. The least effort first.
 */
export function curesOf(floor: Floor, line: FootLine): FootCure[] {
	const now = pairingOf(floor, line);
	if (!now || works(judge(now))) return [];
	const moves = [
		...settings(floor, line),
		...pedalMoves(floor, line),
		...cableMoves(floor, line),
		...jackMoves(floor, line),
		...exchangeMoves(floor, line)
	].sort((a, b) => a.effort - b.effort);
	const tried = (edits: Edit[]): Verdict | null => {
		const changed = applyEdits(floor, edits);
		const after = changed.lines.find(({ id }) => id === line.id)!;
		const pairing = pairingOf(changed, after);
		return pairing && judge(pairing);
	};
	const cure = (says: string, edits: Edit[], wants: CableKind | null): FootCure[] => {
		const verdict = tried(edits);
		return verdict && works(verdict) ? [{ says, edits, verdict, wants }] : [];
	};
	const single = moves.map((move) => cure(move.says, move.edits, move.wants ?? null));
	const alone = single.flat();
	const pairs = moves
		.flatMap((move, i) => {
			if (single[i].length > 0) return [];
			const changed = applyEdits(floor, move.edits);
			const after = changed.lines.find(({ id }) => id === line.id)!;
			// What can be set depends on what was plugged and chosen before.
			return [...settings(changed, after), ...pedalMoves(changed, after)].map((next) => ({
				effort: move.effort + next.effort,
				found: cure(
					`${move.says}; then ${next.says[0].toLowerCase()}${next.says.slice(1)}`,
					[...move.edits, ...next.edits],
					move.wants ?? null
				)
			}));
		})
		.sort((a, b) => a.effort - b.effort)
		.flatMap(({ found }) => found);
	return [...alone, ...(alone.some(({ wants }) => wants === null) ? [] : pairs)].slice(0, 5);
}

/** A pedal at a jack: as it would be with the cable that suits both best, and what that cable is. */
export interface BestPairing {
	cable: CableKind | null;
	verdict: Verdict;
}

/** The best of all cables between a jack, as it is set, and a pedal; the plainest of equals. */
export function bestCable(pairing: Omit<Pairing, 'cable'>): BestPairing {
	const own = pairing.pedals.some(({ plug }) => plug.startsWith('own'));
	const kinds: readonly (CableKind | null)[] = own ? [null] : ['ts', 'trs', 'crossed'];
	return kinds
		.map((cable) => ({ cable, verdict: judge({ ...pairing, cable }) }))
		.reduce((a, b) => {
			const better =
				VERDICTS.indexOf(b.verdict.kind) < VERDICTS.indexOf(a.verdict.kind) ||
				(b.verdict.kind === a.verdict.kind && b.verdict.besides.length < a.verdict.besides.length);
			return better ? b : a;
		});
}
