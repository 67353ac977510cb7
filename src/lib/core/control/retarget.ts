import type { Assignment, Link, MapPage, Told, Window } from './map';
import type { Target, TargetList } from '../profile';

/** What became of a page whose links were led to another list. */
export interface Retargeted {
	page: MapPage;
	/** Links that have no equal there, in words; they were left out, all else of their assignment stays. */
	lacks: string[];
	/** By what each link that was kept found its target. */
	kept: { from: string; to: string; by: 'function' | 'name' | 'address' }[];
}

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');
const sameAddress = (a: Target, b: Target) => JSON.stringify(a.address) === JSON.stringify(b.address);

/** The target of another list that is meant by the same thing: its function, else its name, else its address. */
export function equalTarget(
	target: Target,
	list: TargetList
): { target: Target; by: Retargeted['kept'][number]['by'] } | null {
	const only = (found: Target[]) => (found.length === 1 ? found[0] : null);
	const byFunction = target.function
		? only(list.targets.filter((each) => each.function === target.function))
		: null;
	if (byFunction) return { target: byFunction, by: 'function' };
	const byName = only(list.targets.filter((each) => plain(each.name) === plain(target.name)));
	if (byName) return { target: byName, by: 'name' };
	const byAddress = only(list.targets.filter((each) => sameAddress(each, target)));
	return byAddress ? { target: byAddress, by: 'address' } : null;
}

/**
 * A page whose links to one list go to another, on another channel if that is wanted. Everything else of each link and
 * assignment stays as it is: range, direction, curve, reach, name, colour, way; but ranges where the units differ, which
 * would mean something else.
 */
export function retarget(page: MapPage, from: TargetList, to: TargetList, channel?: number): Retargeted {
	const lacks: string[] = [];
	const kept: Retargeted['kept'] = [];
	const lead = (link: Link): Link[] => {
		if (link.list !== from.id) return [link];
		const target = from.targets.find(({ id }) => id === link.target);
		const equal = target ? equalTarget(target, to) : null;
		if (!target || !equal) {
			lacks.push(`${to.name} has no ${target?.name ?? link.target}.`);
			return [];
		}
		kept.push({ from: target.id, to: equal.target.id, by: equal.by });
		const { from: low, to: high, ...rest } = link;
		const sameUnit = equal.target.unit === target.unit;
		if (!sameUnit && (low !== undefined || high !== undefined))
			lacks.push(
				`${equal.target.name} of ${to.name} is in ${equal.target.unit || 'another unit'}: its range is all that it has.`
			);
		return [
			{
				...rest,
				...(sameUnit && low !== undefined ? { from: low } : {}),
				...(sameUnit && high !== undefined ? { to: high } : {}),
				list: to.id,
				target: equal.target.id,
				channel: channel ?? link.channel
			}
		];
	};
	const assignments = page.assignments.map((assignment): Assignment => ({
		...assignment,
		links: assignment.links.flatMap(lead)
	}));
	return { page: { ...page, assignments, windows: page.windows.flatMap(ledWindow(from, to)) }, lacks, kept };
}

/** A window that goes over the other list, on the channels that it has; without what that lacks, and gone where that is all. */
const ledWindow =
	(from: TargetList, to: TargetList) =>
	(window: Window): Window[] => {
		const over = window.over.flatMap((told): Told[] => {
			if (told.list !== from.id) return [told];
			const target = from.targets.find(({ id }) => id === told.target);
			const equal = target && equalTarget(target, to);
			return equal ? [{ ...told, list: to.id, target: equal.target.id }] : [];
		});
		return over.length > 0 ? [{ ...window, over }] : [];
	};
