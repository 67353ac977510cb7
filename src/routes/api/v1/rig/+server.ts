import { answer } from '$lib/server/answer';
import { readStudioRig } from '$lib/server/rig';

export const GET = ({ locals }) => answer(() => readStudioRig(locals.studio));
