import * as Comlink from 'comlink';
import loadHighs from 'highs';
import wasmUrl from 'highs/runtime?url';
import { answered, type Answered } from '$lib/core/answered';
import { planPower, type Power, type PowerPlan } from '$lib/core/power';

const workshop = {
	plan: (power: Power, seconds: number): Promise<Answered<PowerPlan>> =>
		answered(async () =>
			planPower(await loadHighs({ locateFile: () => wasmUrl }), power, {
				seconds,
				now: () => performance.now()
			})
		)
};

export type PowerWorkshop = typeof workshop;
Comlink.expose(workshop);
