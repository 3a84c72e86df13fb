<script lang="ts">
	import type { Verdict } from '@keen-relay/core/judgement';
	import { working } from './working.svelte.ts';

	interface Props {
		value: string;
		unit: string;
		label: string;
		/** Opens behind the button: how the figure was judged. */
		verdict: Verdict;
	}
	let { value, unit, label, verdict }: Props = $props();
	working.offer(() => verdict);
</script>

<div class="flex items-start justify-between gap-3 max-[1179px]:flex-wrap">
	<div>
		<p class="figure text-[46px] leading-[50px] font-semibold whitespace-nowrap" data-testid="key-figure">
			{value}<span class="ml-2 font-sans text-xl font-normal">{unit}</span>
		</p>
		<p class="text-soft">{label}</p>
	</div>
	<button class="btn h-12 border-ink bg-transparent px-4" onclick={() => working.show(verdict)}
		>Working <kbd class="kbd kbd-sm">w</kbd></button
	>
</div>
