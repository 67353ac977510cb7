import type { DumpFile } from '../sysex';

/** What a file is, before anything of it is stored. */
export interface FileInspection {
	kind: 'syx' | 'mid';
	messages: { offset: number; length: number; complete: boolean; manufacturer: string; meaning: string }[];
	remarks: DumpFile['remarks'];
	/** What the file is, as far as a profile can tell. */
	recognised: {
		profileId: string;
		title: string;
		read: number;
		damaged: { index: number; says: string }[];
		foreign: number;
		deviceIds: number[];
	} | null;
	slots: { area: string; label: string; name: string | null }[];
	/** Devices of the catalogue that it could belong to, likeliest first. */
	devices: { id: string; name: string; fits: boolean; why: string }[];
}
