import { answer } from '$lib/server/answer';
import { getPowerOn } from '$lib/server/switching';

export const GET = ({ locals }) => answer(() => getPowerOn(locals.studio));
