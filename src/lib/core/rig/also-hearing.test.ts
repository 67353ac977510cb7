import { describe, expect, it } from 'vitest';
import { alsoHearing } from './also-hearing';
import { cable, module, studio } from './rig.fixture';

const chain = studio(
	[module('a'), module('b'), module('omni', { receive: { omni: true } }), module('d'), module('apart')],
	{
		cables: [
			cable('ferry.out1', 'a.in'),
			cable('a.thru', 'b.in'),
			cable('b.thru', 'omni.in'),
			cable('omni.thru', 'd.in'),
			cable('ferry.out2', 'apart.in')
		],
		settings: [
			{ device: 'a', channel: 3 },
			{ device: 'b', channel: 5 },
			{ device: 'apart', channel: 3 }
		]
	}
);

describe('who else hears what a device is told', () => {
	it('is whoever answers to that channel on its line, and perhaps whose channel is not noted', () => {
		expect(alsoHearing(chain, 'a', 3)).toEqual({ surely: ['omni'], perhaps: ['d'] });
		expect(alsoHearing(chain, 'a', 5)).toEqual({ surely: ['b', 'omni'], perhaps: ['d'] });
	});

	it('is nobody of another line, and nobody where it hangs on none', () => {
		expect(alsoHearing(chain, 'apart', 3)).toEqual({ surely: [], perhaps: [] });
		expect(alsoHearing(studio([module('a')]), 'a', 3)).toEqual({ surely: [], perhaps: [] });
	});
});
