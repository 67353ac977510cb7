import { fitNames } from '$lib/core/control';
import { answer, body } from '$lib/server/answer';
import { fitNamesSchema } from '$lib/server/control-orders';

export const POST = (event) =>
	answer(async () => {
		const { names, characters, charset } = await body(event, fitNamesSchema);
		return fitNames(names, characters, charset);
	});
