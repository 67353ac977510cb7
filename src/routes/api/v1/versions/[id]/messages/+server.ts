import { toHex } from '$lib/core/midi';
import { answer } from '$lib/server/answer';
import { openVersion } from '$lib/server/drawer';

export const GET = ({ locals, params }) =>
	answer(async () => (await openVersion(locals.studio, params.id)).messages.map((bytes) => toHex(bytes)));
