import { fromHex } from '../midi';
import type { Profile } from './schema';

/** Whether two profiles are of one model that comes in several variants, or one and the same. */
export const sameFamily = (one: Profile, other: Profile): boolean =>
	one.id === other.id || (one.variant !== undefined && one.variant.of === other.variant?.of);

/** −1, 0 or 1, as the first byte that differs says. */
function compareVersions(one: ArrayLike<number>, other: ArrayLike<number>): number {
	for (let i = 0; i < Math.max(one.length, other.length); i++) {
		const by = (one[i] ?? 0) - (other[i] ?? 0);
		if (by !== 0) return Math.sign(by);
	}
	return 0;
}

/**
 * Whether a profile is for the version that an identity reply says. One that is for no version in particular is for all.
 * @param version four bytes, as sent
 */
export function suitsVersion({ variant }: Profile, version: Uint8Array): boolean {
	const { from, before } = variant ?? {};
	return (
		(from === undefined || compareVersions(version, fromHex(from)) >= 0) &&
		(before === undefined || compareVersions(version, fromHex(before)) < 0)
	);
}

/** How many slots a model has: of variants that nothing tells apart, the one that has fewest is the likeliest. */
export const slotsOfModel = ({ areas }: Profile): number => areas.reduce((sum, { slots }) => sum + slots, 0);

/** The model, with the variant where there are several: `Averill Sconce, firmware 2`. */
export const profileTitle = ({ maker, model, variant }: Profile): string =>
	`${maker} ${model}${variant ? `, ${variant.title}` : ''}`;
