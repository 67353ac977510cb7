import { answer } from '$lib/server/answer';
import { deviceTargets } from '$lib/server/device-targets';

export const GET = ({ locals, params }) => answer(() => deviceTargets(locals.studio, params.id));
