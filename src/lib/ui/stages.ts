/** A page of a stage: an entry here is its tab, and how the command field knows it. */
export interface StagePage {
	title: string;
	href: string;
	says: string;
}

export interface Stage {
	id: string;
	title: string;
	/** Its place in the order of the work. */
	key: string;
	href: string;
	says: string;
	pages: readonly StagePage[];
}

/** The stages of the work, in its order. A stage is listed once it can be worked in. */
export const STAGES: readonly Stage[] = [
	{
		id: 'gear',
		title: 'Gear',
		href: '/gear',
		key: '1',
		says: 'What there is, and where it stands',
		pages: [
			{ title: 'Catalogue', href: '/gear', says: 'Every device, in a table' },
			{ title: 'Find it', href: '/gear/find', says: 'Asks on every port who is there' },
			{ title: 'Add a device', href: '/gear/new', says: 'By hand, with its sockets' },
			{ title: 'Import', href: '/gear/import', says: 'A catalogue from CSV' },
			{ title: 'Together', href: '/gear/pairings', says: 'What works with what' },
			{ title: 'Workshop', href: '/gear/workshop', says: 'Write how a model speaks' }
		]
	},
	{
		id: 'wiring',
		title: 'Wiring',
		href: '/wiring',
		key: '2',
		says: 'Ports, cables and channels',
		pages: [
			{ title: 'Map of the studio', href: '/wiring/map', says: 'Cables, drawn' },
			{ title: 'Trace a signal', href: '/wiring/problems?from', says: 'Why don’t I hear this?' },
			{ title: 'Problems of the wiring', href: '/wiring/problems', says: 'What is wrong, and its cure' },
			{ title: 'Plan ports and channels', href: '/wiring/plan', says: 'Proved best' },
			{ title: 'Timing', href: '/wiring/plan#timing', says: 'How late notes arrive' },
			{ title: 'Computer ports', href: '/wiring/host', says: 'What the host shows, and who listens' },
			{ title: 'Audio returns', href: '/wiring/host#audio-heading', says: 'Inputs of the audio interface' },
			{ title: 'Power', href: '/wiring/power', says: 'What feeds what, and what it can carry' },
			{ title: 'Sheets to print', href: '/wiring/sheets', says: 'Cable list, chart, fronts' }
		]
	},
	{
		id: 'control',
		title: 'Control',
		href: '/control',
		key: '3',
		says: 'What every knob, fader and pad does',
		pages: [
			{ title: 'Maps', href: '/control', says: 'Controllers learnt, written on and printed' },
			{ title: 'Feet', href: '/control/feet', says: 'Pedals, foot switches, slots and deputies' },
			{ title: 'Zones', href: '/control/zones', says: 'What each key plays, and scenes that recall it' },
			{ title: 'Set', href: '/control/set', says: 'Songs in order: ready, and run on stage' }
		]
	},
	{
		id: 'sounds',
		title: 'Sounds',
		href: '/sounds',
		key: '4',
		says: 'Found by name, built into banks, kept as snapshots',
		pages: [
			{ title: 'Find', href: '/sounds', says: 'A sound by its name, in all drawers' },
			{ title: 'Banks', href: '/sounds/banks', says: 'Banks for a show' },
			{ title: 'Look-alikes', href: '/sounds/look-alikes', says: 'The same sound, and nearly the same' },
			{ title: 'Snapshots', href: '/sounds/snapshots', says: 'The studio at one moment' }
		]
	},
	{
		id: 'transfers',
		title: 'Transfers',
		href: '/transfers',
		key: '5',
		says: 'Dumps coming in and going out',
		pages: [
			{ title: 'Log', href: '/transfers', says: 'What came in and went out' },
			{ title: 'Whole studio', href: '/transfers/studio', says: 'Back up everything in one go' },
			{ title: 'Ports', href: '/transfers/ports', says: 'World, ports of the computer, adapter tests' },
			{ title: 'Monitor', href: '/transfers/monitor', says: 'Everything that passes a port' },
			{ title: 'Universal', href: '/transfers/universal', says: 'Messages that need no profile' },
			{ title: 'Bench', href: '/transfers/bench', says: 'Simulated devices and their faults' }
		]
	},
	{
		id: 'care',
		title: 'Care',
		href: '/care',
		key: '6',
		says: 'Check, copies, switching on and off, procedures, service',
		pages: [
			{ title: 'Check, copies, reminders', href: '/care', says: 'What is kept stays whole' },
			{
				title: 'On and off',
				href: '/care/switching',
				says: 'The studio switched on, in the order that matters'
			},
			{ title: 'Procedures', href: '/care/procedures', says: 'Step by step, with gates that hold' },
			{ title: 'Service book', href: '/care/service', says: 'Repairs, batteries, faults, and what is due' }
		]
	}
];

export const stageNamed = (id: string): Stage => STAGES.find((stage) => stage.id === id)!;
