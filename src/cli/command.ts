export interface Command {
	usage: string;
	says: string;
	/** Gives the exit code. Answers go to standard output as JSON. */
	run(words: string[]): Promise<number>;
}
