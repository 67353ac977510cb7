import { deviceEditSchema } from '$lib/core/gear';
import { answer, body } from '$lib/server/answer';
import { archiveDevice, getDevice } from '$lib/server/gear';
import { saveDevice } from '$lib/server/give-profile';

export const GET = ({ locals, params }) => answer(() => getDevice(locals.studio, params.id));

export const PUT = (event) =>
	answer(async () => {
		const { was, ...facts } = await body(event, deviceEditSchema);
		const { device, again } = await saveDevice(event.locals.studio, event.params.id, facts, was);
		return { ...device, again };
	});

export const DELETE = ({ locals, params }) => answer(() => archiveDevice(locals.studio, params.id));
