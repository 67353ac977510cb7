import { Problem } from '../lib/core/problem';
import { commands, usage } from './commands';

// A reader that has seen enough (`… | head`) is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));

const [name, ...words] = process.argv.slice(2);
const command = name ? commands[name] : undefined;

if (!command) {
	console.error(name ? `There is no command “${name}”.\n\n${usage()}` : usage());
	process.exit(2);
}
try {
	process.exitCode = await command.run(words);
} catch (error) {
	if (error instanceof Problem) console.error(`${error.message} ${error.remedy}`);
	else console.error(error instanceof Error ? error.message : String(error));
	process.exitCode = 1;
}
