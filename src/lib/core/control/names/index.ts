export { DISPLAY_CHARSET_IDS, DISPLAY_CHARSETS, spell, type DisplayCharset } from './charset';
export { COST } from './cost';
export { sameInTheEye } from './shorter';
export * from './fit-names';
