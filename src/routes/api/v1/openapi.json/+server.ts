import { answer } from '$lib/server/answer';
import { openApi } from '$lib/server/openapi';

export const GET = () => answer(async () => openApi());
