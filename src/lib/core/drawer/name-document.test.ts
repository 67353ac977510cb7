import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readNameDocument, writeNameDocument } from '.';

const word = fc
	.string({ minLength: 1, maxLength: 16 })
	.filter((text) => /^[\x20-\x7e]+$/.test(text) && text.trim() === text);
const document = fc.record({
	author: word,
	manufacturer: word,
	model: word,
	banks: fc.array(
		fc.record({
			name: word,
			bankSelect: fc.option(fc.record({ high: fc.nat(127), low: fc.option(fc.nat(127)) })),
			patches: fc.array(fc.record({ number: word, name: word, programChange: fc.option(fc.nat(127)) }), {
				minLength: 1,
				maxLength: 5
			})
		}),
		{ minLength: 1, maxLength: 3 }
	)
});

describe('MIDI name documents', () => {
	it('are read as they were written', () => {
		fc.assert(
			fc.property(document, (written) => {
				expect(readNameDocument(writeNameDocument(written))).toEqual(written);
			}),
			{ numRuns: 200 }
		);
	});

	it('of others are read too: lists that are used by name, names with entities', () => {
		const read = readNameDocument(`<?xml version="1.0"?><MIDINameDocument><Author>Somebody</Author>
			<MasterDeviceNames><Manufacturer>Tarnow</Manufacturer><Model>Parallax</Model>
			<ChannelNameSet Name="All"><PatchBank Name="Factory"><MIDICommands><ControlChange Control="0" Value="3"/></MIDICommands>
			<UsesPatchNameList Name="List 1"/></PatchBank></ChannelNameSet>
			<PatchNameList Name="List 1"><Patch Number="A1" Name="Salt &amp; Light" ProgramChange="0"/></PatchNameList>
			</MasterDeviceNames></MIDINameDocument>`);
		expect(read).toEqual({
			author: 'Somebody',
			manufacturer: 'Tarnow',
			model: 'Parallax',
			banks: [
				{
					name: 'Factory',
					bankSelect: { high: 3, low: null },
					patches: [{ number: 'A1', name: 'Salt & Light', programChange: 0 }]
				}
			]
		});
	});

	it.each([
		['<MIDINameDocument><Author>', 'no well-formed XML'],
		['<Other/>', 'no MIDI name document'],
		['<MIDINameDocument><Author>A</Author></MIDINameDocument>', 'no patch names']
	])('%s is refused in the right words', (xml, says) => {
		expect(() => readNameDocument(xml)).toThrow(says);
	});

	it('names keep their leading and trailing blanks', () => {
		const document = {
			author: 'A',
			manufacturer: 'M',
			model: 'X',
			banks: [
				{ name: 'Bank', bankSelect: null, patches: [{ number: '1', name: '  Low Tide ', programChange: 0 }] }
			]
		};
		expect(readNameDocument(writeNameDocument(document)).banks[0].patches[0].name).toBe('  Low Tide ');
	});

	it('an expansion names its sounds in lists without banks', () => {
		const { banks, manufacturer } = readNameDocument(`<MIDINameDocument><Author/>
			<ExtendingDeviceNames><Manufacturer> Vellbrook </Manufacturer><Device Name="Orrery"/>
				<PatchNameList Name="Card 1"><Patch Number="1" Name="Tide"/><Patch Number="2" Name="Dust" ProgramChange="1"/></PatchNameList>
				<PatchNameList Name="Card 2"><Patch Number="1" Name="Arc"/></PatchNameList>
			</ExtendingDeviceNames></MIDINameDocument>`);
		expect(manufacturer).toBe('Vellbrook');
		expect(banks.map(({ name, patches }) => [name, patches.map((patch) => patch.name)])).toEqual([
			['Card 1', ['Tide', 'Dust']],
			['Card 2', ['Arc']]
		]);
	});
});
