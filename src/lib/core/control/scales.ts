import { Problem } from '../problem';

/**
 * Scales by their degrees, as musicians write them: the degrees of a major scale, each lowered (b) or raised (#).
 * Adding one is adding an entry; own ones are written the same way.
 */
export const SCALES = {
	major: '1 2 3 4 5 6 7',
	'natural minor': '1 2 b3 4 5 b6 b7',
	'harmonic minor': '1 2 b3 4 5 b6 7',
	'melodic minor': '1 2 b3 4 5 6 7',
	dorian: '1 2 b3 4 5 6 b7',
	phrygian: '1 b2 b3 4 5 b6 b7',
	lydian: '1 2 3 #4 5 6 7',
	mixolydian: '1 2 3 4 5 6 b7',
	locrian: '1 b2 b3 4 b5 b6 b7',
	'major pentatonic': '1 2 3 5 6',
	'minor pentatonic': '1 b3 4 5 b7',
	blues: '1 b3 4 b5 5 b7',
	'whole tone': '1 2 3 #4 #5 b7',
	'half-whole': '1 b2 b3 3 #4 5 6 b7'
} as const;
export type ScaleName = keyof typeof SCALES;

const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
/** Semitones of the letters above C, which are those of the major scale's degrees above its first. */
const NATURAL = [0, 2, 4, 5, 7, 9, 11] as const;

/** A note of a scale: semitones above its key note, and which letter it is written with. */
interface Degree {
	semitones: number;
	letter: number;
}

const shift = (signs: string) => [...signs].reduce((sum, sign) => sum + (sign === 'b' ? -1 : 1), 0);

/**
 * @param formula degrees 1–7 with b or # before them, rising from 1
 * @throws Problem `scale.formula`
 */
export function degreesOf(formula: string): Degree[] {
	const degrees = formula
		.trim()
		.split(/\s+/)
		.map((word) => {
			const match = /^([b#]*)([1-7])$/.exec(word);
			if (!match)
				throw new Problem(
					'scale.formula',
					`“${word}” is no degree of a scale.`,
					'Write degrees 1 to 7, with b or # before what is lowered or raised: 1 b3 4 5 b7.'
				);
			const letter = Number(match[2]) - 1;
			return { semitones: NATURAL[letter] + shift(match[1]), letter };
		});
	const rising = degrees.every(({ semitones }, i) =>
		i === 0 ? semitones === 0 : semitones > degrees[i - 1].semitones && semitones < 12
	);
	if (!rising)
		throw new Problem(
			'scale.formula',
			'A scale begins with 1 and rises.',
			'Write its degrees in rising order.'
		);
	return degrees;
}

/** A key note: `C`, `F#`, `Bb`, in semitones above the C that is written in its octave. @throws Problem `scale.key` */
export function keyOf(name: string): { letter: number; semitones: number } {
	const match = /^([A-Ga-g])(b|#)?$/.exec(name.trim());
	if (!match) throw new Problem('scale.key', `“${name}” is no key note.`, 'Write C, F# or Bb.');
	const letter = LETTERS.indexOf(match[1].toUpperCase() as (typeof LETTERS)[number]);
	return { letter, semitones: NATURAL[letter] + shift(match[2] ?? '') };
}

export interface ScalePad {
	row: number;
	column: number;
	/** 0–127, or null where the scale leaves the range of notes. */
	note: number | null;
	/** As it is written in this key: `Eb3`, middle C (60) being C4 where `middle` is 4. */
	name: string;
	/** It is the key note. */
	root: boolean;
}

export interface ScaleLayout {
	key: string;
	/** A scale's name, or degrees. */
	scale: string;
	rows: number;
	columns: number;
	/** Octave of the lowest left pad, as it is named. */
	octave: number;
	/** By how many degrees of the scale a row stands above the one below. */
	rowDegrees: number;
	/** Octave number of middle C, note 60. */
	middle: 3 | 4 | 5;
}

/** Pads in key, lowest row first: each the next degree of its scale, each row some degrees above the one below. */
export function padsInScale({
	key,
	scale,
	rows,
	columns,
	octave,
	rowDegrees,
	middle
}: ScaleLayout): ScalePad[] {
	const degrees = degreesOf(Object.hasOwn(SCALES, scale) ? SCALES[scale as ScaleName] : scale);
	const root = keyOf(key);
	return Array.from({ length: rows * columns }, (_, i) => {
		const row = Math.floor(i / columns);
		const column = i % columns;
		const step = row * rowDegrees + column;
		const turn = Math.floor(step / degrees.length);
		const { semitones, letter } = degrees[step - turn * degrees.length];
		const written = root.letter + letter;
		const at = root.semitones + semitones + 12 * turn;
		const note = at + 12 * (octave - middle) + 60;
		const natural = NATURAL[written % 7] + 12 * Math.floor(written / 7) + 12 * turn;
		const signs = at - natural;
		const accidental = signs < 0 ? 'b'.repeat(-signs) : '#'.repeat(signs);
		const named = (note - signs - 60 - NATURAL[written % 7]) / 12 + middle;
		return {
			row,
			column,
			note: note >= 0 && note <= 127 ? note : null,
			name: `${LETTERS[written % 7]}${accidental}${named}`,
			root: step % degrees.length === 0
		};
	});
}
