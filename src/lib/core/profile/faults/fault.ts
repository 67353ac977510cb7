/** Something that one part of a profile says and another does not bear out. */
export interface Fault {
	path: (string | number)[];
	says: string;
}
