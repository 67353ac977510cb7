import { rigDeviceSchema, type Rig, type RigDevice } from '../rig';

/** Gear that is only supposed to be there, to see what a plan would make of it. */
export type Supposed =
	| { kind: 'interface'; outs: number }
	| { kind: 'thru box' }
	| { kind: 'instrument'; name: string; parts: number; bytesPerSecond: number; tight: boolean };

/** What a supposition is called in a list. */
export const supposedName = (supposed: Supposed): string =>
	supposed.kind === 'interface'
		? `an interface with ${supposed.outs} outs`
		: supposed.kind === 'thru box'
			? 'a thru box (1 in, 4 outs)'
			: supposed.name;

function deviceOf(supposed: Supposed, id: string): RigDevice {
	const port = (name: string, direction: 'in' | 'out' | 'thru') => ({
		id: `${id}:${name.toLowerCase().replace(' ', '-')}`,
		name,
		direction,
		connector: 'din' as const
	});
	const many = (count: number, word: string, direction: 'in' | 'out') =>
		Array.from({ length: count }, (_, i) => port(`${word} ${i + 1}`, direction));
	if (supposed.kind === 'interface')
		return rigDeviceSchema.parse({
			id,
			name: `Another interface`,
			kind: 'interface',
			ports: [...many(supposed.outs, 'Out', 'out'), ...many(supposed.outs, 'In', 'in')]
		});
	if (supposed.kind === 'thru box')
		return rigDeviceSchema.parse({
			id,
			name: 'Another thru box',
			kind: 'thru box',
			ports: [port('In', 'in'), ...many(4, 'Out', 'out')]
		});
	const { name, parts, bytesPerSecond, tight } = supposed;
	return rigDeviceSchema.parse({
		id,
		name,
		kind: 'sound module',
		ports: [port('In', 'in'), port('Out', 'out'), port('Thru', 'thru')],
		receive: { parts },
		wants: { bytesPerSecond, tight }
	});
}

/** The rig with more gear in it; nothing is stored. */
export const suppose = (rig: Rig, more: readonly Supposed[]): Rig => ({
	...rig,
	devices: [...rig.devices, ...more.map((supposed, i) => deviceOf(supposed, `supposed-${i + 1}`))]
});
