/** The stages of the work, in its order. A stage is listed once it can be worked in; its key is its place in the order. */
export const STAGES = [
	{ id: 'gear', title: 'Gear', href: '/gear', key: '1', says: 'What there is, and where it stands' },
	{ id: 'wiring', title: 'Wiring', href: '/wiring', key: '2', says: 'Ports, cables and channels' },
	{ id: 'transfers', title: 'Transfers', href: '/transfers', key: '4', says: 'Dumps coming in and going out' }
] as const;

/** Pages of the transfers, in the order in which they are used. */
export const TRANSFER_PAGES = [
	{ title: 'Log', href: '/transfers', says: 'What came in and went out' },
	{ title: 'Whole studio', href: '/transfers/studio', says: 'Back up everything in one go' },
	{ title: 'Snapshots', href: '/transfers/snapshots', says: 'The studio at one moment' },
	{ title: 'Banks', href: '/transfers/banks', says: 'Banks for a show' },
	{ title: 'Look-alikes', href: '/transfers/families', says: 'The same sound, and nearly the same' },
	{ title: 'Ports', href: '/transfers/ports', says: 'Roll call and adapter test' },
	{ title: 'Monitor', href: '/transfers/monitor', says: 'Everything that passes a port' },
	{ title: 'Universal', href: '/transfers/universal', says: 'Messages that need no profile' },
	{ title: 'Keeping', href: '/transfers/keeping', says: 'Check, copies, reminders, what may go' }
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
