import type { Command } from './command';
import { controlCommands } from './control-commands';
import { dumpCommands } from './dump-commands';
import { pedalCommands } from './pedal-commands';
import { powerCommands } from './power-commands';
import { profileCommands } from './profile-commands';
import { procedureCommands } from './procedure-commands';
import { rigCommands } from './rig-commands';
import { sceneCommands } from './scene-commands';
import { studioCommands } from './studio-commands';

/** Every command by its name. */
export const commands: Record<string, Command> = {
	...rigCommands,
	...controlCommands,
	...pedalCommands,
	...powerCommands,
	...procedureCommands,
	...sceneCommands,
	...dumpCommands,
	...profileCommands,
	...studioCommands
};

export const usage = (): string =>
	[
		'Usage: npm run -s drawer -- COMMAND …',
		...Object.values(commands).map((command) => `  ${command.usage.padEnd(44)} ${command.says}`),
		'',
		'The studio is in DRAWER_DATA, or in your own data folder.'
	].join('\n');
