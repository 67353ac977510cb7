import { copyStudio } from '$lib/server/copy';
import { answerFile } from '$lib/server/file-answer';

export const GET = ({ locals }) => answerFile(() => copyStudio(locals.studio));
