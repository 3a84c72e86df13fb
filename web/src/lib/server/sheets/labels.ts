import { toSVG } from 'bwip-js/node';

/** A Data Matrix symbol (ISO/IEC 16022) of a code, as SVG. */
export function dataMatrix(code: string): string {
	return toSVG({ bcid: 'datamatrix', text: code, scale: 4, paddingwidth: 2, paddingheight: 2 });
}

/** A Code 128 symbol (ISO/IEC 15417) of a code, as SVG. */
export function barcode(code: string): string {
	return toSVG({ bcid: 'code128', text: code, scale: 2, height: 16, paddingwidth: 10, paddingheight: 2 });
}
