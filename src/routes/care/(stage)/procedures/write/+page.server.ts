import { orError } from '$lib/server/answer';
import { getProcedure, listProcedures } from '$lib/server/procedures';
import { procedureJsonSchema } from '$lib/server/schemas';

/** What a new one begins as: a step by hand, a gate, and the test of what it was for. */
const TEMPLATE = {
	format: 'silent-drawer.procedure',
	version: 1,
	id: 'my-procedure',
	title: 'My procedure',
	about: 'device',
	needs: [],
	cautions: [],
	back: 'What is done where something goes wrong.',
	steps: [
		{ by: 'app', id: 'backup', title: 'Back it up', says: 'All that it holds.', act: 'backup' },
		{
			by: 'gate',
			id: 'kept',
			title: 'A verified full backup',
			says: 'Everything was read and shown to be so.',
			holds: { is: 'backup', withinHours: 24 }
		},
		{
			by: 'hand',
			id: 'do',
			title: 'Do it',
			says: 'What to do.',
			see: 'What should be seen.',
			otherwise: 'What to do when it is not.'
		},
		{ by: 'hand', id: 'test', title: 'What it was for', says: 'The test that shows it.' }
	]
};

/** `?procedure=` opens one (or `new`). */
export async function load({ locals, url }) {
	const wanted = url.searchParams.get('procedure') ?? 'new';
	const [found, all] = await Promise.all([
		wanted === 'new' ? TEMPLATE : orError(getProcedure(locals.studio, wanted)),
		listProcedures(locals.studio)
	]);
	return {
		wanted,
		json: JSON.stringify(found, null, '\t'),
		known: all.map(({ procedure: { id, title }, own }) => ({ id, title, own })),
		schema: procedureJsonSchema()
	};
}
