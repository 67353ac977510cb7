import { moved, stands } from '../pick-up/hand';
import { linked, type ControlMap, type Link } from '../map';
import { sentRange } from '../resolution';
import { shownOf } from '../../profile';
import { jumpCure, pageWords, type MapRule } from './check';

/** By how many dB a link can move its level at most; null where it moves none. */
const widest = (map: ControlMap, link: Link): number | null => {
	const { target } = linked(map, link);
	if (!target?.level || target.switch) return null;
	const [low, high] = sentRange(target, link);
	let [least, most] = [Infinity, -Infinity];
	for (let value = low; value <= high; value++) {
		const shown = shownOf(target, value);
		[least, most] = [Math.min(least, shown), Math.max(most, shown)];
	}
	return most - least;
};

/** What happens where controls with end stops take hold of values on several pages. */
export const pickUpRules: readonly MapRule[] = [
	{
		id: 'pick-up-not-offered',
		find: ({ map, surface }) =>
			surface.pickUp.includes(map.pickUp) || !surface.controls.some(stands)
				? []
				: [
						{
							severity: 'warning',
							says: `The map counts on controls that ${map.pickUp}; the ${surface.model} only lets them ${surface.pickUp.join(' or ')}.`,
							at: ['pickUp'],
							cure: {
								says: `Count on what it does: ${surface.pickUp[0]}.`,
								edits: [{ path: ['pickUp'], value: surface.pickUp[0] }]
							}
						}
					]
	},
	{
		id: 'loud-jump',
		find: ({ map, surface }) =>
			map.pickUp !== 'jump'
				? []
				: map.pages.flatMap((page, p) => {
						const loud = surface.controls.flatMap((control) => {
							const here = moved(map, page.number, control);
							const pages = map.pages.filter(
								({ number }) =>
									number !== page.number &&
									moved(map, number, control).some(
										({ links }) => !here.some((own) => JSON.stringify(own.links) === JSON.stringify(links))
									)
							);
							const jump = Math.max(
								0,
								...here.flatMap(({ links }) => links.flatMap((link) => widest(map, link) ?? []))
							);
							return pages.length > 0 && jump > map.loudestStepDb
								? [{ name: control.name, pages, jump }]
								: [];
						});
						if (loud.length === 0) return [];
						const names = loud.map(({ name }) => name).join(', ');
						const elsewhere = map.pages.filter((each) => loud.some(({ pages }) => pages.includes(each)));
						const most = Number(Math.max(...loud.map(({ jump }) => jump)).toPrecision(3));
						return [
							{
								severity: 'warning' as const,
								says: `On ${pageWords(map.surface, page)} ${names} ${loud.length === 1 ? 'moves' : 'move'} a level, and something else on ${elsewhere.map((other) => pageWords(map.surface, other)).join(', ')}: touched after that, it can jump by up to ${most} dB. Turn down first.`,
								at: ['pages', p],
								cure: jumpCure(map, page.number, 'Give a level a control of its own on every page.')
							}
						];
					})
	}
];

/** Rules whose findings are about how loud it can get. */
export const LOUD_RULES: readonly string[] = ['loud-step', 'loud-jump'];
