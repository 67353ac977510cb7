import { z } from 'zod';
import { CONTROL_KINDS } from './stream';
import { GESTURES, pickUpSchema, surfaceSchema } from './surface';
import { targetListSchema, type Target, type TargetList } from '../profile';

/** Where a link is kept: what does not carry over is said wherever the map is used. */
export const REACHES = {
	template: 'kept in the template',
	song: 'kept with the song only',
	instance: 'tied to one instance of a plug-in and not carried over'
} as const;
export type Reach = keyof typeof REACHES;

/** A target of a list, told on a channel. */
const toldSchema = z.object({
	list: z.string().min(1).max(60),
	target: z.string().min(1).max(80),
	channel: z.number().int().min(1).max(16)
});
export type Told = z.infer<typeof toldSchema>;
/** By what two that are told are the same. */
export const toldKey = ({ list, target, channel }: Told): string => JSON.stringify([list, target, channel]);

export const linkSchema = toldSchema.extend({
	/** Smallest and largest value in the target's own unit; left out, all that it has. */
	from: z.number().optional(),
	to: z.number().optional(),
	inverted: z.boolean().default(false),
	curve: z.enum(['even', 'slow-start', 'slow-end']).default('even'),
	reach: z.enum(Object.keys(REACHES) as [Reach, ...Reach[]]).default('template')
});
export type Link = z.infer<typeof linkSchema>;

/** The list and the target that a link names; undefined where the map has none of that id. */
export function linked(
	{ lists }: { lists: readonly TargetList[] },
	link: Pick<Link, 'list' | 'target'>
): { list: TargetList | undefined; target: Target | undefined } {
	const list = lists.find(({ id }) => id === link.list);
	return { list, target: list?.targets.find(({ id }) => id === link.target) };
}

/** So many targets a control tells at most. */
export const MOST_LINKS = 16;

export const assignmentSchema = z.object({
	control: z.string().min(1).max(60),
	gesture: z.enum(GESTURES).default('move'),
	/** On purpose nothing. */
	empty: z.boolean().default(false),
	links: z.array(linkSchema).max(MOST_LINKS).default([]),
	/**
	 * How it sends: a position, steps, while it is held, on and off in turn, or one stated value; or the surface sends nothing
	 * while it is held.
	 */
	way: z.enum(['absolute', 'relative', 'momentary', 'toggle', 'value', 'rest']).default('absolute'),
	/** For `relative`: how steps are told. */
	encoding: z.enum(['twos-complement', 'sign-bit', 'offset-64']).optional(),
	/** For `value`: what is sent, in the target's own unit. */
	value: z.number().optional(),
	/** What a notch counts at its quickest. */
	acceleration: z.number().min(1).max(100).optional(),
	/** On its display, or on the strip. */
	name: z.string().max(60).default(''),
	colour: z.string().max(30).default('')
});
export type Assignment = z.infer<typeof assignmentSchema>;

/** So many targets a window goes over at most. */
export const MOST_OVER = 200;

const buttonSchema = z.object({ control: z.string().min(1).max(60), gesture: z.enum(GESTURES) });

/** A few controls over a longer list: a button has them tell the next of it. Their lines say its first view. */
export const windowSchema = z.object({
	name: z.string().min(1).max(60),
	controls: z.array(z.string().min(1).max(60)).min(1).max(64),
	gesture: z.enum(GESTURES),
	over: z.array(toldSchema).min(1).max(MOST_OVER),
	/** So many further at each press. */
	step: z.number().int().min(1).max(MOST_OVER),
	next: buttonSchema,
	back: buttonSchema.nullable().default(null)
});
export type Window = z.infer<typeof windowSchema>;

export const pageSchema = z.object({
	/** Its number on the surface, from 1. */
	number: z.number().int().min(1).max(128),
	name: z.string().max(60).default(''),
	/** Programs with which it opens, as the target's device counts on the wire. */
	programs: z
		.array(
			z.object({
				channel: z.number().int().min(1).max(16),
				from: z.number().int().min(0).max(127),
				to: z.number().int().min(0).max(127)
			})
		)
		.max(64)
		.default([]),
	assignments: z.array(assignmentSchema).max(1000).default([]),
	windows: z.array(windowSchema).max(8).default([]),
	/** A copy of another page for another part: it follows that one, but for the lines in which it differs. */
	like: z
		.object({
			page: z.number().int().min(1).max(128),
			/** What goes to this channel there goes to the other one here. */
			from: z.number().int().min(1).max(16),
			to: z.number().int().min(1).max(16)
		})
		.optional()
});
export type MapPage = z.infer<typeof pageSchema>;
/** What a page is called: its name, or else its number. */
export const pageTitle = ({ name, number }: Pick<MapPage, 'name' | 'number'>): string =>
	name || `Page ${number}`;

/** The lines of a map, what is the same on every page first. */
export const assignmentsOf = ({
	globals,
	pages
}: {
	globals: Assignment[];
	pages: { assignments: Assignment[] }[];
}): Assignment[] => [...globals, ...pages.flatMap(({ assignments }) => assignments)];

