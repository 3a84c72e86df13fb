export * from './apertures.ts';
export * from './bill-of-materials.ts';
export { governingWidth } from './width.ts';
export { plotGerber } from './gerber-plot.ts';
export * from './panel.ts';
export * from './positions.ts';
export * from './reconcile.ts';
export * from './register.ts';
export { measure, measureRing } from './standard-shapes.ts';
export {
	decimalSign,
	decodeText,
	findHeader,
	headerDelimiter,
	openQuote,
	readNumber,
	splitTable,
	type TextDecoders
} from './table-file.ts';
export * from './circuits.ts';
export * from './layers.ts';
export * from './netlist.ts';
export * from './sides.ts';
