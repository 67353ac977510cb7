import { it } from 'vitest';
import { agreesWithBruteForce } from './exhaustive.fixture';

it('every goal of 1,000 small studios is the best there is, and proved: port-per-instrument', async () => {
	await agreesWithBruteForce('port-per-instrument', 1000);
}, 600_000);
