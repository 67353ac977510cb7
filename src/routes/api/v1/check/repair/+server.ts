import { answer } from '$lib/server/answer';
import { repairStudio } from '$lib/server/repair';

export const POST = ({ locals }) =>
	answer(async () => {
		const repaired = await repairStudio(locals.studio);
		return repaired ?? { copy: null, devices: [] };
	});
