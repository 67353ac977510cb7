import { answer } from '$lib/server/answer';
import { transferResult } from '$lib/server/transfer-result';

export const GET = ({ locals, params }) => answer(() => transferResult(locals.studio, params.id));
