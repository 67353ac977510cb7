import { Problem } from '../problem';
import { uniqueId } from '../unique-id';
import { boxSchema, type Box } from './floor';

/** What a box has on its pages, which switches are spare, and where its menus have what: as lines that a hand writes. */
export interface BoxWords {
	/**
	 * A block a page, with an empty line between: its name, then a line a button, `3: Tap tempo | Tempo to 60` (short press,
	 * long press). `Encore = Show`: a page that shows another one’s buttons.
	 */
	pages: string;
	/** A line a spare switch. */
	spares: string;
	/** A line a setting, `Slot of a pedal: Hold Pages › Slots`. */
	menus: string;
}

type Page = Box['pages'][number];
type Button = Page['buttons'][number];

const buttonLine = ({ name, short, long }: Button): string =>
	`${name}: ${short}${long ? ` | ${long}` : ''}`.trimEnd();
const pageTitle = (box: Pick<Box, 'pages'>, { name, follows }: Page): string =>
	follows === null ? name : `${name} = ${box.pages.find(({ id }) => id === follows)?.name ?? follows}`;
const menuLine = ({ setting, path }: Box['menus'][number]): string => `${setting}: ${path}`;

export const wordsOfBox = (box: Pick<Box, 'pages' | 'spares' | 'menus'>): BoxWords => ({
	pages: box.pages
		.map((page) => [pageTitle(box, page), ...page.buttons.map(buttonLine)].join('\n'))
		.join('\n\n'),
	spares: box.spares.map(({ name }) => name).join('\n'),
	menus: box.menus.map(menuLine).join('\n')
});

const linesOf = (text: string) => text.split(/\r?\n/).map((line) => line.trim());

/** Blocks of lines that empty ones part, each line with its number from 1. */
function blocksOf(text: string): { line: string; at: number }[][] {
	const blocks: { line: string; at: number }[][] = [[]];
	linesOf(text).forEach((line, i) => {
		if (line === '') blocks.push([]);
		else blocks.at(-1)!.push({ line, at: i + 1 });
	});
	return blocks.filter(({ length }) => length > 0);
}

/** `name: rest`, parted at the first colon. */
function parted(line: string, at: number, form: string): [string, string] {
	const colon = line.indexOf(':');
	if (colon > 0) return [line.slice(0, colon).trim(), line.slice(colon + 1).trim()];
	throw new Problem('floor.words', `Line ${at}, “${line}”, has no colon.`, `Write it as in “${form}”.`);
}

/**
 * A box with what was written: what kept its name keeps its id, so that deputies stay; the deputies of switches that are gone
 * go with them.
 * @throws Problem `floor.words` naming the line that cannot be read, or what is too long
 */
export function boxFromWords(box: Box, words: BoxWords): Box {
	const oldIds = new Set(box.pages.map(({ id }) => id));
	/** What was there, each once. */
	const again = <T>(old: readonly T[]) => {
		const left = [...old];
		return (which: (each: T) => boolean): T | undefined => {
			const i = left.findIndex(which);
			return i < 0 ? undefined : left.splice(i, 1)[0];
		};
	};
	const oldPage = again(box.pages);
	const heads = blocksOf(words.pages).map(([head, ...rest]) => {
		// A title as it was written keeps what it meant, whatever is in it.
		const same = box.pages.find((page) => pageTitle(box, page) === head.line);
		const [name, target] = same
			? [same.name, box.pages.find(({ id }) => id === same.follows)?.name]
			: head.line.split(/ = (.*)/s, 2);
		return { name: name.trim(), target: target?.trim(), at: head.at, rest };
	});
	const pages = heads.map(({ name, target, at, rest }): Page & { target?: string; at: number } => {
		const old = oldPage((page) => page.name === name);
		const oldButton = again(old?.buttons ?? []);
		const taken = new Set(old?.buttons.map(({ id }) => id));
		if (target !== undefined && rest.length > 0)
			throw new Problem(
				'floor.words',
				`Line ${rest[0].at}: ${name} shows the buttons of ${target}, and has none of its own.`,
				'Leave one or the other out.'
			);
		return {
			id: old?.id ?? uniqueId(name, oldIds, 'page'),
			name,
			target,
			at,
			follows: null,
			buttons: rest.map(({ line, at: n }): Button => {
				const same = oldButton((button) => buttonLine(button) === line);
				if (same) return same;
				const [title, does] = parted(line, n, '3: Tap tempo | Tempo to 60');
				const [short, ...long] = does.split('|');
				return {
					id: oldButton((button) => button.name === title)?.id ?? uniqueId(title, taken, 'button'),
					name: title,
					short: short.trim(),
					long: long.join('|').trim()
				};
			})
		};
	});
	const oldSpare = again(box.spares);
	const spareIds = new Set(box.spares.map(({ id }) => id));
	const spares = linesOf(words.spares)
		.filter(Boolean)
		.map(
			(name) => oldSpare((spare) => spare.name === name) ?? { id: uniqueId(name, spareIds, 'spare'), name }
		);
	const made = boxSchema.safeParse({
		...box,
		pages: pages.map(({ target, at, ...page }) => {
			if (target === undefined) return page;
			const shown = pages.find(({ name }) => name === target);
			if (!shown)
				throw new Problem(
					'floor.words',
					`Line ${at}: there is no page “${target}” for ${page.name} to show.`,
					'Write that page, too, or another name.'
				);
			return { ...page, follows: shown.id };
		}),
		spares,
		deputies: box.deputies.filter(({ spare }) => spares.some(({ id }) => id === spare)),
		menus: linesOf(words.menus).flatMap((line, i) => {
			if (line === '') return [];
			const same = box.menus.find((menu) => menuLine(menu) === line);
			if (same) return [same];
			const [setting, path] = parted(line, i + 1, 'Slot of a pedal: Hold Pages › Slots');
			return [{ setting, path }];
		})
	});
	if (made.success) return made.data;
	throw new Problem(
		'floor.words',
		`It is too much for ${box.name}, or something in it is too long: ${made.error.issues[0].path.join(' ')}.`,
		'Names have 60 characters at most, what a button does 80, a way through menus 120; a box has 40 pages of 24 buttons, 24 spare switches and 60 settings.'
	);
}
