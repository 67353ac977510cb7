/** The stages of the work, in its order. A stage is listed once it can be worked in; its key is its place in the order. */
export const STAGES = [
	{ id: 'gear', title: 'Gear', href: '/gear', key: '1', says: 'What there is, and where it stands' },
	{ id: 'wiring', title: 'Wiring', href: '/wiring', key: '2', says: 'Ports, cables and channels' },
	{ id: 'transfers', title: 'Transfers', href: '/transfers', key: '4', says: 'Dumps coming in and going out' }
] as const;
