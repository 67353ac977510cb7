import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

setFlagsFromString('--expose-gc');
/** Has what is not used any more collected, so that what is measured next does not pay for what was made up before. */
export const collect = runInNewContext('gc') as () => void;
