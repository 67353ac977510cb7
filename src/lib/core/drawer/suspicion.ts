/** A slot before and after a backup, by its content. */
export interface SlotTurn {
	area: string;
	index: number;
	/** SHA-256 of what it was last known to hold; null where that is not known. */
	before: string | null;
	now: string;
	/** Whether what it holds now is nothing but one byte over and over. */
	blank: boolean;
}

/** Why a backup should be looked at before it counts as what the device is meant to hold. */
export interface Suspicion {
	kind: 'emptied' | 'all alike' | 'mostly different';
	/** Slots concerned, of all that were compared. */
	slots: number;
	of: number;
}

/** Below this many slots nothing can be said of most of them. */
const FEW = 4;

/**
 * Whether a backup looks like a memory that was wiped, or like another device's: most of the slots that held
 * something else are now empty or all alike, or most slots differ from what was last known.
 */
export function suspicionOf(turns: readonly SlotTurn[]): Suspicion | null {
	if (turns.length < FEW) return null;
	const used = new Map<string, number>();
	for (const { area, now } of turns) used.set(`${area} ${now}`, (used.get(`${area} ${now}`) ?? 0) + 1);
	const inArea = new Map<string, number>();
	for (const { area } of turns) inArea.set(area, (inArea.get(area) ?? 0) + 1);
	/** Nothing of its own: one byte over and over, or what most slots of its area hold. */
	const plain = ({ area, now, blank }: SlotTurn) =>
		blank || (inArea.get(area)! >= FEW && used.get(`${area} ${now}`)! > inArea.get(area)! / 2);
	const known = turns.filter(({ before }) => before !== null);
	const emptied = known.filter((turn) => turn.before !== turn.now && plain(turn)).length;
	if (known.length >= FEW && emptied > known.length / 2)
		return { kind: 'emptied', slots: emptied, of: known.length };
	const differing = known.filter(({ before, now }) => before !== now).length;
	if (known.length >= FEW && differing > known.length / 2)
		return { kind: 'mostly different', slots: differing, of: known.length };
	const alike = turns.filter(plain).length;
	// What was like this before is as it was.
	if (known.length < FEW && alike > turns.length / 2)
		return { kind: 'all alike', slots: alike, of: turns.length };
	return null;
}

/**
 * The question that a suspicion asks, in words. It is kept, so the day on which the device was last read (`2026-03-31`)
 * is named as such and not as so many days ago.
 */
export function suspicionSays({ kind, slots, of }: Suspicion, readOn: string | null): string {
	const since = readOn === null ? 'before' : `on ${readOn}`;
	const count = `${slots} of ${of} slots`;
	if (kind === 'emptied')
		return `${count} are empty or all alike that held sounds when it was read ${since}: wiped?`;
	if (kind === 'all alike')
		return `${count} are empty or all alike: is this the memory that you mean to keep?`;
	return `${count} differ from what was read ${since}: another device, another bank, or wiped?`;
}
