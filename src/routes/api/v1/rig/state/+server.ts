import { answer } from '$lib/server/answer';
import { wiringState } from '$lib/server/plans';

export const GET = ({ locals }) => answer(() => wiringState(locals.studio));
