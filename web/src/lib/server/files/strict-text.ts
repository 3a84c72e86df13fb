import type { TextDecoders } from '@keen-relay/core/artwork';

/** Decodes strictly: null where the bytes are not valid in that encoding. */
export const strictText: TextDecoders = (bytes, encoding) => {
	try {
		return new TextDecoder(encoding, { fatal: true }).decode(bytes);
	} catch {
		return null;
	}
};
