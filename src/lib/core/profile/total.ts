import { joinBytes } from '../midi';
import { carrierIn, checksumFor, packMemory } from './carrier';
import type { CaptureWay, Profile, RestoreWay } from './schema';

/**
 * The checksum over a whole dump, as its last message says it.
 * @param carried the messages of the dump that carry memory, in order, with what they carry
 */
export function totalOf(
	profile: Profile,
	{ checksum, over }: NonNullable<(CaptureWay | RestoreWay)['total']>,
	carried: readonly { messageId: string; memory: Uint8Array }[]
): number {
	return checksumFor(checksum).value(
		joinBytes(
			carried.map(({ messageId, memory }) =>
				over === 'wire' ? packMemory(carrierIn(profile, profile.messages[messageId].parts)!, memory) : memory
			)
		)
	);
}
