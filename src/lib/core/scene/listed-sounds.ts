import type { NameDocument } from '../drawer';
import type { ListedSound } from './setup';

const selects = (value: number | null): boolean =>
	value !== null && Number.isInteger(value) && value >= 0 && value <= 127;

/**
 * The sounds that a name document lists, each once, with what selects it. Left out, and counted, is what has no name or no
 * program change.
 */
export function soundsListed({ banks }: Pick<NameDocument, 'banks'>): {
	sounds: ListedSound[];
	left: number;
} {
	const sounds = new Map<string, ListedSound>();
	let left = 0;
	for (const { bankSelect, patches } of banks) {
		const half = (value: number | null | undefined) => (selects(value ?? null) ? value! : null);
		const [msb, lsb] = [half(bankSelect?.high), half(bankSelect?.low)];
		for (const { name, programChange } of patches) {
			const called = name.trim().slice(0, 60);
			if (called === '' || !selects(programChange)) left++;
			else {
				const sound = { name: called, msb, lsb, program: programChange! };
				sounds.set(JSON.stringify(sound), sound);
			}
		}
	}
	return { sounds: [...sounds.values()], left };
}
