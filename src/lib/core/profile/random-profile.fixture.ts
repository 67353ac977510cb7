import fc from 'fast-check';
import { CHECKSUM_IDS, PACKING_IDS } from '../sysex';
import { parseProfile, type Profile } from '.';

type Json = Record<string, unknown>;
interface Kind {
	area: Json;
	record: Json;
	/** Parts that carry it, with those that say which slot, part or packet it is. */
	parts: Json[];
	/** A second message that carries the rest of a record, where one cannot. */
	rest?: Json[];
}

const flag = fc.boolean();
const order = fc.option(fc.constantFrom('high-first', 'low-first'), { nil: undefined });
const hex = (byte: number) => byte.toString(16).padStart(2, '0').toUpperCase();

/** A number in a message that is large enough for anything here: two digits of seven bits, or four of four. */
const roomy = fc.tuple(order, flag, flag).map(([way, nibbles, wide]) => ({
	order: way,
	...(nibbles ? { digits: 4, width: 4 } : { width: wide ? 3 : 2 })
}));

const variable = (name: string): fc.Arbitrary<Json[]> =>
	fc.oneof(
		fc.tuple(roomy, fc.nat(40)).map(([form, add]) => [{ part: 'variable', variable: name, add, ...form }]),
		// A bank and a number within it, in two bytes or in one that they share.
		fc.tuple(fc.integer({ min: 2, max: 16 }), flag).map(([size, fixed]) => [
			{ part: 'variable', variable: name, divide: size },
			fixed
				? {
						part: 'bits',
						fields: [
							{ bits: 2, value: 1 },
							{ bits: 5, variable: name, modulo: size }
						]
					}
				: { part: 'variable', variable: name, modulo: size }
		])
	);

const rule = fc.oneof(
	fc.constantFrom(...CHECKSUM_IDS),
	fc.record({
		by: fc.constantFrom('sum', 'xor'),
		bits: fc.constantFrom(7, 8, 14),
		start: fc.nat(255),
		complement: fc.constantFrom('none', 'ones', 'twos'),
		carried: fc.constantFrom('seven-bit', 'nibbles'),
		order: fc.constantFrom('high-first', 'low-first')
	}),
	fc.record({
		by: fc.constant('crc-16'),
		bits: fc.constant(16),
		polynomial: fc.constantFrom(0x1021, 0x8005),
		start: fc.constantFrom(0, 0xffff),
		reflected: flag,
		last: fc.constantFrom(0, 0xffff)
	})
);
const packing = fc.constantFrom(...PACKING_IDS);
const eachSum = fc.option(rule, { nil: undefined });

/** Whole records, one or several in a message; those of the slots that it lists; or packets of one. */
const whole = (id: string): fc.Arbitrary<Kind> =>
	fc
		.tuple(
			fc.integer({ min: 1, max: 24 }),
			fc.integer({ min: 1, max: 4 }),
			fc.integer({ min: 1, max: 4 }),
			packing
		)
		.chain(([size, records, groups, packed]): fc.Arbitrary<Kind> => {
			const area = { id, name: id, slots: records * groups, record: id };
			const record = { size };
			return fc.oneof(
				fc.tuple(variable('slot'), eachSum).map(([slot, sum]) => ({
					area,
					record,
					parts: [...slot, { part: 'body', name: 'memory', area: id, records, packing: packed, eachSum: sum }]
				})),
				fc.tuple(roomy, eachSum).map(([form, sum]) => ({
					area,
					record,
					parts: [
						{ part: 'contents', ...form, add: 3 },
						{ part: 'listed', name: 'memory', area: id, packing: packed, eachSum: sum }
					]
				})),
				fc
					.tuple(
						variable('slot'),
						variable('packet'),
						fc.constantFrom('slot', 'area'),
						fc.integer({ min: 1, max: 16 })
					)
					.map(([slot, packet, of, bytes]) => ({
						area,
						record,
						parts: [
							...(of === 'slot' ? slot : []),
							...packet,
							{ part: 'stream', name: 'memory', area: id, of, bytes, packing: packed }
						]
					}))
			);
		});

