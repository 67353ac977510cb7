import { Problem } from '../problem';
import {
	checksumFor,
	isCarrier,
	memoryLength,
	packMemory,
	packetSize,
	wireLength,
	type Variables
} from './carrier';
import { STATUS_CHANNEL, STATUS_OF, layoutOf, startsOf, type Layout } from './layout';
import type { PartOf, Profile } from './schema';
import { largestNumber, numberBytes } from './wire-number';

/** How a message carries a variable. */
type Spec = Pick<PartOf<'variable'>, 'variable' | 'add' | 'divide' | 'modulo'>;

/** What stands on the wire for a value. */
export function wireValue({ variable, add, divide, modulo }: Spec, value: number): number {
	const own = variable === 'channel' ? value - 1 : value;
	return Math.floor((modulo === undefined ? own : own % modulo) / divide) + add;
}

function wireOf(spec: Spec, variables: Variables, largest: number): number {
	const value = variables[spec.variable];
	if (value === undefined)
		throw new Problem('message.variable', `The message needs a ${spec.variable}.`, 'Say which one.');
	const wire = wireValue(spec, value);
	if (wire < 0 || wire > largest)
		throw new Problem(
			'message.variable',
			`${spec.variable} ${value} does not fit in the message.`,
			'Choose a smaller one.'
		);
	return wire;
}

function bitsByte({ fields }: PartOf<'bits'>, variables: Variables): number {
	let byte = 0;
	for (const field of fields)
		byte =
			(byte << field.bits) |
			('variable' in field ? wireOf(field, variables, 2 ** field.bits - 1) : field.value);
	return byte;
}

/** From the first byte of one part to the last of another, by their names. */
export function rangeOf(
	{ parts }: Layout,
	starts: readonly number[],
	lengths: readonly number[],
	{ from, to }: { from?: string; to?: string }
): [number, number] {
	const first = parts.findIndex(({ part }) => part.name !== undefined && part.name === from);
	const last = parts.findIndex(({ part }) => part.name !== undefined && part.name === to);
	return [starts[first], starts[last] + lengths[last]];
}

/** What a count says of a message that holds so much. */
export function countedIn(
	part: PartOf<'count'>,
	layout: Layout,
	{ starts, lengths }: { starts: readonly number[]; lengths: readonly number[] },
	memoryBytes: number
): number {
	if (part.of === 'memory') return memoryBytes + part.add;
	if (part.of === 'records') return memoryBytes / layout.carrier!.recordSize + part.add;
	const [from, to] = rangeOf(layout, starts, lengths, part);
	return to - from + part.add;
}

/** How many bytes of memory the message takes, with these variables and slots listed; null where it takes any number. */
function expectedMemory(
	profile: Profile,
	{ carrier }: Layout,
	variables: Variables,
	contents: readonly number[]
): number | null {
	if (!carrier) return 0;
	if (carrier.part.part === 'listed') return contents.length * carrier.recordSize;
	if (carrier.part.part === 'stream') return packetSize(profile, carrier.part, variables.packet ?? 0);
	return memoryLength(profile, carrier);
}

/**
 * Builds a message.
 * @param memory the bytes of memory that it carries, records one after another
 * @param contents the slots that it lists
 * @throws Problem where a variable is missing or the memory has the wrong size
 */
export function buildMessage(
	profile: Profile,
	id: string,
	variables: Variables,
	memory: Uint8Array = new Uint8Array(),
	contents: readonly number[] = []
): Uint8Array {
	const layout = layoutOf(profile, id);
	const { carrier } = layout;
	const wanted = expectedMemory(profile, layout, variables, contents);
	if (wanted !== null && memory.length !== wanted)
		throw new Problem(
			'message.records',
			`“${layout.title}” holds ${wanted} bytes of memory, not ${memory.length}.`,
			'Give it exactly these.'
		);
	const lengths = layout.parts.map(({ part, length }) =>
		!layout.varies
			? length
			: part.part === 'contents'
				? part.width * contents.length
				: isCarrier(part)
					? wireLength(carrier!, memory.length)
					: length
	);
	const starts = startsOf(lengths);
	const out = new Uint8Array(starts.at(-1)! + lengths.at(-1)!);
	layout.parts.forEach(({ part, fixed }, i) => {
		const start = starts[i];
		if (part.part === 'bytes') out.set(fixed!, start);
		else if (part.part === 'variable')
			out.set(numberBytes(wireOf(part, variables, largestNumber(part)), part), start);
		else if (part.part === 'status')
			out[start] = (STATUS_OF[part.of] << 4) | wireOf(STATUS_CHANNEL, variables, 15);
		else if (part.part === 'bits') out[start] = bitsByte(part, variables);
		else if (part.part === 'contents')
			out.set(
				contents.flatMap((slot) => numberBytes(slot + part.add, part)),
				start
			);
		else if (isCarrier(part)) out.set(packMemory(carrier!, memory), start);
	});
	const spread = { starts, lengths };
	layout.parts.forEach(({ part }, i) => {
		if (part.part !== 'count') return;
		const counted = countedIn(part, layout, spread, memory.length);
		if (counted < 0 || counted > largestNumber(part))
			throw new Problem(
				'message.variable',
				`“${layout.title}” cannot say that it holds ${counted}.`,
				'Send less in one message.'
			);
		out.set(numberBytes(counted, part), starts[i]);
	});
	layout.parts.forEach(({ part }, i) => {
		if (part.part !== 'checksum') return;
		const covered = part.over === 'memory' ? memory : out.subarray(...rangeOf(layout, starts, lengths, part));
		out.set(checksumFor(part.checksum).of(covered), starts[i]);
	});
	return out;
}
