import { z } from 'zod';
import { faultSchema, freezeMemory, thawMemory } from '$lib/core/bench';
import { fromHex, toHex } from '$lib/core/midi';
import { answer, body } from '$lib/server/answer';
import { getUnit, saveUnit } from '$lib/server/bench';
import { benchProfile } from '$lib/server/profiles';

const unitState = z.object({
	revision: z.number().int(),
	settings: z.record(z.string(), z.number().int()),
	firmware: z.tuple([z.number().int().min(0), z.number().int().min(0)]),
	memory: z.string(),
	faults: z.array(faultSchema),
	/** Somebody changed sounds at the panel. */
	edited: z.boolean().default(false)
});

export const GET = ({ locals, params }) =>
	answer(async () => {
		const { state, ...unit } = await getUnit(locals.studio, params.id);
		const profile = benchProfile(unit.profileId);
		return {
			...unit,
			profile,
			settings: state.settings,
			firmware: state.firmware,
			memory: toHex(freezeMemory(profile, state))
		};
	});

export const PUT = (event) =>
	answer(async () => {
		const { revision, settings, firmware, memory, faults, edited } = await body(event, unitState);
		const { profileId } = await getUnit(event.locals.studio, event.params.id);
		const profile = benchProfile(profileId);
		const state = { settings, firmware, memory: thawMemory(profile, fromHex(memory)) };
		return {
			revision: await saveUnit(event.locals.studio, event.params.id, revision, profile, state, faults, edited)
		};
	});
