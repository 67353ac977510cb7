import { it } from 'vitest';
import { agreesWithBruteForce } from './exhaustive.fixture';

it('every goal of 1,000 small studios is the best there is, and proved: studio-wide-channels', async () => {
	await agreesWithBruteForce('studio-wide-channels', 1000);
}, 600_000);
