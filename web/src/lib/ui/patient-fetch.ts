import { navigating } from '$app/state';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Keeps what a page shows while its data cannot be read: a reload in place waits until the database is back, instead of ending on an error page.
 * Going to another page is not held up: that page says what is the matter.
 * @param onAway told when the waiting begins and ends
 * @returns puts the browser's own fetch back
 */
export function keepPageWhileAway(onAway: (away: boolean) => void): () => void {
	const real = window.fetch;
	window.fetch = async (input, init) => {
		const url = input instanceof Request ? input.url : String(input);
		if (!url.includes('__data.json') || navigating.to) return real(input, init);
		for (let waited = false; ; waited = true) {
			const response = await real(input, init);
			const away = response.status === 503;
			if (away !== waited) onAway(away);
			if (!away || navigating.to) return response;
			await pause(1000);
		}
	};
	return () => {
		window.fetch = real;
	};
}
