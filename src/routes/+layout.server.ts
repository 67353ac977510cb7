import { passphrase } from '$lib/server/guard';

export async function load({ locals, url, depends, untrack }) {
	// Once, and again when something was changed or may have been: not at every step from page to page.
	depends('drawer:cabinet');
	// The page that asks for the passphrase shows nothing of the studio.
	const rows = untrack(() => url.pathname) === '/enter' ? [] : await locals.today();
	return {
		demo: process.env.DRAWER_DEMO === '1',
		guarded: passphrase() !== null,
		/** The world of this studio: versions from elsewhere say so. */
		world: locals.studio.world,
		fronts: rows
			.map(({ device, line, state, hasMemory }) => ({
				id: device.id,
				name: device.name,
				place: device.place,
				line,
				state,
				hasMemory
			}))
			.sort((a, b) => a.name.localeCompare(b.name))
	};
}
