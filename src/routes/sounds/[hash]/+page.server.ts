import { UNMARKED } from '$lib/core/drawer';
import { marksOf } from '$lib/server/store/sound-marks';
import { orError } from '$lib/server/answer';
import { listDevices } from '$lib/server/gear';
import { currentProfile } from '$lib/server/profiles';
import { receiversOf } from '$lib/server/receivers';
import { lifeOfSound } from '$lib/server/sounds';

export async function load({ locals, params }) {
	const { sound, life } = await orError(lifeOfSound(locals.studio, params.hash));
	const devices = (await listDevices(locals.studio, { archived: true })).map(({ id, name }) => ({
		id,
		name
	}));
	const profile = currentProfile(locals.studio, sound.profileId);
	return {
		sound,
		mark: (await marksOf(locals.studio, [sound.hash])).get(sound.hash) ?? UNMARKED,
		life,
		devices,
		receivers: await receiversOf(locals.studio, profile, sound.area)
	};
}
