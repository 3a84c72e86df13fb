<script lang="ts">
	import { judgeScanner, SCANNER_TEST_CODE, type KeyHeard } from '@keen-relay/core/trace';
	import { tryScanner } from '$lib/ui/scanner.ts';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';

	let { data } = $props();
	/** A code is over when a key ends it, or when none comes for so long. */
	const OVER_MS = 600;
	let keys = $state<KeyHeard[]>([]);
	let heard = $state<KeyHeard[]>([]);
	const verdict = $derived(judgeScanner(heard));
	const gaps = $derived(heard.slice(1).map(({ atMs }, i) => atMs - heard[i]!.atMs));

	$effect(() => {
		let over: ReturnType<typeof setTimeout> | undefined;
		const finish = () => {
			clearTimeout(over);
			if (keys.length > 1) heard = keys;
			keys = [];
		};
		const stop = tryScanner((event) => {
			if (event.ctrlKey || event.altKey || event.metaKey || event.key === 'Shift') return;
			const ends = event.key === 'Enter' || event.key === 'Tab';
			// A key by itself moves through the page as ever.
			if (ends && keys.length === 0) return;
			if (!ends && event.key.length !== 1) return;
			event.preventDefault();
			event.stopImmediatePropagation();
			keys.push({ key: event.key, atMs: event.timeStamp });
			clearTimeout(over);
			if (ends) finish();
			else over = setTimeout(finish, OVER_MS);
		});
		return () => {
			clearTimeout(over);
			stop();
		};
	});
</script>

<div class="beside grid h-full gap-8 overflow-y-auto pt-3 [--beside:420px]">
	<section>
		<VerdictHead {verdict} />
		<p class="mt-2 text-soft">
			Print this page or scan it from the screen, with the scanner that this PC has. While the page is open no code is looked up.
		</p>
		<div class="mt-4 flex flex-wrap items-center gap-8">
			<!-- eslint-disable-next-line svelte/no-at-html-tags -- drawn by our own server -->
			<div class="w-[420px] bg-white p-3" role="img" aria-label="Test code as a bar code">{@html data.barcode}</div>
			<!-- eslint-disable-next-line svelte/no-at-html-tags -- drawn by our own server -->
			<div class="w-[130px] bg-white p-3" role="img" aria-label="Test code as a Data Matrix">{@html data.matrix}</div>
		</div>
		<p class="figure mt-3 text-lg">{SCANNER_TEST_CODE}</p>
	</section>
	<aside class="border-l border-line pl-5">
		<h2 class="border-b border-hair pb-1 font-semibold text-soft">What came</h2>
		{#if heard.length}
			<dl class="facts text-sm" data-testid="heard">
				{#each verdict.because as b (b.quantity)}<div>
						<dt>{b.quantity}</dt>
						<dd class="figure break-all">{b.value}{b.unit ? ` ${b.unit}` : ''}</dd>
						<dd class="text-soft">{b.limit}</dd>
					</div>{/each}
				<div>
					<dt>Keys</dt>
					<dd class="figure">{heard.length}</dd>
					<dd></dd>
				</div>
				<div>
					<dt>Usual pause between them</dt>
					<dd class="figure">{Math.round([...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 0)} ms</dd>
					<dd></dd>
				</div>
			</dl>
		{:else}<p class="py-2 text-soft">Nothing yet. Scan one of the two codes.</p>{/if}
	</aside>
</div>
