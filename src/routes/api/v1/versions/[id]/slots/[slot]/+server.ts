import { answer } from '$lib/server/answer';
import { slotFacts } from '$lib/server/slot-facts';

export const GET = ({ locals, params }) => answer(() => slotFacts(locals.studio, params.id, params.slot));
