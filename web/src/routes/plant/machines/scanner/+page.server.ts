import { SCANNER_TEST_CODE } from '@keen-relay/core/trace';
import { barcode, dataMatrix } from '$lib/server/sheets/labels.ts';

export function load() {
	return { barcode: barcode(SCANNER_TEST_CODE), matrix: dataMatrix(SCANNER_TEST_CODE) };
}
