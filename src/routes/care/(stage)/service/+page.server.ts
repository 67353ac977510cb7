import { listDevices } from '$lib/server/gear';
import { listKeptFiles } from '$lib/server/kept-files';
import { listProcedures } from '$lib/server/procedures';
import { firmwareNow, getServiceBook } from '$lib/server/service-book';

export async function load({ locals, url }) {
	const { studio } = locals;
	const [book, devices, procedures, firmware] = await Promise.all([
		getServiceBook(studio),
		listDevices(studio),
		listProcedures(studio),
		firmwareNow(studio)
	]);
	const device = devices.find(({ id }) => id === url.searchParams.get('device')) ?? null;
	return {
		book,
		device: device && { id: device.id, name: device.name },
		files: device ? await listKeptFiles(studio, { device: device.id }) : [],
		devices: devices.map(({ id, name, batteryFitted, batteryYears, batteryType }) => ({
			id,
			name,
			firmware: firmware.get(id) ?? '',
			battery: batteryFitted || batteryType ? { fitted: batteryFitted, years: batteryYears } : null
		})),
		procedures: procedures
			.filter(({ procedure }) => procedure.about === 'device')
			.map(({ procedure: { id, title } }) => ({ id, title }))
	};
}
