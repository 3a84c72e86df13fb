<script lang="ts">
	import { untrack } from 'svelte';
	import { GLOSSARY, termsIn, type Term } from './glossary.ts';

	interface Props {
		/** Where they are looked for. */
		within: HTMLElement | undefined;
		/** Those that stand there now, for the list of keys. */
		here: readonly Term[];
	}
	let { within, here = $bindable() }: Props = $props();

	const QUIET_MS = 400;
	/** What does something when it is pressed, or is typed into, explains nothing. */
	const BUSY = 'a, button, input, select, textarea, summary, label, canvas, [role="button"], [data-plain]';
	let shown = $state<{ term: Term; x: number; y: number } | null>(null);

	/** Underlines the first place of each word without touching the page: what is drawn stays as the pages made it. */
	function mark(root: HTMLElement) {
		const seen = new Map<Term, Range>();
		const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
		const every = new Set<Term>();
		for (let node = walker.nextNode(); node; node = walker.nextNode()) {
			const text = node.nodeValue ?? '';
			if (text.trim().length < 3) continue;
			for (const { from, to, term } of termsIn(text)) {
				every.add(term);
				if (seen.has(term) || node.parentElement?.closest(BUSY)) continue;
				const range = document.createRange();
				range.setStart(node, from);
				range.setEnd(node, to);
				seen.set(term, range);
			}
		}
		here = GLOSSARY.filter((term) => every.has(term));
		if (typeof Highlight !== 'undefined') CSS.highlights.set('term', new Highlight(...seen.values()));
	}

	$effect(() => {
		const root = within;
		if (!root) return;
		let timer: ReturnType<typeof setTimeout> | undefined;
		const later = () => {
			clearTimeout(timer);
			timer = setTimeout(() => untrack(() => mark(root)), QUIET_MS);
		};
		const observer = new MutationObserver(later);
		observer.observe(root, { childList: true, characterData: true, subtree: true });
		later();
		return () => {
			observer.disconnect();
			clearTimeout(timer);
			if (typeof Highlight !== 'undefined') CSS.highlights.delete('term');
		};
	});

	function pressed(event: MouseEvent) {
		shown = null;
		const target = event.target as Element | null;
		if (!within?.contains(target) || target?.closest(BUSY) || !document.getSelection()?.isCollapsed) return;
		const at = document.caretPositionFromPoint(event.clientX, event.clientY);
		if (at?.offsetNode.nodeType !== Node.TEXT_NODE) return;
		const found = termsIn(at.offsetNode.nodeValue ?? '').find(({ from, to }) => at.offset >= from && at.offset <= to);
		if (!found) return;
		// The caret may be the nearest there is to an empty place.
		const range = document.createRange();
		range.setStart(at.offsetNode, found.from);
		range.setEnd(at.offsetNode, found.to);
		const box = [...range.getClientRects()].find(
			(r) => event.clientX >= r.left - 2 && event.clientX <= r.right + 2 && event.clientY >= r.top - 2 && event.clientY <= r.bottom + 2
		);
		if (!box) return;
		shown = {
			term: found.term,
			x: Math.min(box.left, innerWidth - 380),
			y: box.bottom + 6 > innerHeight - 130 ? box.top - 110 : box.bottom + 6
		};
	}
</script>

<svelte:window
	onclick={pressed}
	onkeydown={(event) => {
		if (event.key === 'Escape') shown = null;
	}}
/>

{#if shown}
	<div
		class="fixed z-50 w-[360px] border border-copper bg-sheet px-4 py-3 text-[15px]"
		style="left:{shown.x}px;top:{shown.y}px"
		role="status"
		data-testid="meaning"
	>
		<strong>{shown.term.names.join(', ')}</strong>: {shown.term.meaning}
	</div>
{/if}
