import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { readDumpFile } from '../sysex';
import { toHex, writeSysexMidiFile } from '.';

const folder = mkdtempSync(join(tmpdir(), 'third-party-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Whether a program of the machine is there. */
function has(command: string, ...args: string[]): boolean {
	try {
		execFileSync(command, args, { stdio: 'ignore' });
		return true;
	} catch (error) {
		return (error as NodeJS.ErrnoException).code !== 'ENOENT' && (error as { status?: number }).status === 0;
	}
}

const dumps = [0, 5, 130, 4000].map((length, n) =>
	Uint8Array.from([0xf0, 0x7d, n, ...Array.from({ length }, (_, i) => (i * 37 + n) % 128), 0xf7])
);
const file = (name: string, bytes: Uint8Array | string) => {
	const path = join(folder, name);
	writeFileSync(path, bytes);
	return path;
};

/** Debian's own Python has Debian's packages, whichever comes first in the path. */
const PYTHON = ['/usr/bin/python3', 'python3'].find((python) => has(python, '-c', 'import mido'));
const mido = PYTHON !== undefined;
const midicsv = has('midicsv', '--help') || has('sh', '-c', 'command -v midicsv');
if (!mido) console.warn('python3-mido is not installed here: .mid files are not compared with it.');
if (!midicsv) console.warn('midicsv is not installed here: .mid files are not compared with it.');

describe.skipIf(!mido)('.mid files and python3-mido', () => {
	it('it reads what is written here', () => {
		const path = file('ours.mid', writeSysexMidiFile(dumps));
		const script = `import mido\nfor m in mido.MidiFile(${JSON.stringify(path)}):\n  if m.type == 'sysex': print(bytes(m.bytes()).hex())`;
		const read = execFileSync(PYTHON!, ['-c', script], { encoding: 'utf8' }).trim().split('\n');
		expect(read).toEqual(dumps.map((bytes) => toHex(bytes)));
	});

	it.each([0, 1])('what it writes is read here, type %i', (type) => {
		const path = join(folder, `theirs-${type}.mid`);
		const script = `import mido\nf = mido.MidiFile(type=${type})\nt = mido.MidiTrack()\nf.tracks.append(t)\nfor h in ${JSON.stringify(dumps.map((bytes) => toHex(bytes)))}:\n  t.append(mido.Message('note_on', note=60))\n  t.append(mido.Message.from_bytes(bytes.fromhex(h)))\nf.save(${JSON.stringify(path)})`;
		execFileSync(PYTHON!, ['-c', script]);
		const read = readDumpFile(new Uint8Array(readFileSync(path)));
		expect(read.messages.map(({ bytes }) => toHex(bytes))).toEqual(dumps.map((bytes) => toHex(bytes)));
	});
});

describe.skipIf(!midicsv)('.mid files and midicsv', () => {
	it('it reads what is written here, byte for byte', () => {
		const path = file('csv.mid', writeSysexMidiFile(dumps));
		const lines = execFileSync('midicsv', [path], { encoding: 'utf8' }).split('\n');
		const read = lines
			.filter((line) => line.includes('System_exclusive'))
			.map(
				(line) =>
					`f0${line
						.split(', ')
						.slice(4)
						.map((byte) => Number(byte).toString(16).padStart(2, '0'))
						.join('')}`
			);
		expect(read).toEqual(dumps.map((bytes) => toHex(bytes)));
	});

	it('what csvmidi writes of it is read here, with continued packets and running status', () => {
		const csv = [
			'0, 0, Header, 1, 1, 96',
			'1, 0, Start_track',
			'1, 0, Note_on_c, 0, 60, 64',
			'1, 1, Note_on_c, 0, 62, 64',
			'1, 2, System_exclusive, 3, 125, 1, 2',
			'1, 3, System_exclusive_packet, 3, 3, 4, 247',
			'1, 9, End_track',
			'0, 0, End_of_file',
			''
		].join('\n');
		const path = join(folder, 'packets.mid');
		execFileSync('csvmidi', [file('packets.csv', csv), path]);
		const read = readDumpFile(new Uint8Array(readFileSync(path)));
		expect(read.messages.map(({ bytes }) => toHex(bytes))).toEqual(['f07d01020304f7']);
	});
});
