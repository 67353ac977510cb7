import { answer } from '$lib/server/answer';
import { duplicateDevice } from '$lib/server/gear';

export const POST = ({ locals, params }) => answer(() => duplicateDevice(locals.studio, params.id), 201);
