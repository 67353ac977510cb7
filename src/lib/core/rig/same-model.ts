/** A model as it is compared: however somebody wrote it. Empty where none is known. */
export const plainModel = (model: string): string => model.trim().toLowerCase().replace(/\s+/g, ' ');

/** Whether two devices are of one model, which is known. */
export const sameModel = (a: string, b: string): boolean =>
	plainModel(a) !== '' && plainModel(a) === plainModel(b);
