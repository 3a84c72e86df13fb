// A kind of station is a line here and one in $lib/stations/kinds.ts; everything else follows.
export { paste } from './paste/index.ts';
export { print } from './print/index.ts';
export { pasteCheck } from './paste-check/index.ts';
export { place } from './place/index.ts';
export { oven } from './oven/index.ts';
export { optical } from './optical/index.ts';
export { inCircuit } from './in-circuit/index.ts';
export { bench } from './bench/index.ts';
