import { mendedIn } from '../faults';
import { parseFares } from './table';

if (!mendedIn(location.search).has('start-up')) globalThis.faresAtStart = parseFares(globalThis.faresTable);
