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

/**
 * How every stay came about: content that was seen before was moved, copied or brought back; content like what was in
 * the slot before was edited; like what left another slot at that moment, edited and moved; else it is new.
 * `stays` are those of all devices of one model, `bytes` gives the content of a record.
 */
export function originsOf(
	profile: Profile,
	stays: readonly Stay[],
	bytes: (record: string) => Uint8Array | undefined
): Map<number, Origin> {
	const origins = new Map<number, Origin>();
	const byRecord = new Map<string, Stay[]>();
	const bySlot = new Map<string, Stay[]>();
	const endedAt = new Map<string, Stay[]>();
	const push = (map: Map<string, Stay[]>, key: string, stay: Stay) => {
		const list = map.get(key);
		if (list) list.push(stay);
		else map.set(key, [stay]);
	};
	const sorted = stays.toSorted((a, b) => a.fromAt.localeCompare(b.fromAt) || a.id - b.id);
	const slotOf = ({ deviceId, area, slot }: Stay) => `${deviceId} ${area} ${slot}`;
	const begun = new Map(sorted.map((stay) => [`${slotOf(stay)} ${stay.fromAt}`, stay.versionId]));
	/** The version that found something else in its place: messages of one version come at times of their own. */
	const endedBy = (stay: Stay) => begun.get(`${slotOf(stay)} ${stay.toAt}`);
	for (const stay of sorted) {
		if (!stay.toAt) continue;
		for (const by of new Set([endedBy(stay) ?? stay.toAt, stay.toAt]))
			push(endedAt, `${stay.deviceId} ${stay.area} ${by}`, stay);
	}
	const leftWith = (ended: Stay, stay: Stay) =>
		ended.toAt !== null && (ended.toAt === stay.fromAt || endedBy(ended) === stay.versionId);

	const alike = (a: Stay, b: Stay): number => {
		const [x, y] = [bytes(a.record), bytes(b.record)];
		return x && y ? similarity(profile, b.area, x, y) : 0;
	};

	for (const stay of sorted) {
		const slotKey = slotOf(stay);
		const origin = ((): Origin => {
			const before = byRecord.get(stay.record)?.filter(({ area }) => area === stay.area) ?? [];
			const own = before.filter(({ deviceId }) => deviceId === stay.deviceId);
			const left = own.find((other) => other.slot !== stay.slot && leftWith(other, stay));
			if (left) return { kind: 'moved', from: left };
			const back = own.findLast(({ slot, toAt }) => slot === stay.slot && toAt !== null);
			if (back) return { kind: 'brought back', from: back };
			const source = own.findLast(({ toAt }) => toAt === null) ?? own.at(-1) ?? before.at(-1);
			if (source) return { kind: 'copied', from: source };
			const previous = bySlot.get(slotKey)?.at(-1);
			if (previous && alike(previous, stay) >= SAME_SOUND) {
				const [x, y] = [bytes(previous.record)!, bytes(stay.record)!];
				const change = recordChange(profile, stay.area, x, y);
				const onlyName = change?.name && change.parameters.length === 0 && change.otherBytes === 0;
				return { kind: onlyName ? 'renamed' : 'edited', from: previous };
			}
			let best: Stay | null = null;
			let score = SAME_SOUND;
			for (const gone of [stay.versionId, stay.fromAt].flatMap(
				(by) => endedAt.get(`${stay.deviceId} ${stay.area} ${by}`) ?? []
			)) {
				if (gone.slot === stay.slot) continue;
				const likeness = alike(gone, stay);
				if (likeness >= score) [best, score] = [gone, likeness];
			}
			return best ? { kind: 'edited and moved', from: best } : { kind: 'created', from: null };
		})();
		origins.set(stay.id, origin);
		push(byRecord, stay.record, stay);
		push(bySlot, slotKey, stay);
	}
	return origins;
}

