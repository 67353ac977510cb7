import { toHex } from '../midi';
import { Problem } from '../problem';
import { isDescribed, parseProfile, type Profile } from '../profile';
import { isModel } from '../transfer';
import { uniqueId } from '../unique-id';
import type { Description } from './describe';
import { stateLinked } from './lists';
import type { DeviceInfo, ProgramList } from './resources';

/** Bytes of a state where the instrument does not say how many it has. */
const UNSAID_ROOM = 4096;
/** Rooms in steps, so that a state that grows by a few bytes finds room. */
const STEP = 64;
const MOST_ROOM = 60_000;
const MOST_SLOTS = 1024;

/** The ID of a maker as identity replies have it: those of one byte travel with two that are nothing. */
const makerId = ({ manufacturerId }: DeviceInfo): number[] =>
	manufacturerId[0] === 0 ? manufacturerId : manufacturerId.slice(0, 1);

const spaced = (bytes: readonly number[]) => toHex(Uint8Array.from(bytes), ' ').toUpperCase();
const clipped = (text: string, otherwise: string, most: number) => text.trim().slice(0, most) || otherwise;

function roomFor(sizes: readonly (number | undefined)[]): number {
	const known = sizes.map((size) => size ?? UNSAID_ROOM);
	return Math.min(MOST_ROOM, Math.max(STEP, Math.ceil(Math.max(...known) / STEP) * STEP));
}

/** How programs are called up: a bank select where it says one, and program changes that count up. */
function recallOf(
	programs: ProgramList
): { from: number; program: number; msb: number; lsb: number }[] | undefined {
	const banks: { from: number; program: number; msb: number; lsb: number }[] = [];
	for (const [slot, { bankPC }] of programs.entries()) {
		if (!bankPC) return undefined;
		const [msb, lsb, program] = bankPC;
		const last = banks.at(-1);
		const goesOn =
			last && last.msb === msb && last.lsb === lsb && last.program + slot - last.from === program;
		if (!goesOn) banks.push({ from: slot, program, msb, lsb });
	}
	return banks.length > 0 ? banks : undefined;
}

/**
 * The profile of an instrument that described itself: its programs, where its list leads to their states, and whatever other
 * states it has.
 * @param taken ids of profiles that there are
 * @param answersIdentity whether it answers an identity request
 * @param before the states that were known, in their order: they keep it, whatever the lists say now
 * @throws Problem `ci.too-much` where it has more than an area can hold
 */
