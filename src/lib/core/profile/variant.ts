import { toHex } from '../midi';
import type { Profile } from './schema';

/** Whether two profiles are of one model that comes in several variants, or one and the same. */
export const sameFamily = (one: Profile, other: Profile): boolean =>
	one.id === other.id || (one.variant !== undefined && one.variant.of === other.variant?.of);

/**
 * Whether a profile is for the version that an identity reply says. One that is for no version in particular is for all.
 * @param version four bytes, as sent
 */
export function suitsVersion({ variant }: Profile, version: Uint8Array): boolean {
	const { from, before } = variant ?? {};
	// Bytes written alike stand in the order of their values.
	const is = toHex(version, ' ').toUpperCase();
	return (from === undefined || is >= from) && (before === undefined || is < before);
}

/** How many slots a model has: of variants that nothing tells apart, the one that has fewest is the likeliest. */
export const slotsOfModel = ({ areas }: Profile): number => areas.reduce((sum, { slots }) => sum + slots, 0);

/** The model, with the variant where there are several: `Averill Sconce, firmware 2`. */
export const profileTitle = ({ maker, model, variant }: Profile): string =>
	`${maker} ${model}${variant ? `, ${variant.title}` : ''}`;