/** A record in two messages: what is common, and several parts alike. */
const sections = (id: string): fc.Arbitrary<Kind> =>
	fc
		.tuple(
			fc.integer({ min: 1, max: 9 }),
			fc.integer({ min: 1, max: 9 }),
			fc.integer({ min: 2, max: 5 }),
			fc.integer({ min: 1, max: 6 }),
			variable('slot'),
			variable('part'),
			packing,
			flag
		)
		.map(([one, other, times, slots, slot, part, packed, together]) => ({
			area: { id, name: id, slots, record: id },
			record: {
				size: one + other * times,
				sections: [
					{ id: 'common', name: 'Common', size: one },
					{ id: 'layer', name: 'Layer', size: other, times }
				]
			},
			// What is common comes slot by slot, or of all slots in one message.
			parts: together
				? [{ part: 'column', name: 'memory', area: id, section: 'common', records: slots, packing: packed }]
				: [...slot, { part: 'section', name: 'memory', area: id, section: 'common', packing: packed }],
			rest: [
				...slot,
				...part,
				{ part: 'section', name: 'memory', area: id, section: 'layer', packing: packed }
			]
		}));

/** Memory by address, with gaps between its sections and between its slots. */
const addressed = (id: string, at: number): fc.Arbitrary<Kind> =>
	fc
		.tuple(
			fc.integer({ min: 1, max: 20 }),
			fc.integer({ min: 1, max: 20 }),
			fc.nat(9),
			fc.integer({ min: 1, max: 5 })
		)
		.chain(([one, other, gap, slots]) =>
			fc.constantFrom(...PACKING_IDS.filter((each) => !each.startsWith('pairs'))).map((packed) => ({
				area: {
					id,
					name: id,
					slots,
					record: id,
					addresses: [{ from: 0, base: `${hex(at)} 00 00`, stride: '00 01 00' }]
				},
				record: {
					size: one + other,
					sections: [
						{ id: 'one', name: 'One', size: one, address: '00 00' },
						{ id: 'other', name: 'Other', size: other, address: `00 ${hex(one + gap)}` }
					]
				},
				parts: [
					{ part: 'variable', variable: 'address', width: 3 },
					{ part: 'memory', name: 'memory', packing: packed }
				]
			}))
		);

/** What stands around it: how much there is, a checksum over some of it, and bytes that mean nothing. */
const framed = (parts: Json[], head: string): fc.Arbitrary<Json[]> =>
	fc
		.record({
			counts: fc.option(fc.tuple(fc.constantFrom('bytes', 'memory'), fc.nat(5), order), { nil: undefined }),
			sum: fc.option(fc.tuple(rule, fc.constantFrom('wire', 'memory'), flag), { nil: undefined }),
			filler: fc.option(fc.nat(127), { nil: undefined }),
			deviceId: flag
		})
		.map(({ counts, sum, filler, deviceId }) => [
			{ part: 'bytes', bytes: head },
			...(deviceId ? [{ part: 'variable', variable: 'deviceId' }] : []),
			{ part: 'bytes', name: 'from', bytes: '01' },
			...(counts
				? [
						counts[0] === 'bytes'
							? {
									part: 'count',
									of: 'bytes',
									from: 'memory',
									to: 'memory',
									width: 3,
									add: counts[1],
									order: counts[2]
								}
							: { part: 'count', of: 'memory', width: 3, add: counts[1], order: counts[2] }
					]
				: []),
			...parts,
			...(filler === undefined ? [] : [{ part: 'bytes', bytes: hex(filler) }]),
			...(sum
				? [
						{
							part: 'checksum',
							checksum: sum[0],
							over: sum[1],
							from: sum[2] ? 'from' : 'memory',
							to: 'memory'
						}
					]
				: []),
			{ part: 'bytes', bytes: 'F7' }
		]);

