import { expect, it } from 'vitest';
import { fileKind } from './file-kind';

const text = (words: string) => new TextEncoder().encode(words);

it.each([
	['dump', Uint8Array.of(0xf0, 0x7d, 1, 0xf7)],
	['dump', Uint8Array.of(0xf8, 0xfe, 0xf0, 0x7d, 1)],
	['dump', text('MThd\0\0\0\x06')],
	['archive', text('PK\x03\x04')],
	['profile', text('\n{ "version": 1, "format": "silent-drawer.profile" }')],
	['wiring', text('{"format":"silent-drawer.rig"}')],
	['bank', text('{"format":"silent-drawer.bank"}')],
	['other', text('{"format":"somebody-else"}')],
	['names', text('<?xml version="1.0"?><!DOCTYPE MIDINameDocument><MIDINameDocument>')],
	['catalogue', text('\uFEFFName;Maker;Model\nOrrery;Vellbrook;Orrery')],
	['catalogue', text('maker,device,kind\n')],
	['other', text('Dear diary, the name of the rose')],
	['other', Uint8Array.of(0xff, 0xd8, 0xff, 0)],
	// No control character in it, and no text all the same: F0 begins a character of four bytes, and 7D is none of them.
	['dump', Uint8Array.of(0xf0, 0x7d, 0x41, 0xf7)],
	['catalogue', text('Name,Maker\nÉlan,Ørsted')],
	['empty', new Uint8Array()]
] as const)('tells %s by its content', (kind, bytes) => expect(fileKind(bytes)).toBe(kind));

it('tells a bundle from another archive by its list', () => {
	expect(fileKind(text('PK\x03\x04'), ['manifest.json', 'orrery/1.syx'])).toBe('bundle');
});
