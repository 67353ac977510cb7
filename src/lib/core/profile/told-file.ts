import type { DumpFile, FileMessage } from '../sysex';
import { isMatch, matchMessage } from './match';
import { messagesOf } from './parcels';
import type { Profile } from './schema';
import { isTold } from './told';

/**
 * The state of a told area in a row of statements: every one of its values, once, on one channel, in their order. Null where
 * one is missing, or where one comes again: a song that turns a knob is no state.
 */
function stateIn(
	profile: Profile,
	ids: readonly string[],
	statements: readonly FileMessage[]
): FileMessage[] | null {
	const byChannel = new Map<number, Map<string, FileMessage[]>>();
	for (const statement of statements)
		for (const id of ids) {
			const match = matchMessage(profile, id, statement.bytes);
			if (!isMatch(match)) continue;
			const channel = match.variables.channel ?? 0;
			const own = byChannel.get(channel) ?? new Map<string, FileMessage[]>();
			byChannel.set(channel, own.set(id, [...(own.get(id) ?? []), statement]));
		}
	const whole = [...byChannel.values()].filter(
		(own) => own.size === ids.length && [...own.values()].every((found) => found.length === 1)
	);
	return whole.length === 1 ? [...whole[0].values()].flat() : null;
}

/** A file with the states that it holds of instruments that tell them value by value, of these profiles. */
export function withToldStates(file: DumpFile, profiles: readonly Profile[]): DumpFile {
	if (file.statements.length === 0) return file;
	const states = profiles.flatMap((profile) =>
		profile.areas.filter(isTold).flatMap(({ id }) => {
			const way = profile.capture.find(({ area }) => area === id);
			return (way && stateIn(profile, messagesOf(way.expect), file.statements)) ?? [];
		})
	);
	if (states.length === 0) return file;
	const all = new Set([...file.messages, ...states]);
	return { ...file, messages: [...all].sort((a, b) => a.offset - b.offset) };
}
