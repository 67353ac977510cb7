import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { dryRunOf, previewSchema } from '$lib/server/dry-run';

export const POST = (event) =>
	answer(async () => {
		const orders = z
			.array(previewSchema)
			.min(1)
			.max(128)
			.parse(await body(event, z.unknown()));
		const runs = [];
		for (const order of orders) runs.push(await dryRunOf(event.locals.studio, order));
		return runs;
	});
