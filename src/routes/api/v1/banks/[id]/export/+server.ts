import { z } from 'zod';
import { EXPORT_FORMATS, exportBank } from '$lib/server/exports';
import { answerFile } from '$lib/server/file-answer';

const format = z.enum(EXPORT_FORMATS);

export const GET = ({ locals, params, url }) =>
	answerFile(() => exportBank(locals.studio, params.id, format.parse(url.searchParams.get('as') ?? 'syx')));
