import { liveWorldSchema } from '$lib/core/drawer';
import { answer } from '$lib/server/answer';
import { checkTransfer } from '$lib/server/transfer-check';

export const GET = ({ locals, url }) =>
	answer(() => {
		const { studio } = locals;
		const world = liveWorldSchema.catch(studio.world).parse(url.searchParams.get('world'));
		const pace = Number(url.searchParams.get('pace') ?? 1);
		return checkTransfer(studio, url.searchParams, world, pace >= 1 && pace <= 20 ? pace : 1);
	});
