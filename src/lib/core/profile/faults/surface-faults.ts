import { CELL_FIELDS, type Profile } from '../schema';
import type { Fault } from './fault';

export function surfaceFaults({ surface, areas, records }: Profile): Fault[] {
	if (!surface) return [];
	const record = records[areas.find(({ id }) => id === surface.area)?.record ?? ''];
	if (!record) return [{ path: ['surface', 'area'], says: `there is no area “${surface.area}”` }];
	const byId = new Map(record.parameters.map((parameter) => [parameter.id, parameter]));
	const shared: Fault[] =
		surface.quick === undefined || byId.has(surface.quick)
			? []
			: [{ path: ['surface', 'quick'], says: `there is no parameter “${surface.quick}”` }];
	const cells = surface.cells.flatMap(({ cell, control, gesture }, i): Fault[] => {
		const path = ['surface', 'cells', i];
		const same = surface.cells.findIndex((each) => each.control === control && each.gesture === gesture);
		if (same !== i) return [{ path, says: `“${control}” has two cells for “${gesture}”` }];
		const ids = surface.pages?.map((page) => `${page}-${cell}`) ?? [cell];
		return ids.flatMap((own) =>
			CELL_FIELDS.flatMap((field): Fault[] => {
				const parameter = byId.get(`${own}-${field}`);
				if (!parameter) return [{ path, says: `there is no parameter “${own}-${field}”` }];
				const words = field === 'kind' ? surface.kinds : field === 'way' ? surface.ways : null;
				const values = parameter.range[1] - parameter.range[0] + 1;
				return words && words.length !== values
					? [{ path: ['surface', `${field}s`], says: `${words.length} words for ${values} values` }]
					: [];
			})
		);
	});
	return [...shared, ...cells];
}
