import { shownOf } from '../../profile';
import { addressOf, sameAddress, spokenFor } from '../learn';
import { linked, linksOf, toldKey, type ControlMap, type Learnt, type Link } from '../map';
import { inUnit } from '../checks/values';
import type { HeardMessage } from '../stream';
import type { PickUp, SurfaceControl } from '../surface';
import { moved, standFor, valueAtStand } from './hand';

/** Where controls were heard to stand (0–1), and what targets were told last (as sent), since a page of the app was opened. */
export interface Heard {
	stands: ReadonlyMap<string, number>;
	/** Null where a program change brought another one, which was not heard. */
	values: ReadonlyMap<string, number | null>;
}
export const nothingHeard: Heard = { stands: new Map(), values: new Map() };

/** The last position that a control told in a burst, of so many: 7 or 14 bits, by the kind that was learnt; null where it told none. */
function lastPosition(
	burst: readonly HeardMessage[],
	{ kind, channel, number }: Pick<Learnt, 'kind' | 'channel' | 'number'>
): { value: number; of: number } | null {
	const on = (channel ?? 1) - 1;
	let [coarse, fine]: (number | null)[] = [null, null];
	const [first, second] =
		kind === 'nrpn' || kind === 'rpn'
			? [6, 38]
			: [number, kind === 'absolute-14' ? (number ?? 0) + 32 : null];
	for (const { bytes } of burst) {
		const [status, one, two] = bytes;
		if ((status & 15) !== on) continue;
		if (status >> 4 === 0xe && kind === 'pitch-bend') return lastBend(burst, on);
		if (status >> 4 === 0xd && kind === 'channel-pressure') coarse = one;
		if (status >> 4 !== 0xb) continue;
		if (one === first) coarse = two;
		if (one === second) fine = two;
	}
	if (coarse === null) return null;
	return fine === null ? { value: coarse, of: 127 } : { value: coarse * 128 + fine, of: 16383 };
}

function lastBend(burst: readonly HeardMessage[], on: number): { value: number; of: number } | null {
	const last = burst.findLast(({ bytes }) => bytes[0] === 0xe0 + on);
	return last ? { value: last.bytes[2] * 128 + last.bytes[1], of: 16383 } : null;
}

/** What is known of controls and targets after a burst on a page: where those stand that spoke, and what they told. */
export function hearStands(
	heard: Heard,
	map: ControlMap,
	page: number,
	burst: readonly HeardMessage[]
): Heard {
	const stands = new Map(heard.stands);
	const values = new Map(heard.values);
	/** By channel, where in the burst its last program change is. */
	const programs = new Map<number, number>();
	burst.forEach(({ bytes: [status] }, at) => {
		if (status >> 4 === 0xc) programs.set((status & 15) + 1, at);
	});
	if (programs.size > 0)
		for (const link of linksOf(map)) if (programs.has(link.channel)) values.set(toldKey(link), null);
	for (const learnt of map.learnt.filter((each) => each.page === page)) {
		const control = map.surface.controls.find(({ id }) => id === learnt.control);
		const told = control && lastPosition(burst, learnt);
		if (!control || !told) continue;
		const [assignment] = moved(map, page, control);
		if (!assignment) continue;
		const [first] = assignment.links;
		const { target } = linked(map, first);
		// A controller that says the target's own message says its value; what a host makes of another one is reckoned from where it stands.
		const own =
			target && sameAddress(spokenFor(target.address, first.channel), addressOf(learnt)) ? target : null;
		const stand = own ? standFor(map, first, told.value)! : told.value / told.of;
		// Where what is sent goes on from the value, it does not say where the control stands.
		if (map.pickUp !== 'scale') stands.set(control.id, stand);
		for (const [i, link] of assignment.links.entries()) {
			// What was told before a program change does not hold after it.
			const since = programs.get(link.channel);
			if (since !== undefined && !lastPosition(burst.slice(since + 1), learnt)) continue;
			const value = own && i === 0 ? told.value : valueAtStand(map, link, stand);
			if (value !== null) values.set(toldKey(link), value);
		}
	}
	return { stands, values };
}

/** Where a control was heard to stand, and where it would stand to tell what its target is at: as shares of its way, 0–1. */
export interface Standing {
	control: string;
	/** Null where it was not heard yet. */
	stand: number | null;
	/** Null where nobody knows what the target is at. */
	value: number | null;
	/** The value is what the target is by itself, not one that was heard. */
	byItself: boolean;
	/** What happens when it is moved. */
	does: PickUp | 'fits' | 'unknown';
	/** The same in words, with the numbers of the target. */
	says: string;
}

/** Within half a step of 7 bits nothing jumps. */
const NEAR = 0.5 / 127;

/** How each control of a page that stands somewhere stands to its first target. */
export function standingsOf(map: ControlMap, page: number, heard: Heard): Standing[] {
	return map.surface.controls.flatMap((control) => {
		const [assignment] = moved(map, page, control);
		return assignment ? [standingOf(map, control, assignment.links[0], heard)] : [];
	});
}

function standingOf(map: ControlMap, control: SurfaceControl, link: Link, heard: Heard): Standing {
	const { target } = linked(map, link);
	const stand = heard.stands.get(control.id) ?? null;
	const told = heard.values.get(toldKey(link));
	const at = told === undefined ? (target?.default ?? null) : told;
	const value = at === null ? null : standFor(map, link, at);
	const base = { control: control.id, stand, value, byItself: told === undefined && at !== null };
	if (target && stand !== null && told === null)
		return {
			...base,
			does: 'unknown',
			says: `${target.name} is where a program change on channel ${link.channel} put it, and that was not heard; the control was heard at ${inUnit(shownOf(target, valueAtStand(map, link, stand)!), target)}.`
		};
	if (!target || stand === null || value === null || at === null)
		return { ...base, does: 'unknown', says: '' };
	if (Math.abs(stand - value) <= NEAR)
		return { ...base, does: 'fits', says: 'It was heard where its value is.' };
	const shown = (raw: number) => inUnit(shownOf(target, raw), target);
	const is = `${target.name} is at ${shown(at)}${base.byItself ? ', if nobody has moved it' : ''}`;
	const where = `it was heard at ${shown(valueAtStand(map, link, stand)!)}`;
	const way = stand < value ? 'up' : 'down';
	const does = map.pickUp;
	const then = {
		jump: 'moved, it jumps',
		wait: `moved ${way} to there, it picks up`,
		scale: 'moved, the value goes on from there'
	}[does];
	return { ...base, does, says: `${is}, ${where}: ${then}.` };
}
