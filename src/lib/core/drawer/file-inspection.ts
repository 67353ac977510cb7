import type { DumpFile } from '../sysex';

/** What a file is, before anything of it is stored. */
export interface FileInspection {
	kind: 'syx' | 'mid';
	messages: number;
	/** Of all messages together. */
	bytes: number;
	/** Messages without an end. */
	truncated: number;
	/** The first of them; `offset` and `length` in bytes. */
	firstTruncated: { offset: number; length: number }[];
	remarks: DumpFile['remarks'];
	/** What the file is, as far as a profile can tell. */
	recognised: {
		profileId: string;
		title: string;
		read: number;
		damaged: number;
		/** The first of the damaged ones. */
		firstDamaged: { index: number; says: string }[];
		foreign: number;
		deviceIds: number[];
	} | null;
	slots: { area: string; label: string; name: string | null }[];
	/** Dumps that do not say which slot they are of. */
	loose: LooseInFile[];
	/** What belongs together, where the file holds dumps of several devices; one entry otherwise. */
	parts: FilePart[];
	/** Devices of the catalogue that it could belong to, likeliest first. */
	devices: FittingDevice[];
	/** Versions that hold exactly these messages. */
	already: KeptAlready[];
}

/** A dump of a file that names no slot: somebody has to say which it is of. */
export interface LooseInFile {
	/** The number of its message in the file, from 0. */
	message: number;
	slotWord: string;
	name: string | null;
	/** Of all slots that it could be of, as the panel shows them. */
	labels: string[];
	/** By device: slots that were last seen to hold exactly that. */
	found: Record<string, number[]>;
}

/** Messages of a file that are one device’s. */
export interface FilePart {
	title: string;
	/** The profile that reads them; null where none does. */
	profileId: string | null;
	/** As on the wire; null where the messages carry none. */
	deviceId: number | null;
	/** Numbers of its messages, from 0. */
	messages: number[];
	/** Slots that it holds, of all that such a device has; null where no profile knows it. */
	slots: { held: number; of: number } | null;
	/** Why it cannot be kept: cut off, or damaged; empty where nothing speaks against it. */
	fault: string;
	devices: FittingDevice[];
	/** Versions that hold exactly these messages. */
	already: KeptAlready[];
}

export interface KeptAlready {
	id: string;
	deviceId: string;
	takenAt: string;
}

/** A device of the catalogue that messages could belong to. */
export interface FittingDevice {
	id: string;
	name: string;
	fits: boolean;
	why: string;
}

/**
 * The devices that a dump most likely came from: those that fit best, or of these the one whose drawer is open. More
 * than one fit equally well where nothing in the file tells them apart: then somebody must say which.
 */
export function likeliestDevices(devices: readonly FittingDevice[], openId?: string): FittingDevice[] {
	const fitting = devices.filter(({ fits }) => fits);
	const best = fitting.filter(({ why }) => why === fitting[0].why);
	const open = best.find(({ id }) => id === openId);
	return open ? [open] : best;
}
