import { join } from 'node:path';
import { serve } from '../e2e/server-process';

export interface Two {
	rounds: number;
	faults: string[];
}

/** Starts a second server on a studio: it is refused with who has it, the first is not disturbed, and it gets it once that is killed. */
export async function twoServers(folder: string, port: number, untilMs: number): Promise<Two> {
	const told: Two = { rounds: 0, faults: [] };
	const data = join(folder, 'shared');
	while (performance.now() < untilMs) {
		told.rounds++;
		const fault = (says: string) => told.faults.push(`two servers, round ${told.rounds}: ${says}`);
		const first = await serve(port, data);
		const ask = async (url: string) => {
			const answer = await fetch(`${url}/api/v1/devices`);
			return {
				status: answer.status,
				said: (await answer.json()) as { problem?: { code: string; message: string } }
			};
		};
		if ((await ask(first.url)).status !== 200) fault('the first does not answer');
		const second = await serve(port + 1, data);
		try {
			const refused = await ask(second.url);
			if (refused.status !== 503 || refused.said.problem?.code !== 'studio.taken')
				fault(`the second answers ${refused.status}`);
			else if (!refused.said.problem.message.includes(String(port)))
				fault(`it does not say who has it: ${refused.said.problem.message}`);
			if ((await ask(first.url)).status !== 200) fault('the first is disturbed');
			await first.kill();
			const now = await ask(second.url);
			if (now.status !== 200) fault(`once the first was killed, the second answers ${now.status}`);
		} finally {
			await first.kill();
			await second.kill();
		}
	}
	return told;
}
