import { answer } from '$lib/server/answer';
import { shippedSurfaces } from '$lib/server/surfaces';

export const GET = () => answer(async () => shippedSurfaces());
