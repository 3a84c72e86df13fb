/** The parts of pdfmake that the sheets use; it brings no types of its own. */
declare module 'pdfmake' {
	type Content = string | number | { [key: string]: unknown } | Content[];
	interface Pdf {
		getBuffer(): Promise<Buffer>;
	}
	const pdfmake: {
		addFonts(fonts: Record<string, Record<'normal' | 'bold', string>>): void;
		setLocalAccessPolicy?(allow: (path: string) => boolean): void;
		setUrlAccessPolicy?(allow: (url: string) => boolean): void;
		createPdf(definition: { content: Content[]; [key: string]: unknown }): Pdf;
	};
	export default pdfmake;
}