export function profileOf(
	{ info, states, programs, encoding, takes }: Description,
	taken: readonly string[],
	answersIdentity: boolean,
	before: readonly string[] = []
): Profile {
	const rank = new Map(before.map((id, i) => [id, i]));
	const inOrder = <T>(list: readonly T[], idOf: (entry: T) => string): T[] =>
		list.toSorted((a, b) => (rank.get(idOf(a)) ?? before.length) - (rank.get(idOf(b)) ?? before.length));
	const sizeOf = new Map(states.map(({ stateId, size }) => [stateId, size]));
	const listed = inOrder(
		(programs?.list ?? []).filter((program) => {
			const state = stateLinked(program);
			return state !== undefined && sizeOf.has(state);
		}),
		(program) => stateLinked(program)!
	);
	const ofPrograms = [...new Set(listed.map((program) => stateLinked(program)!))];
	const others = inOrder(
		states.map(({ stateId }) => stateId).filter((id) => !ofPrograms.includes(id)),
		(id) => id
	);
	// Two programs with one state are one slot, and which of them is called up is not said.
	const recall = ofPrograms.length === listed.length ? recallOf(listed) : undefined;
	const tooMany = [ofPrograms, others].find((list) => list.length > MOST_SLOTS);
	const tooLarge = states.find(({ size = 0 }) => size > MOST_ROOM);
	if (tooMany || tooLarge)
		throw new Problem(
			'ci.too-much',
			tooMany
				? `It has ${tooMany.length} states; ${MOST_SLOTS} are the most.`
				: `Its state “${tooLarge!.title}” has ${tooLarge!.size} bytes; ${MOST_ROOM} are the most.`,
			'Keep it as a raw dump.'
		);
	const described = (list: readonly string[], titles: unknown) => ({
		states: list,
		room: roomFor(list.map((id) => sizeOf.get(id))),
		titles,
		encoding,
		...(takes ? {} : { takes: false })
	});
	const maker = clipped(info.manufacturer, 'Unnamed maker', 60);
	const model = clipped(info.model, 'Unnamed model', 60);
	return parseProfile({
		format: 'silent-drawer.profile',
		version: 2,
		id: uniqueId(`self ${maker} ${model}`, new Set(taken), 'self'),
		revision: 1,
		maker,
		model,
		kind: clipped(info.family, 'instrument', 40),
		remarks: `Written from what the instrument said of itself (MIDI-CI), version ${info.version}.`.slice(
			0,
			2000
		),
		identity: {
			manufacturer: spaced(makerId(info)),
			family: spaced(info.familyId),
			member: spaced(info.modelId),
			answers: answersIdentity
		},
		addressing: {},
		areas: [
			...(ofPrograms.length > 0
				? [
						{
							id: 'programs',
							name: 'Programs',
							slotWord: 'program',
							slots: ofPrograms.length,
							labels: { style: 'number', first: 1, digits: String(ofPrograms.length).length },
							record: 'program',
							...(recall ? { recall } : {}),
							described: described(ofPrograms, programs!.resId === null ? {} : { programs: programs!.resId })
						}
					]
				: []),
			...(others.length > 0
				? [
						{
							id: 'states',
							name: ofPrograms.length > 0 ? 'Other states' : 'States',
							slotWord: 'state',
							slots: others.length,
							labels: { style: 'number', first: 1, digits: String(others.length).length },
							record: 'state',
							described: described(others, 'StateList')
						}
					]
				: [])
		],
		records: {},
		messages: {},
		preflight: {}
	});
}

/** What an instrument says of its areas, rooms aside: those only grow. */
const wordsOf = ({ maker, model, kind, remarks, areas }: Profile): string =>
	JSON.stringify([
		maker,
		model,
		kind,
		remarks,
		areas.map((area) => [
			area.id,
			isDescribed(area) && [
				area.described.states,
				area.described.titles,
				area.described.encoding,
				area.described.takes
			],
			area.recall?.map(({ from, program, msb, lsb }) => [from, program, msb, lsb])
		])
	]);

const roomsOf = ({ areas }: Profile): Map<string, number> =>
	new Map(areas.flatMap((area) => (isDescribed(area) ? [[area.id, area.described.room] as const] : [])));

/**
 * The profile of an instrument that described itself once more.
 * @returns null where it says nothing else than before
 * @throws Problem `ci.none` where it is another model; as {@link profileOf}
 */
export function renewed(known: Profile, description: Description): Profile | null {
	const { info } = description;
	const isThat = isModel(known, {
		manufacturer: Uint8Array.from(makerId(info)),
		family: Uint8Array.from(info.familyId),
		member: Uint8Array.from(info.modelId)
	});
	if (!isThat)
		throw new Problem(
			'ci.none',
			`What answered calls itself a ${info.model}.`,
			'Is the right instrument plugged in?'
		);
	const before = known.areas.flatMap((area) => (isDescribed(area) ? area.described.states : []));
	const fresh = profileOf(description, [], known.identity.answers, before);
	const rooms = roomsOf(known);
	const grown = [...roomsOf(fresh)].some(([area, room]) => room > (rooms.get(area) ?? 0));
	return grown || wordsOf(fresh) !== wordsOf(known)
		? { ...fresh, id: known.id, revision: known.revision }
		: null;
}

/** Whether a slot of a renewed profile is another state than before: what was known of it is of the other one. */
export const slotsMoved = (known: Profile, fresh: Profile): boolean =>
	known.areas.some((area) => {
		if (!isDescribed(area)) return false;
		const now = fresh.areas.find(({ id }) => id === area.id)?.described?.states ?? [];
		return area.described.states.some((state, slot) => now[slot] !== state);
	});
