import type { DumpFile, FileMessage } from '../sysex';
import { finished, Pace, type Steps } from '../steps';
import { isMatch, matchMessage } from './match';
import { messagesOf } from './parcels';
import type { Profile } from './schema';
import { isTold } from './told';

/**
 * The state of a told area in a row of statements: every one of its values, once, on one channel, in their order. Null where
 * one is missing, or where one comes again: a song that turns a knob is no state.
 */
function* stateIn(
	profile: Profile,
	ids: readonly string[],
	statements: readonly FileMessage[]
): Steps<FileMessage[] | null> {
	const byChannel = new Map<number, Map<string, FileMessage>>();
	/** Channels on which one came again. */
	const over = new Set<number>();
	const pace = new Pace();
	for (const statement of statements) {
		if (pace.due()) yield;
		if (over.has(statement.bytes[0] & 15)) continue;
		for (const id of ids) {
			const match = matchMessage(profile, id, statement.bytes);
			if (!isMatch(match)) continue;
			const channel = (match.variables.channel ?? 1) - 1;
			const own = byChannel.get(channel) ?? new Map<string, FileMessage>();
			if (own.has(id)) over.add(channel);
			byChannel.set(channel, own.set(id, statement));
		}
	}
	const whole = [...byChannel].filter(([channel, own]) => own.size === ids.length && !over.has(channel));
	return whole.length === 1 ? [...whole[0][1].values()] : null;
}

/** A file with the states that it holds of instruments that tell them value by value, of these profiles. */
export const withToldStates = (file: DumpFile, profiles: readonly Profile[]): DumpFile =>
	finished(lookingForTold(file, profiles));

/** The same with pauses. */
export function* lookingForTold(file: DumpFile, profiles: readonly Profile[]): Steps<DumpFile> {
	if (file.statements.length === 0) return file;
	const states: FileMessage[] = [];
	for (const profile of profiles)
		for (const { id } of profile.areas.filter(isTold)) {
			const way = profile.capture.find(({ area }) => area === id);
			if (way) states.push(...((yield* stateIn(profile, messagesOf(way.expect), file.statements)) ?? []));
		}
	if (states.length === 0) return file;
	const all = new Set([...file.messages, ...states]);
	return { ...file, messages: [...all].sort((a, b) => a.offset - b.offset) };
}
