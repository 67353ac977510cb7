import { expect, it } from 'vitest';
import { hostPortSchema } from './schema';
import { hostPortUse } from './host-port-use';

const port = (more: object) =>
	hostPortSchema.parse({
		id: 'p',
		name: 'Ferry 8 Out 1',
		number: 1,
		direction: 'out',
		port: 'ferry:out-1',
		...more
	});

it.each([
	[{}, 'For playing.'],
	[{ control: true }, 'For playing and a control surface.'],
	[{ playing: false, control: true }, 'For a control surface.'],
	[{ playing: false }, 'For nothing yet.'],
	[{ clockOut: true, reserved: 16 }, 'For playing; clock goes out there; channel 16 is the host’s own.'],
	[{ direction: 'in', sync: true, clockOut: true }, 'For playing; the tempo is taken from there.'],
	[{ direction: 'out', sync: true }, 'For playing.'],
	[{ hidden: true }, 'For playing; the system does not show it.']
])('says what %j is used for', (more, says) => expect(hostPortUse(port(more))).toBe(says));