/** Everything that these tell. */
export const linksOf = (map: Parameters<typeof assignmentsOf>[0]): Link[] =>
	assignmentsOf(map).flatMap(({ links }) => links);

/** Where a controller was heard: simulated, or over real ports. */
const heardIn = z.enum(['bench', 'hardware']);

/** What a control was heard to say when it was touched, on a page of the surface. */
export const learntSchema = z.object({
	control: z.string().min(1).max(60),
	page: z.number().int().min(1).max(128),
	kind: z.enum(CONTROL_KINDS),
	channel: z.number().int().min(1).max(16).nullable(),
	number: z.number().int().min(0).max(16383).nullable(),
	encoding: z.enum(['twos-complement', 'sign-bit', 'offset-64']).nullable(),
	/** Smallest and largest value heard. */
	low: z.number().int(),
	high: z.number().int(),
	/** What is not decided yet, in words. */
	doubt: z.string().max(300).nullable(),
	world: heardIn
});
export type Learnt = z.infer<typeof learntSchema>;

/** `silent-drawer.map`: what a surface does. It holds the surface and the targets that it speaks of. */
export const mapSchema = z.object({
	format: z.literal('silent-drawer.map'),
	version: z.literal(1),
	name: z.string().min(1).max(80),
	surface: surfaceSchema,
	lists: z.array(targetListSchema).max(60),
	/** The device of Gear that it is for; null where nobody said. */
	gear: z.string().min(1).max(60).nullable().default(null),
	/** The same on every page. */
	globals: z.array(assignmentSchema).max(400).default([]),
	pages: z.array(pageSchema).max(128),
	/** Channels that the host's own map uses. */
	reserved: z.array(z.number().int().min(1).max(16)).max(16).default([]),
	/** What stands between the surface and whoever listens. */
	hosted: z.enum(['nothing', 'computer', 'host-box']).default('nothing'),
	/** The host sends what it hears back to the surface. */
	echoes: z.boolean().default(false),
	/** Where its key bed plays; null where it has none. */
	keys: z
		.object({
			channel: z.number().int().min(1).max(16),
			low: z.number().int().min(0).max(127),
			high: z.number().int().min(0).max(127)
		})
		.nullable()
		.default(null),
	learnt: z.array(learntSchema).max(4000).default([]),
	/** Pages on which every learnt control was touched once more and spoke for itself, and when. */
	walked: z
		.array(
			z.object({ page: z.number().int().min(1).max(128), at: z.string().min(1).max(40), world: heardIn })
		)
		.max(128)
		.default([]),
	/** Songs of the set in their order, each with what is touched in it, in order. */
	songs: z
		.array(z.object({ name: z.string().max(80), touches: z.array(toldSchema).max(2000) }))
		.max(200)
		.default([]),
	/** What is wanted of a target's place when pages are planned. */
	wishes: z
		.array(
			toldSchema.extend({
				/** On the same control of every page. */
				everywhere: z.boolean().default(false),
				/** On one page with all others of this word. */
				together: z.string().max(40).default(''),
				/** Where it is now. */
				stays: z.boolean().default(false)
			})
		)
		.max(600)
		.default([]),
	/** What the map means to be, where schools differ: see `schools.ts`. */
	schools: z
		.object({
			pads: z.enum(['selected', 'own']).optional(),
			protocol: z.enum(['midi', 'host']).optional(),
			knobs: z.enum(['absolute', 'relative']).optional(),
			spread: z.enum(['part', 'across']).optional(),
			pages: z.enum(['one', 'many']).optional(),
			amount: z.enum(['few', 'all']).optional()
		})
		.prefault({}),
	/** What the surface does in a host, and what has to be set there for this map. */
	host: z
		.object({
			name: z.string().max(60).default(''),
			version: z.string().max(40).default(''),
			/** What its buttons really do there, tried on a day with a version. */
			buttons: z
				.array(
					z.object({
						control: z.string().min(1).max(60),
						gesture: z.enum(GESTURES),
						does: z.string().max(200).default(''),
						remark: z.string().max(200).default(''),
						tried: z
							.object({ at: z.string().min(1).max(40), version: z.string().max(40) })
							.nullable()
							.default(null)
					})
				)
				.max(800)
				.default([]),
			/** Steps, each ticked on a day, with a version, for what the map came to then. */
			recipe: z
				.array(
					z.object({
						says: z.string().min(1).max(200),
						ticked: z
							.object({
								at: z.string().min(1).max(40),
								version: z.string().max(40),
								of: z.string().min(1).max(20)
							})
							.nullable()
							.default(null)
					})
				)
				.max(60)
				.default([])
		})
		.prefault({}),
	/** What happens where a control stands elsewhere than the value that it takes hold of: jump, wait for it, or go on from there. */
	pickUp: pickUpSchema.default('jump'),
	/** A jump of more than so many dB is told. */
	loudestStepDb: z.number().min(0.1).max(60).default(3)
});
export type ControlMap = z.infer<typeof mapSchema>;
