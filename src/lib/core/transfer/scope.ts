import { z } from 'zod';
import { areaOf, type Profile } from '../profile';

/** Which part of a device's memory a transfer is about. Slots count from 0. */
export const scopeSchema = z.discriminatedUnion('kind', [
	z.strictObject({ kind: z.literal('all') }),
	z.strictObject({ kind: z.literal('area'), area: z.string() }),
	z.strictObject({
		kind: z.literal('slots'),
		slots: z.array(z.strictObject({ area: z.string(), index: z.number().int().min(0) })).min(1)
	})
]);

export type Scope = z.infer<typeof scopeSchema>;

/** Slot numbers by area, ascending, areas in the profile's order. */
export type SlotSet = Map<string, number[]>;

/** All slots of an area. */
export const everySlot = (profile: Profile, area: string) =>
	Array.from({ length: areaOf(profile, area).slots }, (_, i) => i);

/** The slots that a scope names. Areas that the device can neither send nor receive are left out of `all`. */
export function slotsInScope(profile: Profile, scope: Scope): SlotSet {
	const set: SlotSet = new Map();
	if (scope.kind === 'area') set.set(scope.area, everySlot(profile, scope.area));
	else
		for (const { id } of profile.areas) {
			if (scope.kind === 'all') {
				if ([...profile.capture, ...profile.restore].some((way) => way.area === id))
					set.set(id, everySlot(profile, id));
			} else {
				const wanted = scope.slots.filter((slot) => slot.area === id).map((slot) => slot.index);
				if (wanted.length > 0)
					set.set(
						id,
						[...new Set(wanted)].sort((a, b) => a - b)
					);
			}
		}
	return set;
}

/** The first area or slot that a scope names and the device does not have; null where it has all of them. */
export function notThere(profile: Profile, scope: Scope): string | null {
	const areas = new Map(profile.areas.map(({ id, slots }) => [id, slots]));
	if (scope.kind === 'area') return areas.has(scope.area) ? null : scope.area;
	if (scope.kind === 'all') return null;
	const slot = scope.slots.find(({ area, index }) => index >= (areas.get(area) ?? 0));
	return slot ? (areas.has(slot.area) ? `${slot.area}, slot ${slot.index + 1}` : slot.area) : null;
}

export const countSlots = (set: SlotSet): number =>
	[...set.values()].reduce((sum, slots) => sum + slots.length, 0);

/** All slots of both. */
export const joined = (one: SlotSet, other: SlotSet): SlotSet =>
	new Map(
		[...new Set([...one.keys(), ...other.keys()])].map((area) => [
			area,
			[...new Set([...(one.get(area) ?? []), ...(other.get(area) ?? [])])]
		])
	);
