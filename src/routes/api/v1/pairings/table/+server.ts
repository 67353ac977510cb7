import { pairingTable } from '$lib/core/pairing';
import { answer, body } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';
import { addPairings, addPairingsSchema, getPairings } from '$lib/server/pairings';

export const GET = ({ locals }) =>
	answerFile(async () => ({
		name: 'pairings.csv',
		type: 'text/csv; charset=utf-8',
		bytes: new TextEncoder().encode(pairingTable((await getPairings(locals.studio)).document.records))
	}));

export const POST = (event) =>
	answer(async () => addPairings(event.locals.studio, await body(event, addPairingsSchema)));
