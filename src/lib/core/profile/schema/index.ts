export type { ProfileReport } from './about';
export type { ProfileArea, SlotLabels } from './area';
export type { Described } from './described';
export type { CarrierPart, MessagePart, PartOf, VariableName } from './message';
export { profileShape, type Profile } from './profile';
export {
	MOST_FIELDS,
	type Charset,
	type ProfileParameter,
	type ProfileRecord,
	type ProfileReference,
	type ProfileText,
	type ValueCode
} from './record';
export type { Told, ToldValue } from './told';
export { CELL_FIELDS, CELL_KINDS, CELL_WAYS, type SurfaceMemory } from './surface';
export type { Variant } from './variant';
export type { CaptureWay, PreflightCheck, RestoreWay } from './ways';
