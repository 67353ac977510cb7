import { mapSchema, stripsFile, stripsOf } from '$lib/core/control';
import { answer, body } from '$lib/server/answer';

/** The strips as an SVG file, in true size. */
export async function POST(event) {
	let svg = '';
	const problem = await answer(async () => {
		svg = stripsFile(stripsOf(await body(event, mapSchema)));
	});
	if (problem.status !== 204) return problem;
	return new Response(svg, {
		headers: {
			'content-type': 'image/svg+xml; charset=utf-8',
			'content-disposition': 'attachment; filename="strips.svg"'
		}
	});
}
