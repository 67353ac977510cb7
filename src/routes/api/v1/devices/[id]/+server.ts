import { deviceSchema } from '$lib/core/gear';
import { answer, body } from '$lib/server/answer';
import { archiveDevice, getDevice } from '$lib/server/gear';
import { saveDevice } from '$lib/server/give-profile';

export const GET = ({ locals, params }) => answer(() => getDevice(locals.studio, params.id));

export const PUT = (event) =>
	answer(async () => {
		const { device, again } = await saveDevice(
			event.locals.studio,
			event.params.id,
			await body(event, deviceSchema)
		);
		return { ...device, again };
	});

export const DELETE = ({ locals, params }) => answer(() => archiveDevice(locals.studio, params.id));
