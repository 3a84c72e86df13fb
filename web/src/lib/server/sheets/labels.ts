import { toSVG } from 'bwip-js/node';

/** A Data Matrix symbol (ISO/IEC 16022) of a code, as SVG. */
export function dataMatrix(code: string): string {
	return toSVG({ bcid: 'datamatrix', text: code, scale: 4, paddingwidth: 2, paddingheight: 2 });
}
