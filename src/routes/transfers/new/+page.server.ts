import { orError } from '$lib/server/answer';
import { checkTransfer } from '$lib/server/transfer-check';

/** The address of a transfer that is to begin: it belongs into the tray. See `checkTransfer` for its query. */
export async function load({ locals, url }) {
	const { device } = await orError(checkTransfer(locals.studio, url.searchParams, locals.studio.world));
	return { deviceId: device.id, ask: url.search.slice(1) };
}
