import { WaveFile } from 'wavefile';
import { Problem } from '../core/problem';
import type { Sample } from '../core/sysex';

const MIDDLE = 32768;

/** A sample as a .wav file of 16 bits. */
export function writeWave(sample: Sample): Uint8Array {
	const wave = new WaveFile();
	const scale = 2 ** (sample.bits - 16);
	const words = Int16Array.from(sample.words, (word) => Math.min(65535, Math.round(word / scale)) - MIDDLE);
	wave.fromScratch(1, Math.round(1e9 / sample.periodNs), '16', words);
	return wave.toBuffer();
}

/** The first channel of a .wav file as a sample of 16 bits. @throws Problem `wave.unreadable` */
export function readWave(bytes: Uint8Array, number: number): Sample {
	let wave: WaveFile;
	try {
		wave = new WaveFile(bytes);
		wave.toBitDepth('16');
	} catch (error) {
		throw new Problem(
			'wave.unreadable',
			`The file is no .wav that can be read: ${error instanceof Error ? error.message : String(error)}.`,
			'Save it as PCM with 16 or 24 bits.'
		);
	}
	const samples = wave.getSamples(false, Int16Array) as unknown as Int16Array | Int16Array[];
	const channel = Array.isArray(samples) ? samples[0] : samples;
	const { sampleRate } = wave.fmt as { sampleRate: number };
	return {
		number,
		bits: 16,
		periodNs: Math.round(1e9 / sampleRate),
		loop: { start: 0, end: Math.max(0, channel.length - 1), kind: 'off' },
		words: Uint32Array.from(channel, (word) => word + MIDDLE)
	};
}
