import { readStudioRig } from '$lib/server/rig';

export const load = ({ locals }) => readStudioRig(locals.studio);
