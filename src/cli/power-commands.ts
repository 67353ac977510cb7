import loadHighs from 'highs';
import { checkPower, planPower, powerOfRig, powerSchema, type Power } from '../lib/core/power';
import { jsonOf, readDocument } from '../lib/core/reading';
import { readRigText } from '../lib/core/rig';
import { numberOf, oneOf, type Command } from './command';
import { documentOf } from './files';

/** A power file, or what a wiring says of power: then every label is to be read. */
const powerOf = (path: string): Power =>
	documentOf(path, (text) => {
		const raw = jsonOf(text, 'power');
		if ((raw as { format?: unknown } | null)?.format !== 'silent-drawer.rig')
			return readDocument(powerSchema, text, 'power');
		const { rig, ignored } = readRigText(text);
		return { value: powerOfRig(rig), ignored };
	});

export const powerCommands: Record<string, Command> = {
	power: {
		usage: 'power RIG-OR-POWER.json [--seconds N]',
		says: 'which output feeds what, proved best or with its gap, and what is wrong today',
		async run(words) {
			const { about, options } = oneOf(this, words, 'seconds');
			const power = powerOf(about);
			const plan = planPower(await loadHighs(), power, {
				seconds: numberOf(options.seconds, 'seconds', 0.1, 86_400) ?? 20,
				now: () => performance.now()
			});
			console.log(JSON.stringify({ plan, findings: checkPower(power) }));
			return 0;
		}
	}
};
