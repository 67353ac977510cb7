import { linked, type Assignment, type ControlMap, type MapPage } from './map';
import { fitNames } from './names';
import type { Gesture, SurfaceControl } from './surface';
import { laterViews, movesWindow } from './window-views';

/** Sizes on paper, in millimetres. */
const STRIP_HEIGHT = 12;
const SHEET = { width: 297, height: 210, margin: 10 } as const;
const GAP = 7;
const CUT = 4;
/** Letters of 3 mm are so wide on average. */
const LETTER = 1.75;

/** What is written under one control. */
export interface StripCell {
	control: string;
	/** From the strip's left end. */
	x: number;
	width: number;
	/** The name, and under it what its other gestures do. */
	name: string;
	also: string[];
	/** Nothing on purpose. */
	empty: boolean;
}

/** A piece of paper that lies along a row of controls. */
export interface Strip {
	page: number;
	title: string;
	row: string;
	/** Where it begins on the surface, and how long it is. */
	from: number;
	width: number;
	/** Which piece of how many, where the row is longer than the sheet. */
	piece: number;
	pieces: number;
	cells: StripCell[];
}

/** What a hand does, in a word. */
export const GESTURE_WORDS: Record<Gesture, string> = {
	move: 'turn',
	push: 'push',
	double: 'twice',
	long: 'long',
	'shift-move': 'shift',
	'shift-push': 'shift push',
	'shift-double': 'shift twice',
	'shift-long': 'shift long'
};

/** The id of a row as a heading. */
export const rowWords = (row: string): string =>
	`${row[0].toUpperCase()}${row.slice(1).replaceAll('-', ' ')}`;

/** A name as it stands on paper: the one that was given, or that of what it moves. */
export function nameOf(map: ControlMap, { name, empty, links, way }: Assignment): string {
	if (way === 'rest') return name || 'Rest';
	if (name || empty || links.length === 0) return name;
	return links.map((link) => linked(map, link).target?.name ?? link.target).join(' + ');
}

/** What a control does on a page: what is global, unless the page says otherwise. */
function doing(map: ControlMap, page: MapPage, control: SurfaceControl): Assignment[] {
	const own = page.assignments.filter((assignment) => assignment.control === control.id);
	return [
		...own,
		...map.globals.filter(
			(assignment) =>
				assignment.control === control.id && own.every(({ gesture }) => gesture !== assignment.gesture)
		)
	].sort((a, b) => control.gestures.indexOf(a.gesture) - control.gestures.indexOf(b.gesture));
}

const room = (width: number) => Math.max(1, Math.floor((width - 1) / LETTER));

/** A control with its share of the paper along its row, in millimetres on the surface. */
export interface Share {
	control: SurfaceControl;
	from: number;
	to: number;
}

/** Where each control of a row has its share of the paper: to the middle between it and its neighbours. */
export function sharesOf(controls: readonly SurfaceControl[]): Share[] {
	const row = [...controls].sort((a, b) => a.x - b.x);
	return row.map((control, i) => {
		const [before, after] = [row[i - 1], row[i + 1]];
		const edge = (left: SurfaceControl, right: SurfaceControl) => (left.x + left.width + right.x) / 2;
		return {
			control,
			from: before ? edge(before, control) : control.x,
			to: after ? edge(control, after) : control.x + control.width
		};
	});
}

/**
 * The paper strips of a map, in true size: for each page and each row of controls one, cut into pieces where it is longer
 * than a sheet. Names that do not fit are shortened so that they stay distinct on the strip.
 * @param pages numbers of the pages that are wanted; left out, all
 */
export function stripsOf(map: ControlMap, pages?: readonly number[]): Strip[] {
	const rows = [...new Set(map.surface.controls.map(({ row }) => row))];
	const longest = SHEET.width - 2 * SHEET.margin;
	return map.pages
		.filter(({ number }) => !pages || pages.includes(number))
		.flatMap((page) =>
			rows.flatMap((row) => {
				const places = sharesOf(map.surface.controls.filter((control) => control.row === row));
				const written = places.map(({ control, from, to }) => {
					const [main, ...others] = doing(map, page, control);
					return {
						from,
						to,
						control: control.id,
						name: main ? nameOf(map, main) : '',
						also: [
							...control.gestures.flatMap((gesture) =>
								[laterViews(map, page, control.id, gesture), movesWindow(page, control.id, gesture)].filter(
									Boolean
								)
							),
							...others
								.filter((assignment) => nameOf(map, assignment) !== '')
								.map((assignment) => `${GESTURE_WORDS[assignment.gesture]}: ${nameOf(map, assignment)}`)
						],
						empty: main?.empty ?? false
					};
				});
				// A row of which nothing is used needs no paper.
				if (written.every(({ name, also, empty }) => name === '' && also.length === 0 && !empty)) return [];
				const short = shortened(written);
				return cut(short, longest).map((cells, i, all) => {
					const from = cells[0].from;
					return {
						page: page.number,
						title: `${map.surface.pages.word} ${page.number}${page.name ? ` ${page.name}` : ''}`,
						row,
						from,
						width: cells.at(-1)!.to - from,
						piece: i + 1,
						pieces: all.length,
						cells: cells.map(({ from: left, to, ...cell }) => ({ ...cell, x: left - from, width: to - left }))
					};
				});
			})
		);
}

