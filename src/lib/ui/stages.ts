/** The stages of the work, in its order. A stage is listed once it can be worked in; its key is its place in the order. */
export const STAGES = [
	{ id: 'gear', title: 'Gear', href: '/gear', key: '1', says: 'What there is, and where it stands' },
	{ id: 'wiring', title: 'Wiring', href: '/wiring', key: '2', says: 'Ports, cables and channels' },
	{ id: 'transfers', title: 'Transfers', href: '/transfers', key: '4', says: 'Dumps coming in and going out' }
] as const;

/** Pages of the wiring that one goes to with something in mind. */
export const WIRING_PAGES = [
	{ title: 'Map of the studio', href: '/wiring/map', says: 'Cables, drawn' },
	{ title: 'Trace a signal', href: '/wiring/trace', says: 'Why don’t I hear this?' },
	{ title: 'Problems of the wiring', href: '/wiring/problems', says: 'What is wrong, and its cure' },
	{ title: 'Plan ports and channels', href: '/wiring/plan', says: 'Proved best' },
	{ title: 'Timing', href: '/wiring/timing', says: 'How late notes arrive' },
	{ title: 'Sheets to print', href: '/wiring/sheets', says: 'Cable list, chart, fronts' }
] as const;
