import loadHighs from 'highs';
import { Problem } from '../lib/core/problem';
import { fileScore, makePlan, networkOf, partsOf, POLICIES, simulate, type Policy } from '../lib/core/plan';
import { checkRig, indexRig, readRigText, trace, tracksOf, type Rig, type Source } from '../lib/core/rig';
import { numberOf, oneOf, wrongUse, type Command } from './command';
import { bytesOf, documentOf } from './files';

const print = (value: unknown) => console.log(JSON.stringify(value, null, 2));

const rigOf = (path: string): Rig =>
	documentOf(path, (text) => {
		const { rig, ignored } = readRigText(text);
		return { value: rig, ignored };
	});

/** What `--from` means: a device's keys, a track of the host, a socket or a host port. */
function sourceOf(rig: Rig, id: string): Source {
	const index = indexRig(rig);
	if (index.devices.has(id)) return { device: id };
	if (tracksOf(rig).some((track) => track.id === id)) return { track: id };
	if (index.ports.has(id) || index.hostPorts.has(id)) return { port: id };
	throw new Problem(
		'trace.from.not-found',
		`Nothing in this rig is called “${id}”.`,
		'Give the id of a device, a port, a host port or a track.'
	);
}

export const rigCommands: Record<string, Command> = {
	plan: {
		usage: 'plan RIG.json [--policy P] [--seconds N]',
		says: `ports and channels, proved best; P is ${Object.keys(POLICIES).join(', ')}`,
		async run(words) {
			const { about, options } = oneOf(this, words, 'policy', 'seconds');
			const policy = options.policy ?? 'shared-ports';
			if (!Object.hasOwn(POLICIES, policy))
				throw new Problem(
					'plan.policy',
					`There is no policy “${policy}”.`,
					`There are: ${Object.keys(POLICIES).join(', ')}.`
				);
			const plan = makePlan(await loadHighs(), rigOf(about), {
				policy: policy as Policy,
				seconds: numberOf(options.seconds, 'seconds', 0.1, 86_400) ?? 60,
				now: () => performance.now()
			});
			print(plan);
			return plan.status === 'infeasible' ? 1 : 0;
		}
	},
	'check-rig': {
		usage: 'check-rig RIG.json',
		says: 'everything that is wrong with a wiring; exit code 1 on errors',
		async run(words) {
			if (words.length !== 1) throw wrongUse(this);
			const troubles = checkRig(rigOf(words[0]));
			print(troubles);
			return troubles.some(({ severity }) => severity === 'error') ? 1 : 0;
		}
	},
	trace: {
		usage: 'trace RIG.json --from ID --channel N',
		says: 'whom a note reaches, hop by hop, and what stops it on the way to everybody else',
		async run(words) {
			const { about, options } = oneOf(this, words, 'from', 'channel');
			if (!options.from) throw wrongUse(this);
			const rig = rigOf(about);
			const channel = numberOf(options.channel, 'channel', 1, 16) ?? 1;
			print(trace(rig, sourceOf(rig, options.from), channel));
			return 0;
		}
	},
	lateness: {
		usage: 'lateness RIG.json FILE.mid',
		says: 'how late each device plays a MIDI file',
		async run(words) {
			if (words.length !== 2) throw wrongUse(this);
			const rig = rigOf(words[0]);
			const score = fileScore(bytesOf(words[1]), partsOf(rig));
			const { timeline: _, ...report } = simulate(score, networkOf(rig), { runningStatus: true, usb: true });
			print({ ...report, unheard: score.unheard });
			return 0;
		}
	}
};
