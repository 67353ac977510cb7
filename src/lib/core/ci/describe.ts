import type { Conversation } from '../transfer';
import { readResource, stateLinked } from './lists';
import {
	channelListSchema,
	deviceInfoSchema,
	programListSchema,
	resourceListSchema,
	stateListSchema,
	type DeviceInfo,
	type ProgramList,
	type StateList
} from './resources';
import type { Encoding } from './body';
import { CiTalk, Damaged, Interrupted, Refused, type Peer } from './talk';
import { speaksProperties } from './message';

/** What an instrument says of itself, as far as its states need it. */
export interface Description {
	info: DeviceInfo;
	states: StateList;
	/** Its list of programs, by its id where it has one. */
	programs: { resId: string | null; list: ProgramList } | null;
	/** How a state is best sent. */
	encoding: Extract<Encoding, 'Mcoded7' | 'zlib+Mcoded7'>;
	/** Whether it takes states: one that says nothing of it takes none. */
	takes: boolean;
}

/** What came of asking: its description, or why there is none. */
export type Described =
	| { description: Description }
	| { none: 'nobody' | 'several' | 'no properties' | 'no state' | 'interrupted' | 'refused'; says: string };

/**
 * Asks the one instrument on a line that speaks MIDI-CI to describe itself.
 * @param self which of them, where several speak
 */
export function* describe(
	random: () => number,
	self: (peer: Peer) => boolean = () => true
): Conversation<Described> {
	const talk = new CiTalk(random);
	try {
		const peers = (yield* talk.discover()).filter(self);
		const able = peers.filter(({ says }) => speaksProperties(says));
		if (peers.length === 0) return { none: 'nobody', says: 'Nothing on this line speaks MIDI-CI.' };
		if (able.length === 0)
			return { none: 'no properties', says: 'It speaks MIDI-CI, and no property exchange.' };
		if (able.length > 1)
			return { none: 'several', says: `${able.length} alike answer on this line: unplug all but one.` };
		talk.speakWith(able[0]);
		if (!(yield* talk.asksForProperties()))
			return { none: 'no properties', says: 'It speaks MIDI-CI, and no property exchange.' };
		return yield* ask(talk);
	} catch (error) {
		if (error instanceof Interrupted)
			return { none: 'interrupted', says: 'It fell silent before it had said all of itself.' };
		if (error instanceof Refused)
			return {
				none: 'refused',
				says: `It would not say all of itself${error.says ? `: ${error.says}` : ''}.`
			};
		if (error instanceof Damaged)
			return {
				none: 'interrupted',
				says: 'What it said of itself arrived damaged. Try again, or another cable.'
			};
		throw error;
	} finally {
		yield* talk.leave();
	}
}

function* ask(talk: CiTalk): Conversation<Described> {
	const resources = yield* readResource(talk, 'ResourceList', resourceListSchema);
	const has = (name: string) => resources.find(({ resource, canGet }) => resource === name && canGet);
	const state = has('State');
	if (!state || !has('StateList'))
		return { none: 'no state', says: 'It describes itself, and gives no states of its memory.' };
	const info = yield* readResource(talk, 'DeviceInfo', deviceInfoSchema);
	const states = yield* readResource(talk, 'StateList', stateListSchema);
	if (states.length === 0) return { none: 'no state', says: 'Its list of states is empty.' };
	return {
		description: {
			info,
			states,
			programs: has('ProgramList') ? yield* programs(talk, has('ChannelList') !== undefined) : null,
			encoding: state.encodings.includes('Mcoded7') ? 'Mcoded7' : 'zlib+Mcoded7',
			takes: state.canSet !== 'none'
		}
	};
}

/** The list of programs whose states can be had: the first that its channels lead to, or the one without an id. */
function* programs(talk: CiTalk, hasChannels: boolean): Conversation<Description['programs']> {
	const channels = hasChannels ? yield* readResource(talk, 'ChannelList', channelListSchema) : [];
	const linked = channels.flatMap(({ links }) =>
		links.flatMap(({ resource, resId }) => (resource === 'ProgramList' ? [resId ?? null] : []))
	);
	for (const resId of new Set(linked.length > 0 ? linked : [null])) {
		const list = yield* readResource(talk, 'ProgramList', programListSchema, resId === null ? {} : { resId });
		if (list.some((program) => stateLinked(program) !== undefined)) return { resId, list };
	}
	return null;
}
