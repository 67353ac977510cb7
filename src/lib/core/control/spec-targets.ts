import { targetListSchema, type TargetList } from '../profile';

/** Controllers by the names of MIDI 1.0 (tables III and IIIa, with CA-022 and CA-023 for 70–79 and 91–95). */
const CONTROLLERS: readonly (readonly [number, string, object?])[] = [
	[1, 'Modulation wheel'],
	[2, 'Breath controller'],
	[4, 'Foot controller'],
	[5, 'Portamento time'],
	[7, 'Channel volume'],
	[8, 'Balance'],
	[10, 'Pan'],
	[11, 'Expression controller'],
	[12, 'Effect control 1'],
	[13, 'Effect control 2'],
	[16, 'General purpose controller 1'],
	[17, 'General purpose controller 2'],
	[18, 'General purpose controller 3'],
	[19, 'General purpose controller 4'],
	[64, 'Damper pedal', { switch: true, held: true }],
	[65, 'Portamento on/off', { switch: true }],
	[66, 'Sostenuto', { switch: true, held: true }],
	[67, 'Soft pedal', { switch: true, held: true }],
	[68, 'Legato footswitch', { switch: true }],
	[69, 'Hold 2', { switch: true, held: true }],
	[70, 'Sound variation'],
	[71, 'Timbre/harmonic intensity'],
	[72, 'Release time'],
	[73, 'Attack time'],
	[74, 'Brightness'],
	[75, 'Decay time'],
	[76, 'Vibrato rate'],
	[77, 'Vibrato depth'],
	[78, 'Vibrato delay'],
	[84, 'Portamento control'],
	[91, 'Reverb send level'],
	[92, 'Tremolo depth'],
	[93, 'Chorus send level'],
	[94, 'Celeste depth'],
	[95, 'Phaser depth']
];

/** What every device may be told by the specification's own names; which of it one listens to, its manual says. */
export const SPEC_TARGETS: TargetList = targetListSchema.parse({
	format: 'silent-drawer.targets',
	version: 1,
	id: 'midi',
	name: 'MIDI 1.0',
	targets: [
		...CONTROLLERS.map(([number, name, more]) => ({
			id: `cc-${number}`,
			name,
			address: { kind: 'cc', number },
			...more
		})),
		{ id: 'pitch-bend', name: 'Pitch bend', address: { kind: 'pitch-bend' }, high: 16383, default: 8192 },
		{ id: 'channel-pressure', name: 'Channel pressure', address: { kind: 'channel-pressure' } },
		{ id: 'program-change', name: 'Program change', address: { kind: 'program-change' } }
	]
});
