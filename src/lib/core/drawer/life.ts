import type { Profile } from '../profile';
import { recordChange, type RecordChange } from './parameter-changes';
import { SAME_SOUND, similarity } from './similarity';

/** A stretch of time in which a slot of a device held one content. Times are ISO 8601. */
export interface Stay {
	id: number;
	deviceId: string;
	area: string;
	slot: number;
	label: string;
	name: string | null;
	record: string;
	versionId: string;
	fromAt: string;
	/** Null while nothing else was seen there. */
	toAt: string | null;
	/** Seen in an imported file, never in the device itself. */
	imported: boolean;
}

export type LifeKind =
	'created' | 'edited' | 'renamed' | 'moved' | 'copied' | 'edited and moved' | 'brought back' | 'lost';

export interface LifeEvent {
	at: string;
	kind: LifeKind;
	stay: Stay;
	/** Where it came from. */
	from: Stay | null;
	change: RecordChange | null;
}

export interface Life {
	events: LifeEvent[];
	/** Where a form of the sound is now. */
	now: Stay[];
	/** The stays that belong to this life, oldest first. */
	stays: Stay[];
}

interface Origin {
	kind: LifeKind;
	from: Stay | null;
}

/** How stays came about, and what came of them. */
export interface Lineage {
	origin(stay: Stay): Origin;
	children(stay: Stay): Stay[];
}

/**
 * How every stay came about: content that was seen before was moved, copied or brought back; content like what was in
 * the slot before was edited; like what left another slot at that moment, edited and moved; else it is new. Each is
 * worked out when it is asked for.
 * `stays` are those of all devices of one model, `bytes` gives the content of a record.
 */
