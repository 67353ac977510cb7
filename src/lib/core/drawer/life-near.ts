import type { Profile } from '../profile';
import { lifeOf, type Life, type Stay } from './life';
import { SAME_SOUND, similarity } from './similarity';

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
	const [askedRecords, askedSlots] = [new Set<string>(), new Set<string>()];
	const [followed, traced] = [new Set<number>(), new Set<number>()];
	const slotOf = ({ deviceId, area, slot }: Stay) => `${deviceId} ${area} ${slot}`;
	const take = (found: readonly Stay[]): readonly Stay[] => {
		for (const stay of found) stays.set(stay.id, stay);
		return found;
	};
	const read = async (of: readonly Stay[]) => {
		const missing = [...new Set(of.map((stay) => stay.record))].filter((each) => !contents.has(each));
		if (missing.length > 0)
			for (const [each, bytes] of await source.bytes(missing)) contents.set(each, bytes);
	};
	const askRecords = async (records: readonly string[]) => {
		const open = [...new Set(records)].filter((each) => !askedRecords.has(each));
		for (const each of open) askedRecords.add(each);
		if (open.length > 0) take(await source.ofRecords(open));
	};
	const alike = (a: Stay, b: Stay) => {
		const [x, y] = [contents.get(a.record), contents.get(b.record)];
		return x && y ? similarity(profile, a.area, x, y) >= SAME_SOUND : false;
	};
	/** Looks up what may have come of these stays: what followed in their slots, and what is like them and began then. */
	const follow = async (members: readonly Stay[]) => {
		take(await source.histories(members.filter((stay) => !askedSlots.has(slotOf(stay)))));
		for (const stay of members) askedSlots.add(slotOf(stay));
		const turn = (stay: Stay, at: string | null) => `${slotOf(stay)} ${at}`;
		const [began, ended] = [
			new Set(members.map((stay) => turn(stay, stay.fromAt))),
			new Set(members.map((stay) => turn(stay, stay.toAt)))
		];
		const around = [...stays.values()].filter((stay) => began.has(turn(stay, stay.toAt)));
		const next = [...stays.values()].filter((stay) => ended.has(turn(stay, stay.fromAt)));
		const begun = take(await source.besides(next));
		await read([...members, ...around, ...next, ...begun]);
		const children = begun.filter((stay) =>
			members.some(
				({ deviceId, id }) => deviceId === stay.deviceId && id !== stay.id && alike(stays.get(id)!, stay)
			)
		);
		if (children.length > 0) await read(take(await source.before(begun)));
		await askRecords([...members, ...next, ...children].map((stay) => stay.record));
	};
	/** Looks up what was given up as these began: one of them may be what it was. */
	const trace = async (members: readonly Stay[]) =>
		read(take(await source.before(take(await source.besides(members)))));

	await askRecords([record]);
	for (let members = [...stays.values()]; ;) {
		const open = members.filter(({ id }) => !followed.has(id));
		for (const { id } of open) followed.add(id);
		if (open.length > 0) await follow(open);
		const life = lifeOf(profile, [...stays.values()], record, (of) => contents.get(of));
		const made = life.events.filter(({ kind, stay }) => kind === 'created' && !traced.has(stay.id));
		for (const { stay } of made) traced.add(stay.id);
		if (made.length > 0) await trace(made.map(({ stay }) => stay));
		else if (life.stays.every(({ id }) => followed.has(id))) return life;
		members = life.stays;
	}
}