const CODES = [undefined, 'twos-complement', 'sign-bit', 'offset'];

/** A parameter anywhere in the record. */
const parameter = (id: string, size: number): fc.Arbitrary<Json> =>
	fc
		.tuple(fc.nat(size - 1), fc.nat(7), fc.integer({ min: 1, max: 14 }), fc.constantFrom(...CODES), order)
		.map(([offset, bit, bits, coded, way]) => {
			const fits = Math.max(1, Math.min(bits, 8 * (size - offset) - bit));
			// A sign needs a bit of its own.
			const signed = coded !== undefined && fits > 1;
			const range = !signed
				? [0, 2 ** fits - 1]
				: [-(2 ** (fits - 1)) + (coded === 'sign-bit' ? 1 : 0), 2 ** (fits - 1) - 1];
			return {
				id,
				name: id,
				offset,
				bit,
				bits: fits,
				range,
				...(signed ? { coded } : {}),
				...(way ? { order: way } : {})
			};
		});

/** A profile that nobody has written: any shape of memory, frames, counts, checksums and values that the language has. */
export const anyProfile: fc.Arbitrary<Profile> = fc
	.tuple(fc.integer({ min: 1, max: 3 }), fc.nat(126))
	.chain(([areas, model]) =>
		fc.tuple(
			fc.constant(model),
			...Array.from({ length: areas }, (_, i) =>
				fc.oneof(
					{ weight: 3, arbitrary: whole(`area-${i}`) },
					sections(`area-${i}`),
					// Two address spaces in one message cannot be told apart: one area has them.
					...(i === 0 ? [addressed(`area-${i}`, 0x20)] : [])
				)
			)
		)
	)
	.chain(([model, ...kinds]) => {
		const messages = kinds.flatMap(({ parts, rest }, i) => [
			framed(parts, `F0 7D ${hex(model)} ${hex(2 * i)}`),
			...(rest ? [framed(rest, `F0 7D ${hex(model)} ${hex(2 * i + 1)}`)] : [])
		]);
		const values = kinds.map(({ record }) =>
			fc.tuple(...Array.from({ length: 3 }, (_, i) => parameter(`p${i}`, record.size as number)))
		);
		return fc.tuple(fc.tuple(...messages), fc.tuple(...values)).map(([built, parameters]) => {
			let at = 0;
			const named = kinds.map(({ rest }) => built.slice(at, (at += rest ? 2 : 1)));
			const ids = named.map((own, i) => own.map((_, n) => `message-${i}-${n}`));
			return {
				format: 'silent-drawer.profile',
				version: 2,
				id: 'made-up',
				revision: 1,
				maker: 'Nobody',
				model: `Model ${model}`,
				kind: 'instrument',
				identity: { manufacturer: '7D', family: '01 00', member: '01 00', answers: false },
				addressing: { deviceId: { range: [0, 15], default: 0 } },
				areas: kinds.map(({ area }) => area),
				records: Object.fromEntries(
					kinds.map(({ area, record }, i) => [area.id, { ...record, parameters: parameters[i] }])
				),
				messages: Object.fromEntries(
					named.flatMap((own, i) => own.map((parts, n) => [ids[i][n], { title: ids[i][n], parts }]))
				),
				capture: kinds.map(({ area }, i) => ({
					area: area.id,
					start: { by: 'panel', instruction: 'Send all.' },
					expect: ids[i]
				})),
				restore: kinds.map(({ area }, i) => ({ area: area.id, send: ids[i] })),
				preflight: { capture: [], restore: [] }
			};
		});
	})
	.map((json) => {
		try {
			return parseProfile(JSON.parse(JSON.stringify(json)));
		} catch {
			// What the language refuses (a record that cannot be packed so) is none.
			return null;
		}
	})
	.filter((profile) => profile !== null);
