import { mkdirSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { Problem } from '../src/lib/core/problem';
import { openStudio } from '../src/lib/server/db/connection';
import { haveAlone } from '../src/lib/server/db/sole';
import { countStored } from '../src/lib/server/store/checking';
import { settleWorld } from '../src/lib/server/indexing';
import { makeHistory } from './history';

const [file, ...flags] = process.argv.slice(2);
if (!file) {
	console.error('Usage: seed.ts FILE [--fresh]');
	process.exit(2);
}
mkdirSync(dirname(file), { recursive: true });
// A server that has it open would be left with a file that is gone.
const giveBack = await haveAlone(file, `process ${process.pid}, which makes the demo studio`).catch(
	(error: unknown) => {
		if (!(error instanceof Problem)) throw error;
		console.error(`${error.message} ${error.remedy}`);
		process.exit(1);
	}
);
if (flags.includes('--fresh'))
	for (const suffix of ['', '-wal', '-shm']) rmSync(file + suffix, { force: true });

const started = Date.now();
const studio = await openStudio(file);
// The demo is a studio on the bench as a whole: also one that was made before worlds were noted.
if (studio.world !== 'bench') await settleWorld(studio, 'bench');
if ((await studio.models.devices.count()) === 0) {
	await makeHistory(studio, new Date());
	const { versions } = await countStored(studio);
	console.log(
		`Made the demo studio: ${await studio.models.devices.count()} devices, ${versions} versions, in ${((Date.now() - started) / 1000).toFixed(1)} s.`
	);
}
await studio.close();
await giveBack();