type Written = Omit<StripCell, 'x' | 'width'> & { from: number; to: number };

function shortened(written: readonly Written[]): Written[] {
	const least = Math.min(...written.map(({ from, to }) => room(to - from)));
	const named = written.filter(({ name }) => name !== '');
	if (named.every(({ name, from, to }) => name.length <= room(to - from))) return [...written];
	const { names } = fitNames(
		named.map(({ name }) => name),
		least
	);
	return written.map((cell) => {
		const at = named.indexOf(cell);
		return at < 0 || cell.name.length <= room(cell.to - cell.from)
			? cell
			: { ...cell, name: names[at].short };
	});
}

/** Cells in pieces that fit on a sheet. */
function cut(cells: readonly Written[], longest: number): Written[][] {
	const pieces: Written[][] = [];
	for (const cell of cells) {
		const piece = pieces.at(-1);
		if (piece && cell.to - piece[0].from <= longest) piece.push(cell);
		else pieces.push([cell]);
	}
	return pieces;
}

const escaped = (text: string) =>
	text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign]!);
const mm = (value: number) => `${Number(value.toFixed(2))}`;

/** One strip as SVG, its upper left corner at 0, 0, a unit being a millimetre. */
export function stripSvg({ title, cells, width, piece, pieces, row }: Strip): string {
	const corner = (x: number, y: number, dx: number, dy: number) =>
		`<path d="M${mm(x)} ${mm(y + dy)}v${mm(dy * (CUT - 1))}M${mm(x + dx)} ${mm(y)}h${mm(dx * (CUT - 1))}"/>`;
	return [
		`<text x="0" y="-1.2" font-size="2.4">${escaped(`${title}, ${rowWords(row)}${pieces > 1 ? `, piece ${piece} of ${pieces}` : ''}`)}</text>`,
		`<g fill="none" stroke="#000" stroke-width="0.15"><rect width="${mm(width)}" height="${STRIP_HEIGHT}"/>`,
		corner(0, 0, -1, -1),
		corner(width, 0, 1, -1),
		corner(0, STRIP_HEIGHT, -1, 1),
		corner(width, STRIP_HEIGHT, 1, 1),
		...cells.slice(1).map(({ x }) => `<path d="M${mm(x)} 0v${STRIP_HEIGHT}"/>`),
		'</g>',
		...cells.map(({ x, width: wide, name, also, empty }) => {
			const middle = mm(x + wide / 2);
			const lines = also.slice(0, 2);
			return [
				`<text x="${middle}" y="4.6" font-size="3" text-anchor="middle">${escaped(empty ? '—' : name)}</text>`,
				...lines.map(
					(line, i) =>
						`<text x="${middle}" y="${mm(7.6 + i * 2.8)}" font-size="2.1" text-anchor="middle">${escaped(line)}</text>`
				)
			].join('');
		})
	].join('');
}

/** Sheets of A4, lying, with the strips on them one below the other, in true size when printed at 100 %. */
export function stripSheets(strips: readonly Strip[]): string[] {
	const each = STRIP_HEIGHT + GAP + CUT;
	const perSheet = Math.floor((SHEET.height - 2 * SHEET.margin) / each);
	const sheets: string[] = [];
	for (let i = 0; i < strips.length; i += perSheet) {
		const placed = strips
			.slice(i, i + perSheet)
			.map(
				(strip, n) =>
					`<g transform="translate(${SHEET.margin} ${SHEET.margin + GAP + n * each})">${stripSvg(strip)}</g>`
			);
		sheets.push(placed.join(''));
	}
	return sheets;
}

/** All sheets below each other as one SVG file, a unit being a millimetre. */
export function stripsFile(strips: readonly Strip[]): string {
	const sheets = stripSheets(strips);
	const height = Math.max(1, sheets.length) * SHEET.height;
	return [
		`<svg xmlns="http://www.w3.org/2000/svg" width="${SHEET.width}mm" height="${height}mm" viewBox="0 0 ${SHEET.width} ${height}" font-family="Atkinson Hyperlegible Next, sans-serif">`,
		...sheets.map((sheet, i) => `<g transform="translate(0 ${i * SHEET.height})">${sheet}</g>`),
		'</svg>\n'
	].join('');
}
