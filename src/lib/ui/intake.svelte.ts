/** Files that were chosen somewhere and wait to be looked into, each with the folder that it lay in. */
class Intake {
	files = $state.raw<{ file: File; from: string }[]>([]);
}

export const intake = new Intake();
