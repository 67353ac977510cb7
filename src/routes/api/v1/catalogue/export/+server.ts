import { writeCsv } from '$lib/core/csv';
import { writeCatalogue } from '$lib/core/gear';
import { listDevices } from '$lib/server/gear';

/** The catalogue as CSV (RFC 4180), with a byte-order mark so that spreadsheets read the accents. */
export async function GET({ locals }) {
	return new Response(writeCsv(writeCatalogue(await listDevices(locals.studio))), {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': 'attachment; filename="silent-drawer-gear.csv"'
		}
	});
}
