/** A file that was chosen somewhere and waits to be looked into. */
class Intake {
	file = $state.raw<File | null>(null);
}

export const intake = new Intake();
