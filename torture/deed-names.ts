/** What is done in a process of its own and broken off: each is all or nothing, a backup message by message. */
export const DEEDS = [
	'first start',
	'migration',
	'table of devices',
	'rig file',
	'bundle',
	'dump file',
	'profile',
	'backup',
	'daily copy',
	'put back'
] as const;
export type Deed = (typeof DEEDS)[number];

/** What is said of each message of a backup, once it is stored. */
export const KEPT = 'kept';

/** What is said once all of it is. */
export const DONE = 'done';

export const isDone = (said: string): boolean => said.includes(DONE);
