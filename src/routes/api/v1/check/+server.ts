import { answer } from '$lib/server/answer';
import { checkStudio } from '$lib/server/check';

export const GET = ({ locals }) => answer(() => checkStudio(locals.studio));
