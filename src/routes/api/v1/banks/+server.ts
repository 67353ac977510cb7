import { answer, body } from '$lib/server/answer';
import { createBank, listBanks } from '$lib/server/banks';
import { newBankSchema } from '$lib/server/bank-orders';
import { bankFromVersion } from '$lib/server/bank-imports';

export const GET = ({ locals, url }) =>
	answer(() => listBanks(locals.studio, url.searchParams.get('device') ?? undefined));

export const POST = (event) =>
	answer(async () => {
		const order = await body(event, newBankSchema);
		const { studio } = event.locals;
		return order.from === 'version'
			? bankFromVersion(studio, order.versionId, order.area, order.title)
			: createBank(studio, order.deviceId, order.document, order.baseVersionId);
	}, 201);
