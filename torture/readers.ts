import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { z } from 'zod';
import { between, pick, type Random } from '../src/lib/core/bench';
import { readTargets, recordingOf } from '../src/lib/core/control';
import { readCsv } from '../src/lib/core/csv';
import { readNameDocument } from '../src/lib/core/drawer';
import { readCatalogue } from '../src/lib/core/gear';
import { joinBytes } from '../src/lib/core/midi';
import { mixedStudio } from '../src/lib/core/plan/mixed-studio.fixture';
import { Problem } from '../src/lib/core/problem';
import { decodeDump, parseProfile, recogniseDump, splitDump } from '../src/lib/core/profile';
import { readRigText } from '../src/lib/core/rig';
import { readDumpFile } from '../src/lib/core/sysex';
import { takeBundle } from '../src/lib/server/bundle/take';
import { checkStudio } from '../src/lib/server/check';
import { openStudio } from '../src/lib/server/db/connection';
import { loadProfiles, shippedProfiles } from '../src/lib/server/profiles';
import { mutate } from './values';

/** The most that one reading may take. */
const LONGEST_MS = 2000;

export interface Fuzzed {
	/** Inputs by reader: how many, and how many of them were read. */
	readers: Record<string, { inputs: number; read: number }>;
	faults: string[];
}

/** Bytes hurt as files are: flipped, cut, doubled, put together of two, a number somewhere else. */
function hurtBytes(bytes: Uint8Array, other: Uint8Array, random: Random): Uint8Array {
	const at = between(random, 0, bytes.length);
	const kind = random();
	if (kind < 0.35) {
		const hurt = bytes.slice();
		for (let i = between(random, 1, 8); i > 0 && hurt.length > 0; i--)
			hurt[between(random, 0, hurt.length - 1)] = between(random, 0, 255);
		return hurt;
	}
	if (kind < 0.5) return bytes.slice(0, at);
	if (kind < 0.65)
		return joinBytes([bytes.subarray(0, at), bytes.subarray(Math.max(0, at - between(random, 1, 400)))]);
	if (kind < 0.8) return joinBytes([bytes.subarray(0, at), other.subarray(between(random, 0, other.length))]);
	return joinBytes([
		bytes.subarray(0, at),
		bytes.subarray(Math.min(bytes.length, at + between(random, 1, 400)))
	]);
}

/** A list of targets as a table. */
const TARGETS = 'name,kind,number,low,high\nCutoff,cc,74,0,127\nPan,cc,10,0,127\nBend,pitch-bend,,0,16383\n';

/** What texts of tags are hurt by: entities in entities, elements without end, a thousand levels. */
const STRANGE_TEXTS = [
	'<!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;"><!ENTITY d "&c;&c;&c;&c;&c;&c;&c;&c;&c;&c;">]><MIDINameDocument>&d;</MIDINameDocument>',
	'<!DOCTYPE a [<!ENTITY a SYSTEM "file:///etc/passwd">]><MIDINameDocument>&a;</MIDINameDocument>',
	`<MIDINameDocument>${'<a>'.repeat(30_000)}`,
	`<MIDINameDocument>${'<a>'.repeat(5000)}${'</a>'.repeat(5000)}</MIDINameDocument>`,
	`"${'a'.repeat(100_000)}`,
	`${'"",'.repeat(50_000)}\n`,
	'=1+1,"-2\n',
	'\0\0\0'
];

/** Text hurt line by line. */
function hurtText(text: string, other: string, random: Random): string {
	if (random() < 0.08) return pick(random, STRANGE_TEXTS);
	if (random() < 0.5) return new TextDecoder().decode(hurtBytes(strToU8(text), strToU8(other), random));
	const lines = text.split('\n');
	const [a, b] = [between(random, 0, lines.length - 1), between(random, 0, lines.length - 1)];
	const kind = random();
	if (kind < 0.3) return lines.with(a, lines[b]).join('\n');
	if (kind < 0.6) return lines.with(a, pick(random, STRANGE_TEXTS).slice(0, 2000)).join('\n');
	if (kind < 0.8) return [...lines.slice(0, a), ...lines].join('\n');
	return lines.filter((_, i) => i !== a).join('\n');
}

function hurtJson(text: string, random: Random): string {
	let value: unknown = JSON.parse(text);
	for (let i = between(random, 1, 3); i > 0; i--) value = mutate(value, random);
	return JSON.stringify(value) ?? 'null';
}

