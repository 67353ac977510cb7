import { answer } from '$lib/server/answer';
import { removeKeptFile } from '$lib/server/kept-files';

export const POST = ({ params, locals }) => answer(() => removeKeptFile(locals.studio, params.id, true));
