import type { ShapeId } from './questions';

/** A page out of the manual of a simulated instrument, and what a musician types who has it in hand. */
export interface ManualPage {
	/** The simulated model, which speaks by code of its own. */
	unit: string;
	page: string;
	shape: ShapeId;
	/** What is typed; everything else is left as it stands. */
	typed: Record<string, string>;
	/** A value that the page describes, by its name. */
	turns: string;
}

export const MANUAL_PAGES: ManualPage[] = [
	{
		unit: 'averill-sconce',
		shape: 'by-slot',
		page: `AVERILL SCONCE, system 1 · MIDI implementation
Identity reply ........ 7D, family 72 00, member 01 00
Device ID ............. 0 to 15
Programs .............. P01 to P32
Program request ....... F0 7D 72 dev 01 prog F7
Program ............... F0 7D 72 dev 11 prog (40 bytes) chk F7
  Each of the 20 bytes of a program goes out in two, the low half first.
  chk: all of the 40 bytes, exclusive-or.
Program memory ........ 0–7 name; 8 wave (saw, square, pulse, noise, vox); 9 cutoff 0–127; 10 resonance 0–127
Write lock ............ Utility, last page. Writing takes 12 ms.`,
		typed: {
			maker: 'Averill',
			model: 'Sconce by hand',
			identity: '7D, 72 00, 01 00',
			slots: '32',
			request: 'F0 7D 72 <device> 01 <slot> F7',
			dump: 'F0 7D 72 <device> 11 <slot> <data> <sum> F7',
			size: '20',
			packing: 'nibbles-low-first',
			checksum: 'xor-7',
			name: '0, 8',
			parameters: '8: Wave: Saw, Square, Pulse, Noise, Vox\n9: Cutoff: 0-127\n10: Resonance: 0-127',
			must: 'The write lock is off (Utility, last page).'
		},
		turns: 'Cutoff'
	},
	{
		unit: 'harbeck-cairn',
		shape: 'addressed',
		page: `HARBECK CAIRN · Exclusive data
Identity reply ........ 7D, family 4C 00, member 01 00
Unit number ........... 16 (10h), 0 to 31
Data request .......... F0 7D 4C unit 11 aa aa aa ss ss ss sum F7
Data .................. F0 7D 4C unit 12 aa aa aa … sum F7   (128 bytes at most)
  sum: what makes address, size and data up to nought in seven bits.
Tones ................. 64, from 20 00 00 on, every 00 08 00
  Common 00 00, 64 bytes; layers 1–4 at 01 00, 02 00, 03 00, 04 00, 96 bytes each; effects 05 00, 40 bytes
  Common: 0–15 name.
Protect ............... System, Memory`,
		typed: {
			maker: 'Harbeck',
			model: 'Cairn by hand',
			identity: '7D, 4C 00, 01 00',
			deviceIds: '16-31',
			base: '20 00 00',
			stride: '00 08 00',
			sections: 'Common: 64: at 00 00\nLayer: 96 x4: at 01 00 every 01 00\nEffects: 40: at 05 00',
			request: 'F0 7D 4C <device> 11 [ <address 3> <size 3> ] <sum> F7',
			dump: 'F0 7D 4C <device> 12 [ <address 3> <data> ] <sum> F7',
			name: '0, 16',
			parameters: '64: Layer 1, first byte: 0-127',
			must: 'Protect is off (System, Memory).'
		},
		turns: 'Layer 1, first byte'
	},
	{
		unit: 'merrow-skiff',
		shape: 'edit-buffer',
		page: `MERROW SKIFF · What it sends and takes
Identity reply ........ 7D, family 59 00, member 01 00
Edit buffer request ... F0 7D 59 dev 01 F7
Edit buffer ........... F0 7D 59 dev 02 (56 bytes as nibbles, low first) chk F7
  chk: 55h and all nibbles, exclusive-or.
Store edit buffer ..... F0 7D 59 dev 03 program F7     program 0–63, takes 60 ms
Programs .............. two banks of 32; bank select MSB 0 and 1, program change 0–31
  0–7 name
Memory protect ........ Global, page 1`,
		typed: {
			maker: 'Merrow',
			model: 'Skiff by hand',
			identity: '7D, 59 00, 01 00',
			perBank: '32',
			request: 'F0 7D 59 <device> 01 F7',
			dump: 'F0 7D 59 <device> 02 <data> <sum> F7',
			size: '56',
			packing: 'nibbles-low-first',
			checksum: 'xor-7',
			sumStart: '85',
			store: 'F0 7D 59 <device> 03 <slot> F7',
			parameters: '9: Byte 9: 0-127',
			rest: '60',
			must: 'Memory protect is off (Global, page 1).'
		},
		turns: 'Byte 9'
	},
	{
		unit: 'ostler-fathom',
		shape: 'several',
		page: `OSTLER FATHOM · Bulk data
Identity reply ........ 7D, family 2E 00, member 01 00
Kit request ........... F0 7D 2E dev 20 kit F7          kits 0–31, shown as 01–32
Common ................ F0 7D 2E dev 21 kit nl nh … chk F7      32 bytes
Voice 1–8 ............. F0 7D 2E dev 30+voice kit nl nh … chk F7     40 bytes each
Key map ............... F0 7D 2E dev 23 kit nl nh … chk F7      48 bytes
  nl nh: how many bytes of data follow. Data: seven bytes as eight, the tops first, the first one highest.
  chk: CRC-16 (1021h, from FFFFh) of the data before that, in four nibbles.
Kit lock .............. Setup, page 1`,
		typed: {
			maker: 'Ostler',
			model: 'Fathom by hand',
			identity: '7D, 2E 00, 01 00',
			slots: '32',
			request: 'F0 7D 2E <device> 20 <slot> F7',
			sections:
				'Common: 32: F0 7D 2E <device> 21 <slot> <count 2 low> <data> <sum> F7\nVoice: 40 x8: F0 7D 2E <device> <30+part> <slot> <count 2 low> <data> <sum> F7\nKey map: 48: F0 7D 2E <device> 23 <slot> <count 2 low> <data> <sum> F7',
			packing: '7in8-first-high',
			checksum: 'crc-16',
			sumOver: 'memory',
			name: '',
			parameters: '33: Voice 1, second byte: 0-127',
			must: 'Kit lock is off (Setup, page 1).'
		},
		turns: 'Voice 1, second byte'
	},
	{
		unit: 'quillon-nadir',
		shape: 'panel',
		page: `QUILLON NADIR · Dumping the memory
Press DUMP ALL KITS. Six messages of eight kits each follow:
  F0 7D 47 02 dev group (878 bytes) chk F7      group 0–5; chk: sum of the data in seven bits
  Eight kits of 96 bytes, seven bytes as eight, the tops last, the first one highest.
  0–7 name
The same messages are taken where EXCLUSIVE is on and MEMORY PROTECT is off. Wait 160 ms between them.
It answers no identity request.`,
		typed: {
			maker: 'Quillon',
			model: 'Nadir by hand',
			kind: 'drum machine',
			slots: '48',
			instruction: 'On the Nadir press DUMP ALL KITS.',
			dump: 'F0 7D 47 02 <device> <slot> <data> <sum> F7',
			size: '96',
			together: '8',
			packing: '7in8-last-high',
			checksum: 'sum-7',
			parameters: '9: Byte 9: 0-127',
			rest: '160',
			must: 'EXCLUSIVE is on and MEMORY PROTECT is off.'
		},
		turns: 'Byte 9'
	},
	{
		unit: 'corrie-sallow',
		shape: 'told',
		page: `CORRIE SALLOW · Controllers
It keeps nothing that can be dumped. SEND PANEL, or controller 111 with value 127, has it send its panel:
  14 attack, 15 decay, 16 sustain, 17 release, 70 brightness, 71 emphasis, 72 ensemble depth, 73 ensemble rate,
  74 cutoff, 75 bass level, 76 violas level, 77 cellos level: 0–127
  NRPN 1/20 tune, 1/21 detune, 1/22 glide, 1/23 sweep depth: 0–16383
  Bank select 0–3 (plain, doubled, octaves, muted), program change 0–7: registration
It takes the same where CONTROLLERS IN is on. Where its sliders stand it does not tell until they are moved.`,
		typed: {
			maker: 'Corrie',
			model: 'Sallow by hand',
			kind: 'string machine',
			deviceIds: '',
			told: [
				...['Attack', 'Decay', 'Sustain', 'Release'].map((name, i) => `cc ${14 + i}: ${name}: 0-127`),
				...[
					'Brightness',
					'Emphasis',
					'Ensemble depth',
					'Ensemble rate',
					'Cutoff',
					'Bass level',
					'Violas level',
					'Cellos level'
				].map((name, i) => `cc ${70 + i}: ${name}: 0-127`),
				...['Tune', 'Detune', 'Glide', 'Sweep depth'].map((name, i) => `nrpn 1 ${20 + i}: ${name}: 0-16383`),
				'bank: Registration bank: Plain, Doubled, Octaves, Muted',
				'program: Registration: 0-7'
			].join('\n'),
			ask: '<controller> 6F 7F',
			untold: 'Where its sliders stand until they are moved.',
			must: 'Controllers in is on (Panel, MIDI).'
		},
		turns: 'Cutoff'
	}
];
