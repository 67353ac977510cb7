import { it } from 'vitest';
import { agreesWithBruteForce } from './exhaustive.fixture';

it('every goal of 1,000 small studios is the best there is, and proved: shared-ports', async () => {
	await agreesWithBruteForce('shared-ports', 1000);
}, 600_000);
