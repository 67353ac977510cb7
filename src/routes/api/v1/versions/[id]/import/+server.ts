import { answer } from '$lib/server/answer';
import { importNames, importTable } from '$lib/server/bank-imports';
import { uploadedText } from '$lib/server/upload';

export const POST = (event) =>
	answer(async () => {
		const { locals, params, url } = event;
		const area = url.searchParams.get('area') ?? '';
		const { text, name } = await uploadedText(event);
		return name.toLowerCase().endsWith('.csv')
			? importTable(locals.studio, params.id, area, text)
			: importNames(locals.studio, params.id, area, text);
	});
