// A kind of station is a line here and one in $lib/server/stations/modules.ts; everything else follows.
export { paste } from './paste.ts';
export { print } from './print.ts';
export { pasteCheck } from './paste-check.ts';
export { place } from './place.ts';
export { oven } from './oven.ts';
export { optical } from './optical.ts';
export { inCircuit } from './in-circuit.ts';
export { bench } from './bench.ts';
