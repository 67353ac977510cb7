import { answer } from '$lib/server/answer';
import { getServiceBook } from '$lib/server/service-book';

export const GET = ({ locals }) => answer(() => getServiceBook(locals.studio));
