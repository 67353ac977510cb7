/** The three schools of giving out ports and channels (field guide 3.4). */
export const POLICIES = {
	'port-per-instrument': {
		title: 'Port per instrument',
		says: 'Every instrument alone on its out. Clear and fast; costs outs.'
	},
	'shared-ports': {
		title: 'Shared ports',
		says: 'Several instruments on an out, told apart by channel. Saves outs; dense playing gets late.'
	},
	'studio-wide-channels': {
		title: 'Studio-wide channels',
		says: 'A channel means one instrument in the whole studio. Easiest to remember; 16 run out quickly.'
	}
} as const;
export type Policy = keyof typeof POLICIES;

/** Goals in strict order: a later one never costs an earlier one anything. All are made as small as possible. */
export const GOALS = {
	unplaced: 'devices without a place',
	broken: 'hard rules broken',
	crowded: 'tight-timing devices that share their out',
	moves: 'cables to plug and panel settings to change',
	busiest: 'bytes/s on the busiest out',
	away: 'cables to an interface in another place',
	channels: 'sum of all channel numbers'
} as const;
export type Goal = keyof typeof GOALS;
export type Goals = Record<Goal, number>;
