import { getContext, setContext } from 'svelte';
import { OpenMap, type Opened } from './open-map.svelte';

const KEY = Symbol('map');

/** One map for all its pages: what one has changed, the next one shows. */
export const provideMap = (opened: Opened): OpenMap => setContext(KEY, new OpenMap(opened));

export const openMap = (): OpenMap => getContext<OpenMap>(KEY);
