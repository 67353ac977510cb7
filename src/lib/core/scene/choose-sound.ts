import { soundIn, type SlotSeen } from './follow';
import { GENERAL_MIDI } from './general-midi';
import { soundSchema, type Sound } from './set';
import type { ListedSound } from './setup';

/** A sound that can be chosen by its name. */
export interface SoundChoice {
	/** What is typed or picked. */
	title: string;
	sound: Sound;
}

/**
 * Sounds of an instrument's drawers that program changes select, those of its list of names, and, where it has neither, the
 * names of General MIDI.
 */
export function soundChoices(slots: readonly SlotSeen[], listed: readonly ListedSound[] = []): SoundChoice[] {
	const kept = slots.flatMap((slot): SoundChoice[] => {
		const sound = soundIn(slot);
		return sound ? [{ title: `${sound.name} · ${slot.label}`, sound }] : [];
	});
	const named = listed.map((sound) => ({
		title: `${sound.name} · ${[sound.msb, sound.lsb].filter((half) => half !== null).join('/')}${sound.msb === null && sound.lsb === null ? '' : ' '}program ${sound.program}, from 0`,
		sound: soundSchema.parse({ ...sound, from: 'list' })
	}));
	return kept.length + named.length > 0
		? [...kept, ...named]
		: GENERAL_MIDI.map((name, program) => ({
				title: name,
				sound: soundSchema.parse({ name, program, from: 'general midi' })
			}));
}

const folded = (text: string) => text.trim().toLowerCase();

/**
 * The sound that is meant by a text: one of the choices by its title, or by a name that only one of them has; else the name is
 * what a musician calls the numbers that stand there already. Nothing for an empty text.
 */
export function soundMeant(text: string, choices: readonly SoundChoice[], now: Sound | null): Sound | null {
	const name = text.trim();
	if (name === '') return null;
	const titled = choices.find(({ title }) => folded(title) === folded(name));
	if (titled) return titled.sound;
	const named = choices.filter(({ sound }) => folded(sound.name) === folded(name));
	if (named.length === 1) return named[0].sound;
	const { msb, lsb, program } = now ?? { msb: null, lsb: null, program: 0 };
	return soundSchema.parse({ name: name.slice(0, 60), msb, lsb, program });
}

/** The sound with other numbers: whatever it was called, nobody has shown that these play it. */
export const soundNumbered = (
	now: Sound | null,
	numbers: Partial<Pick<Sound, 'msb' | 'lsb' | 'program'>>
): Sound => {
	const { name, msb, lsb, program } = now ?? { name: '', msb: null, lsb: null, program: 0 };
	const next = { msb, lsb, program, ...numbers };
	return soundSchema.parse({ ...next, name: name || `Program ${next.program}` });
};

/**
 * The sound that a key picks, by its number: of the choices that one in the bank that stands there, else the first with that
 * program, else the program as a number.
 */
export function soundOnKey(key: number, choices: readonly SoundChoice[], now: Sound | null): Sound {
	const there = choices.filter(({ sound }) => sound.program === key);
	const same = there.find(
		({ sound }) => sound.msb === (now?.msb ?? null) && sound.lsb === (now?.lsb ?? null)
	);
	return (same ?? there[0])?.sound ?? soundNumbered(now && { ...now, name: '' }, { program: key });
}