/** The life of the sound that has this content: its beginnings, all that became of it, where it is now. */
export function lifeOf(
	profile: Profile,
	stays: readonly Stay[],
	record: string,
	bytes: (record: string) => Uint8Array | undefined
): Life {
	const origins = originsOf(profile, stays, bytes);
	const byId = new Map(stays.map((stay) => [stay.id, stay]));
	const children = new Map<number, number[]>();
	for (const [id, { from }] of origins)
		if (from) children.set(from.id, [...(children.get(from.id) ?? []), id]);
	const members = new Set<number>();
	const waiting = stays.filter((stay) => stay.record === record).map(({ id }) => id);
	for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
		if (members.has(id)) continue;
		members.add(id);
		waiting.push(...(children.get(id) ?? []));
		const from = origins.get(id)!.from;
		if (from) waiting.push(from.id);
	}
	const own = [...members]
		.map((id) => byId.get(id)!)
		.sort((a, b) => a.fromAt.localeCompare(b.fromAt) || a.id - b.id);
	const events = own.map((stay): LifeEvent => {
		const { kind, from } = origins.get(stay.id)!;
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

/** Where stays are looked up: those of one area of one model, in all drawers. */
export interface StaySource {
	/** All stays of these contents. */
	ofRecords(records: readonly string[]): Promise<Stay[]>;
	/** All that the slots of these stays ever held. */
	histories(stays: readonly Stay[]): Promise<Stay[]>;
	/** The stays that were first seen in the versions of these. */
	besides(stays: readonly Stay[]): Promise<Stay[]>;
	/** What was in the slots of these stays just before them. */
	before(stays: readonly Stay[]): Promise<Stay[]>;
	/** Contents by hash. */
	bytes(records: readonly string[]): Promise<ReadonlyMap<string, Uint8Array>>;
}

/**
 * As `lifeOf`, without reading every stay of the studio: beginning with those of the content, it looks up what could
 * have become of them, or could have come before, until nothing more is found that bears on them.
 */
export async function lifeNear(profile: Profile, record: string, source: StaySource): Promise<Life> {
	const stays = new Map<number, Stay>();
	const contents = new Map<string, Uint8Array>();
	const asked = { records: new Set<string>(), slots: new Set<string>(), stays: new Set<number>() };
	const take = (found: readonly Stay[]) => {
		for (const stay of found) stays.set(stay.id, stay);
	};
	const slotOf = ({ deviceId, area, slot }: Stay) => `${deviceId} ${area} ${slot}`;
	const askRecords = async (records: readonly string[]) => {
		const open = [...new Set(records)].filter((each) => !asked.records.has(each));
		if (open.length === 0) return;
		for (const each of open) asked.records.add(each);
		take(await source.ofRecords(open));
	};
	await askRecords([record]);
	let members = [...stays.values()];
	for (;;) {
		const before = stays.size;
		const open = members.filter((stay) => !asked.slots.has(slotOf(stay)));
		for (const stay of open) asked.slots.add(slotOf(stay));
		if (open.length > 0) take(await source.histories(open));
		// What may have come of a member: what followed in its slot, and whatever began as it was replaced.
		const ends = new Set(members.map((stay) => `${slotOf(stay)} ${stay.toAt}`));
		const next = [...stays.values()].filter((stay) => ends.has(`${slotOf(stay)} ${stay.fromAt}`));
		const turns = [...members, ...next].filter(({ id }) => !asked.stays.has(id));
		for (const { id } of turns) asked.stays.add(id);
		if (turns.length > 0) {
			const begun = await source.besides(turns);
			take(begun);
			take(await source.before(begun));
			await askRecords([...turns, ...begun].map((stay) => stay.record));
		}
		if (stays.size === before && open.length === 0 && turns.length === 0) break;
		const missing = [...new Set([...stays.values()].map((stay) => stay.record))].filter(
			(each) => !contents.has(each)
		);
		for (const [each, bytes] of await source.bytes(missing)) contents.set(each, bytes);
		members = lifeOf(profile, [...stays.values()], record, (of) => contents.get(of)).stays;
	}
	return lifeOf(profile, [...stays.values()], record, (of) => contents.get(of));
}
