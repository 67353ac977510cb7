/** What a new profile begins with: the smallest one that is valid. */
export const PROFILE_TEMPLATE = {
	format: 'silent-drawer.profile',
	version: 1,
	id: 'maker-model',
	revision: 1,
	maker: 'Maker',
	model: 'Model',
	kind: 'synthesiser',
	identity: { manufacturer: '7D', family: '00 00', member: '00 00', answers: false },
	addressing: { deviceId: { range: [0, 15], default: 0 } },
	areas: [{ id: 'programs', name: 'Programs', slots: 64, record: 'program' }],
	records: { program: { size: 32, name: { offset: 0, length: 8 }, parameters: [] } },
	messages: {
		'program-dump': {
			title: 'Program dump',
			parts: [
				{ part: 'bytes', bytes: 'F0 7D 00' },
				{ part: 'variable', variable: 'deviceId' },
				{ part: 'variable', variable: 'slot', name: 'slot' },
				{ part: 'body', name: 'data', area: 'programs', records: 1, packing: 'plain' },
				{ part: 'checksum', checksum: 'negated-sum-7', from: 'data', to: 'data' },
				{ part: 'bytes', bytes: 'F7' }
			]
		}
	},
	capture: [],
	restore: [{ area: 'programs', send: 'program-dump', gapMs: 50 }],
	preflight: { capture: [], restore: [] }
};
