/** What a look at everything that is stored found. */
export interface CheckReport {
	objects: number;
	/** Files that are kept with maps. */
	files: number;
	/** Sounds that are kept by themselves. */
	records: number;
	versions: number;
	/** Messages of captures that are not versions yet. */
	waiting: number;
	/** Messages that a profile read again. */
	decoded: number;
	damage: Damage[];
	/** Damaged sounds that were taken anew from a version that holds them. */
	healed: number;
	/** Devices of which it can be rebuilt from their messages what is said of their slots. */
	stays: { id: string; name: string }[];
	/** Damaged contents that are set aside. */
	quarantined: { hash: string; says: string; foundAt: string }[];
}

export interface Damage {
	versionId: string | null;
	device: string;
	takenAt: string | null;
	says: string;
}
