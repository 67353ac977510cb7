import { z } from 'zod';
import { EXPORT_FORMATS, exportVersion } from '$lib/server/exports';
import { answerFile } from '$lib/server/file-answer';

const format = z.enum(EXPORT_FORMATS);

export const GET = ({ locals, params, url }) =>
	answerFile(() =>
		exportVersion(
			locals.studio,
			params.id,
			format.parse(url.searchParams.get('as') ?? 'syx'),
			url.searchParams.get('area') ?? undefined
		)
	);
