import { faultSchema, type FaultKind } from '../bench';

/** Every fault of the bench, in each direction and once or always. */
export const KINDS: Record<FaultKind, object[]> = {
	'lose bytes': [{ share: 0.002 }, { share: 0.002, way: 'to device' }, { share: 0.0005 }],
	'flip bits': [{ share: 0.002 }, { share: 0.002, way: 'to device' }, { share: 0.0005 }],
	truncate: [
		{ afterBytes: 90 },
		{ afterBytes: 90, times: 1 },
		{ afterBytes: 40, way: 'to device' },
		{ afterBytes: 40, way: 'to device', times: 1 }
	],
	'drop long messages': [{ longerThan: 64 }, { longerThan: 64, way: 'to device' }],
	unplug: [
		{ afterBytes: 300, forMs: 1500 },
		{ afterBytes: 300, forMs: 120_000 },
		{ afterBytes: 120, forMs: 1500, way: 'to device' },
		{ afterBytes: 120, forMs: 120_000, way: 'to device' }
	],
	'power cut': [{ afterBytes: 40 }, { way: 'from device', afterBytes: 900 }],
	'slow memory': [{ factor: 50 }, { factor: 1000 }],
	'wrong device ID': [{ add: 1 }],
	'slow answers': [{ addMs: 300 }, { addMs: 9000 }],
	'active sensing': [{}],
	clock: [{ bpm: 120 }, { bpm: 300 }]
};

export const faultCases = Object.entries(KINDS).flatMap(([kind, forms]) =>
	forms.map((form) => [kind as FaultKind, faultSchema.parse({ kind, ...form })] as const)
);
