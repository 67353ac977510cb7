import { moved, stands } from '../pick-up/hand';
import { linked, type ControlMap, type Link } from '../map';
import { sentRange } from '../resolution';
import { shownOf } from '../../profile';
import { pageWords, type MapRule } from './check';

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
				: map.pages.flatMap((page) =>
						surface.controls.flatMap((control) => {
							const here = moved(map, page.number, control);
							const elsewhere = map.pages.filter(
								({ number }) =>
									number !== page.number &&
									moved(map, number, control).some(
										({ links }) => !here.some((own) => JSON.stringify(own.links) === JSON.stringify(links))
									)
							);
							if (elsewhere.length === 0) return [];
							return here.flatMap(({ links }) =>
								links.flatMap((link) => {
									const jump = widest(map, link);
									if (jump === null || jump <= map.loudestStepDb) return [];
									const wait = surface.pickUp.find((way) => way !== 'jump');
									return [
										{
											severity: 'warning' as const,
											says: `${control.name} moves ${linked(map, link).target!.name} on ${pageWords(page)} and something else on ${elsewhere.map(pageWords).join(', ')}: touched after that, it can jump by up to ${Number(jump.toPrecision(3))} dB. Turn down first.`,
											at: ['pages', map.pages.indexOf(page)],
											cure: wait
												? {
														says: `Have the controls ${wait}; set the ${surface.model} so, too.`,
														edits: [{ path: ['pickUp'], value: wait }]
													}
												: { says: 'Give the level a control of its own on every page.', edits: [] }
										}
									];
								})
							);
						})
					)
	}
];

/** Rules whose findings are about how loud it can get. */
export const LOUD_RULES: readonly string[] = ['loud-step', 'loud-jump'];