export function lineageOf(
	profile: Profile,
	stays: readonly Stay[],
	bytes: (record: string) => Uint8Array | undefined
): Lineage {
	const byRecord = new Map<string, Stay[]>();
	const bySlot = new Map<string, Stay[]>();
	const begunWith = new Map<string, Stay[]>();
	const endedWith = new Map<string, Stay[]>();
	const origins = new Map<number, Origin>();
	const push = (map: Map<string, Stay[]>, key: string, stay: Stay) => {
		const list = map.get(key);
		if (list) list.push(stay);
		else map.set(key, [stay]);
	};
	const sorted = stays.toSorted((a, b) => a.fromAt.localeCompare(b.fromAt) || a.id - b.id);
	const place = new Map(sorted.map(({ id }, i) => [id, i]));
	const slotOf = ({ deviceId, area, slot }: Stay) => `${deviceId} ${area} ${slot}`;
	const momentOf = ({ deviceId, area }: Stay, by: string | null) => `${deviceId} ${area} ${by}`;
	const begun = new Map(sorted.map((stay) => [`${slotOf(stay)} ${stay.fromAt}`, stay.versionId]));
	/** The version that found something else in its place: messages of one version come at times of their own. */
	const endedBy = (stay: Stay) => begun.get(`${slotOf(stay)} ${stay.toAt}`);
	/** The moments with which a stay began or ended: the version, and the time. */
	const beginnings = ({ versionId, fromAt }: Stay) => new Set([versionId, fromAt]);
	const endings = (stay: Stay) => new Set(stay.toAt ? [endedBy(stay) ?? stay.toAt, stay.toAt] : []);
	for (const stay of sorted) {
		push(byRecord, `${stay.area} ${stay.record}`, stay);
		push(bySlot, slotOf(stay), stay);
		for (const by of beginnings(stay)) push(begunWith, momentOf(stay, by), stay);
		for (const by of endings(stay)) push(endedWith, momentOf(stay, by), stay);
	}
	const before = (list: readonly Stay[], stay: Stay) =>
		list.filter(({ id }) => place.get(id)! < place.get(stay.id)!);
	const ofRecord = (stay: Stay) => byRecord.get(`${stay.area} ${stay.record}`)!;
	const inSlot = (stay: Stay) => bySlot.get(slotOf(stay))!;
	const leftWith = (ended: Stay, stay: Stay) =>
		ended.toAt !== null && (ended.toAt === stay.fromAt || endedBy(ended) === stay.versionId);

	const alike = (a: Stay, b: Stay): number => {
		const [x, y] = [bytes(a.record), bytes(b.record)];
		return x && y ? similarity(profile, b.area, x, y) : 0;
	};

	function workOut(stay: Stay): Origin {
		const earlier = before(ofRecord(stay), stay);
		const own = earlier.filter(({ deviceId }) => deviceId === stay.deviceId);
		const left = own.find((other) => other.slot !== stay.slot && leftWith(other, stay));
		if (left) return { kind: 'moved', from: left };
		const back = own.findLast(({ slot, toAt }) => slot === stay.slot && toAt !== null);
		if (back) return { kind: 'brought back', from: back };
		const source = own.findLast(({ toAt }) => toAt === null) ?? own.at(-1) ?? earlier.at(-1);
		if (source) return { kind: 'copied', from: source };
		const previous = before(inSlot(stay), stay).at(-1);
		if (previous && alike(previous, stay) >= SAME_SOUND) {
			const [x, y] = [bytes(previous.record)!, bytes(stay.record)!];
			const change = recordChange(profile, stay.area, x, y);
			const onlyName = change?.name && change.parameters.length === 0 && change.otherBytes === 0;
			return { kind: onlyName ? 'renamed' : 'edited', from: previous };
		}
		let best: Stay | null = null;
		let score = SAME_SOUND;
		for (const by of [stay.versionId, stay.fromAt])
			for (const gone of endedWith.get(momentOf(stay, by)) ?? []) {
				if (gone.slot === stay.slot) continue;
				const likeness = alike(gone, stay);
				if (likeness >= score) [best, score] = [gone, likeness];
			}
		return best ? { kind: 'edited and moved', from: best } : { kind: 'created', from: null };
	}

	const origin = (stay: Stay): Origin => {
		let found = origins.get(stay.id);
		if (!found) origins.set(stay.id, (found = workOut(stay)));
		return found;
	};
	return {
		origin,
		children(stay) {
			const slot = inSlot(stay);
			const candidates = new Set([
				...ofRecord(stay),
				...slot.slice(slot.indexOf(stay) + 1, slot.indexOf(stay) + 2),
				// What began as it ended has come of it only where it is like it.
				...[...endings(stay)]
					.flatMap((by) => begunWith.get(momentOf(stay, by)) ?? [])
					.filter((each) => alike(stay, each) >= SAME_SOUND)
			]);
			return [...candidates].filter((each) => origin(each).from?.id === stay.id);
		}
	};
}

/** The life of the sound that has this content: its beginnings, all that became of it, where it is now. */
export function lifeOf(
	profile: Profile,
	stays: readonly Stay[],
	record: string,
	bytes: (record: string) => Uint8Array | undefined
): Life {
	const { origin, children } = lineageOf(profile, stays, bytes);
	const members = new Map<number, Stay>();
	const waiting = stays.filter((stay) => stay.record === record);
	for (let stay = waiting.pop(); stay !== undefined; stay = waiting.pop()) {
		if (members.has(stay.id)) continue;
		members.set(stay.id, stay);
		const { from } = origin(stay);
		waiting.push(...children(stay), ...(from ? [from] : []));
	}
	const own = [...members.values()].sort((a, b) => a.fromAt.localeCompare(b.fromAt) || a.id - b.id);
	const events = own.map((stay): LifeEvent => {
		const { kind, from } = origin(stay);
		const [x, y] = [from && bytes(from.record), bytes(stay.record)];
		return {
			at: stay.fromAt,
			kind,
			stay,
			from,
			change: x && y ? recordChange(profile, stay.area, x, y) : null
		};
	});
	const now = own.filter(({ toAt, imported }) => toAt === null && !imported);
	// The moment at which the last device gave it up.
	const last = own
		.filter(({ imported }) => !imported)
		.reduce<Stay | null>(
			(latest, stay) => (stay.toAt && (!latest || stay.toAt > latest.toAt!) ? stay : latest),
			null
		);
	if (now.length === 0 && last)
		events.push({ at: last.toAt!, kind: 'lost', stay: last, from: null, change: null });
	return { events, now, stays: own };
}
