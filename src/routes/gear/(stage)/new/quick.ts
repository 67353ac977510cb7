import { z } from 'zod';

const name = z
	.string()
	.trim()
	.min(1, 'Give the device a name.')
	.max(60, 'Keep the name within 60 characters.');
const sockets = z
	.number('Write a number.')
	.int('Write a whole number.')
	.min(0, 'Not less than none.')
	.max(32, 'Thirty-two at most.');

/** What a device with a profile takes: its model, a name, and whether it goes into the next free sockets. */
export const quickSchema = z.object({
	name,
	profileId: z.string().min(1, 'Choose its model.'),
	plug: z.boolean().default(true)
});

/** An interface is so many ins and outs. */
export const interfaceSchema = z
	.object({ name, ins: sockets.default(4), outs: sockets.default(4) })
	.refine(({ ins, outs }) => ins + outs > 0, { message: 'It needs at least one socket.', path: ['ins'] });
