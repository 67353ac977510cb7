import { listDevices } from '$lib/server/gear';

export async function load({ locals, url }) {
	const archived = url.searchParams.has('archived');
	const [rows, all] = await Promise.all([locals.today(), listDevices(locals.studio, { archived: true })]);
	const old = all.filter(({ archivedAt }) => archivedAt !== null);
	return {
		archived,
		archivedCount: old.length,
		rows: archived
			? old.map((device) => ({
					device,
					line: 'Archived',
					state: 'quiet' as const,
					versions: 0,
					lastVerifiedAt: null
				}))
			: rows.map(({ device, line, state, versions, lastVerifiedAt }) => ({
					device,
					line,
					state,
					versions,
					lastVerifiedAt
				}))
	};
}
