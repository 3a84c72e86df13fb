import type { TextDecoders } from '@keen-relay/core/tables';

/** Decodes strictly: null where the bytes are not valid in that encoding. */
export const strictText: TextDecoders = (bytes, encoding) => {
	try {
		return new TextDecoder(encoding, { fatal: true }).decode(bytes);
	} catch {
		return null;
	}
};
