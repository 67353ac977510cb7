import { answer } from '$lib/server/answer';
import { getPower } from '$lib/server/power';

export const GET = ({ locals }) => answer(() => getPower(locals.studio));
