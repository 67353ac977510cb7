import { modeOf, type Floor } from './floor';
import { modeWords } from './cures';

/** Where a box has something set, and by which word it calls the place. */
export interface MenuPlace {
	box: string;
	/** What it calls it. */
	setting: string;
	path: string;
}

/** All that a floor’s boxes say of where things are set: their own lists, and the menus of their jacks. */
export const menuPlaces = (floor: Floor): MenuPlace[] =>
	floor.boxes.flatMap((box) => [
		...box.menus.map(({ setting, path }) => ({ box: box.name, setting, path })),
		...box.jacks.flatMap((jack) => [
			...jack.modes
				.filter(({ menu }) => menu)
				.map((mode) => ({
					box: box.name,
					setting: `“${jack.name}” takes ${modeWords(mode.takes, mode.wiper)}`,
					path: mode.menu
				})),
			...(modeOf(jack).settingMenu
				? [
						{
							box: box.name,
							setting: `“${jack.name}”: ${modeOf(jack).takes === 'expression' ? 'direction and ends' : 'open or closed'}`,
							path: modeOf(jack).settingMenu
						}
					]
				: [])
		])
	]);

/** The same setting on every box that has it, by words of it; all words must be met. */
export function findSetting(floor: Floor, words: string): MenuPlace[] {
	const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
	return menuPlaces(floor).filter(({ setting, path }) => {
		const text = `${setting} ${path}`.toLowerCase();
		return wanted.every((word) => text.includes(word));
	});
}
