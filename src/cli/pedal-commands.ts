import { recordingOf } from '../lib/core/control';
import { Problem } from '../lib/core/problem';
import {
	atRest,
	bestCable,
	CABLE_KINDS,
	calibrate,
	coarsest,
	JACK_KINDS,
	jackOfKind,
	judge,
	PEDAL_KINDS,
	pedalOf,
	readings,
	wiringOf,
	type CableKind,
	type Heard,
	type Pairing
} from '../lib/core/pedal';
import { numberOf, oneOf, print, wrongUse, type Command } from './command';
import { bytesOf } from './files';

function kindOf<T extends { id: string }>(kinds: readonly T[], id: string, what: string): T {
	const found = kinds.find((kind) => kind.id === id);
	if (found) return found;
	throw new Problem(
		'cli.kind',
		`There is no ${what} “${id}”.`,
		`Known are ${kinds.map((kind) => kind.id).join(', ')}.`
	);
}

const PLUGS: readonly { id: string; cable: CableKind | null }[] = [
	{ id: 'own', cable: null },
	...(Object.keys(CABLE_KINDS) as CableKind[]).map((id) => ({ id, cable: id }))
];

/** Every position of a pedal: feet up and down, a pot at five places. */
function positionsOf({ pedals: [{ parts }] }: Pairing): number[][] {
	return parts.reduce<number[][]>(
		(all, part) =>
			all.flatMap((before) =>
				(part.is === 'pot' ? [0, 0.25, 0.5, 0.75, 1] : [0, 1]).map((at) => [...before, at])
			),
		[[]]
	);
}

export const pedalCommands: Record<string, Command> = {
	pedal: {
		usage: 'pedal JACK PLUG PEDAL',
		says: 'what a jack reads in each position of a pedal, and the verdict',
		async run(words) {
			if (words.length !== 3) throw wrongUse(this);
			const jack = jackOfKind(kindOf(JACK_KINDS, words[0], 'jack'), 'jack', words[0]);
			const { cable } = kindOf(PLUGS, words[1], 'plug');
			const pedal = pedalOf(kindOf(PEDAL_KINDS, words[2], 'pedal'), 'pedal', words[2]);
			const pairing: Pairing = { jacks: [jack], cable, pedals: [pedal] };
			const reads = wiringOf(pairing)
				? positionsOf(pairing).map((at) => ({
						at,
						reads: readings(pairing, [at])!.map(({ contact, level }) => ({
							contact,
							level: Number(level.toFixed(4))
						}))
					}))
				: [];
			const verdict = judge(pairing);
			print({ parts: atRest([pedal])[0].length, reads, verdict, best: bestCable(pairing) });
			return verdict.kind === 'works' ? 0 : 1;
		}
	},
	calibrate: {
		usage: 'calibrate FILE.mid --controller N [--channel N] [--first heel|toe]',
		says: 'ends, noise, dead zones and worn places of a pedal, from a recording of it',
		async run(words) {
			const { about, options } = oneOf(this, words, 'controller', 'channel', 'first');
			const controller = numberOf(options.controller, 'controller', 0, 119);
			const channel = numberOf(options.channel, 'channel', 1, 16);
			const first = options.first ?? 'heel';
			if (controller === undefined || (first !== 'heel' && first !== 'toe')) throw wrongUse(this);
			const { heard, untilMs, damage } = recordingOf(bytesOf(about));
			const values: Heard[] = heard.flatMap(({ atMs, bytes: [status, number, value] }) =>
				status >> 4 === 0xb &&
				number === controller &&
				(channel === undefined || (status & 15) === channel - 1)
					? [{ atMs, value }]
					: []
			);
			for (const says of damage) console.error(`${about}, ${says}.`);
			if (values.length === 0)
				throw new Problem(
					'cli.silent',
					`Controller ${controller} is not in the recording.`,
					'“drawer learn” says which ones are.'
				);
			const found = calibrate(values, untilMs, first);
			print(
				found.is === 'heard'
					? {
							...found.calibration,
							coarsestShare: coarsest(
								{ least: 0, most: 1, response: { shape: 'even' } },
								found.calibration.steps
							)
						}
					: found
			);
			return found.is === 'heard' && damage.length === 0 ? 0 : 1;
		}
	}
};
