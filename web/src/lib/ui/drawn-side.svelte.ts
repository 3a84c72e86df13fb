import { loadGeometry, type SideGeometry } from './geometry.ts';

/** What is drawn of the side that a page shows; null until it has come, and while there is no side. Made while its page is. */
export class DrawnSide {
	geometry = $state.raw<SideGeometry | null>(null);

	constructor(sideId: () => number | undefined) {
		const id = $derived(sideId());
		$effect(() => {
			const asked = id;
			this.geometry = null;
			if (asked !== undefined) void loadGeometry(asked).then((read) => asked === id && (this.geometry = read));
		});
	}
}
