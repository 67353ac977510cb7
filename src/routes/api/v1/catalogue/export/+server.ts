import Papa from 'papaparse';
import { writeCatalogue } from '$lib/core/gear';
import { listDevices } from '$lib/server/gear';

/** The catalogue as CSV (RFC 4180), with a byte-order mark so that spreadsheets read the accents. */
export async function GET({ locals }) {
	const text =
		'\uFEFF' + Papa.unparse(writeCatalogue(await listDevices(locals.studio)), { escapeFormulae: true });
	return new Response(text, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': 'attachment; filename="silent-drawer-gear.csv"'
		}
	});
}
