import type { Page } from './test.ts';

/** What does not fit on the page as it stands: it scrolls sideways, words are cut off, or words lie on words. Nothing where all fits. */
export const misfits = (page: Page): Promise<string[]> =>
	page.evaluate(() => {
		const found: string[] = [];
		const { scrollWidth, scrollHeight } = document.documentElement;
		if (scrollWidth > innerWidth + 1) found.push(`the page is ${scrollWidth} wide`);
		if (scrollHeight > innerHeight + 1) found.push(`the page is ${scrollHeight} high`);
		const words: { node: Element; text: string; left: number; top: number; right: number; bottom: number }[] = [];
		for (const node of document.querySelectorAll('main *, header *, nav *, footer *')) {
			const style = getComputedStyle(node);
			if (style.visibility === 'hidden' || style.display === 'none') continue;
			if (node.closest('svg, canvas, option, datalist, [role="status"], [data-sonner-toaster]')) continue;
			if (
				/auto|scroll/.test(style.overflowX) &&
				node.clientWidth > 0 &&
				node.scrollWidth > node.clientWidth + 1 &&
				!/INPUT|TEXTAREA|SELECT|PRE/.test(node.tagName)
			)
				found.push(`${node.getAttribute('aria-label') ?? node.className} scrolls sideways, ${node.scrollWidth} in ${node.clientWidth}`);
			for (const child of node.childNodes) {
				const text = child.nodeType === Node.TEXT_NODE ? (child.nodeValue ?? '').trim() : '';
				if (text.length < 2) continue;
				const clip = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };
				for (let up: Element | null = node; up && up !== document.body; up = up.parentElement) {
					const { overflowX, overflowY } = getComputedStyle(up);
					if (overflowX === 'visible' && overflowY === 'visible') continue;
					const box = up.getBoundingClientRect();
					clip.left = Math.max(clip.left, box.left);
					clip.top = Math.max(clip.top, box.top);
					clip.right = Math.min(clip.right, box.right);
					clip.bottom = Math.min(clip.bottom, box.bottom);
				}
				const range = document.createRange();
				range.selectNodeContents(child);
				for (const box of range.getClientRects()) {
					const left = Math.max(box.left, clip.left);
					const top = Math.max(box.top, clip.top);
					const right = Math.min(box.right, clip.right);
					const bottom = Math.min(box.bottom, clip.bottom);
					// Scrolled out of sight.
					if (right - left < 2 || bottom - top < 4) continue;
					if (box.right > clip.right + 2 && style.textOverflow !== 'ellipsis' && !node.closest('.truncate'))
						found.push(`“${text}” is cut off`);
					words.push({ node, text, left, top, right, bottom });
				}
			}
		}
		const floats = (node: Element) => {
			for (let up: Element | null = node; up && up !== document.body; up = up.parentElement)
				if (/sticky|fixed|absolute/.test(getComputedStyle(up).position)) return true;
			return false;
		};
		words.forEach((a, i) => {
			for (const b of words.slice(i + 1)) {
				if (a.node.contains(b.node) || b.node.contains(a.node)) continue;
				const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
				const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
				// A letter's box is higher than the letter: lines that stand close touch by a few pixels.
				const touch = 0.35 * Math.min(a.bottom - a.top, b.bottom - b.top);
				if (wide > 3 && high > Math.max(5, touch) && !floats(a.node) && !floats(b.node)) found.push(`“${a.text}” lies on “${b.text}”`);
			}
		});
		return [...new Set(found)].slice(0, 8);
	});