/** An archive of which files were hurt, each in its own way, or the archive itself. */
function hurtArchive(bytes: Uint8Array, random: Random): Uint8Array {
	if (random() < 0.25) return hurtBytes(bytes, bytes, random);
	const files: Record<string, Uint8Array> = unzipSync(bytes);
	const names = Object.keys(files);
	for (let i = between(random, 1, 3); i > 0; i--) {
		const name = pick(random, names);
		const kind = random();
		if (kind < 0.1) delete files[name];
		else if (kind < 0.2) files[pick(random, names)] = files[name] ?? new Uint8Array();
		else if (name.endsWith('.json') && files[name] && kind < 0.8)
			try {
				files[name] = strToU8(hurtJson(strFromU8(files[name]), random));
			} catch {
				files[name] = new Uint8Array();
			}
		else if (files[name]) files[name] = hurtBytes(files[name], files[pick(random, names)] ?? bytes, random);
	}
	return zipSync(files as Record<string, Uint8Array<ArrayBuffer>>, { level: 1 });
}

/**
 * Has every reader of files read valid ones that were hurt, with their structure mostly kept: each is read or refused with a
 * problem, soon.
 * @param files valid ones of every kind
 */
export async function fuzzReaders(
	folder: string,
	files: readonly Uint8Array[],
	random: Random,
	untilMs: number
): Promise<Fuzzed> {
	const told: Fuzzed = { readers: {}, faults: [] };
	const profiles = shippedProfiles();
	const rig = JSON.stringify(mixedStudio(6, 4, 5));
	const texts = files
		.filter((bytes) => bytes[0] !== 0xf0 && bytes[0] !== 0x50 && bytes[0] !== 0x4d)
		.map((bytes) => strFromU8(bytes));
	const [xml, tables] = [
		texts.filter((text) => text.startsWith('<')),
		texts.filter((text) => !text.startsWith('<'))
	];
	const binary = files.filter((bytes) => bytes[0] === 0xf0 || bytes[0] === 0x4d);
	const archives = files.filter((bytes) => bytes[0] === 0x50);
	const scratch = join(folder, 'fuzzed.sqlite');
	const studio = await openStudio(scratch);
	await loadProfiles(studio);
	const readers: Record<string, () => unknown> = {
		'dump files': () => {
			const { messages } = readDumpFile(hurtBytes(pick(random, binary), pick(random, binary), random));
			const whole = messages.map(({ bytes }) => bytes);
			const [best] = recogniseDump(profiles, whole);
			if (best) decodeDump(best.profile, whole);
			splitDump(profiles, whole);
		},
		recordings: () => recordingOf(hurtBytes(pick(random, binary), pick(random, binary), random)),
		'name documents': () => readNameDocument(hurtText(pick(random, xml), pick(random, xml), random)),
		'lists of targets': () =>
			readTargets(
				hurtText(pick(random, [TARGETS, ...xml]), pick(random, texts), random),
				pick(random, ['a.csv', 'a.midnam'])
			),
		'tables of devices': () => {
			const { rows } = readCsv(hurtText(pick(random, tables), pick(random, tables), random));
			readCatalogue(rows[0] ?? [], rows.slice(1), new Set(), new Set());
		},
		profiles: () => parseProfile(JSON.parse(hurtJson(JSON.stringify(pick(random, profiles)), random))),
		wirings: () => readRigText(random() < 0.7 ? hurtJson(rig, random) : hurtText(rig, rig, random)),
		bundles: () => takeBundle(studio, hurtArchive(pick(random, archives), random))
	};
	for (const name of Object.keys(readers)) told.readers[name] = { inputs: 0, read: 0 };
	try {
		while (performance.now() < untilMs && told.faults.length < 20) {
			const name = pick(random, Object.keys(readers));
			const began = performance.now();
			told.readers[name].inputs++;
			try {
				await readers[name]();
				told.readers[name].read++;
			} catch (error) {
				const foreseen = error instanceof Problem || error instanceof z.ZodError;
				// Who calls the reader of a profile has read its JSON.
				if (!foreseen && !(error instanceof SyntaxError && name === 'profiles'))
					told.faults.push(
						`${name}: ${error instanceof Error ? (error.stack ?? error.message).slice(0, 400) : String(error)}`
					);
			}
			const tookMs = performance.now() - began;
			if (name !== 'bundles' && tookMs > LONGEST_MS)
				told.faults.push(`${name}: took ${tookMs.toFixed(0)} ms`);
		}
		const { damage } = await checkStudio(studio);
		if (damage.length > 0) told.faults.push(`after hurt bundles: ${damage[0].says}`);
	} finally {
		await studio.close();
		rmSync(scratch, { force: true });
	}
	return told;
}
