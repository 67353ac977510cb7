/** Models as they are compared: however somebody wrote them. Empty where none is known. */
const plain = (model: string) => model.trim().toLowerCase().replace(/\s+/g, ' ');

/** Whether two devices are of one model, which is known. */
export const sameModel = (a: string, b: string): boolean => plain(a) !== '' && plain(a) === plain(b);
