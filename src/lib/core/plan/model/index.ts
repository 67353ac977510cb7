export { crowd, worthwhile, bestAlone } from './channels';
export { bringBack } from './returns';
export { each, sameChannels, sumOf, type PlanModel, type Seat, type Option, type Entry } from './draft';
export { chosenChannels, keepReserved, studioChannels } from './studio-channels';
export { commonStep, movesAtLeast, planModel } from './plan-model';
