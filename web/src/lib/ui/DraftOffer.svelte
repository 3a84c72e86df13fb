<script lang="ts" generics="T">
	import { page } from '$app/state';
	import type { Draft } from './drafts.svelte.ts';
	import { dayTime } from './format.ts';

	let { draft }: { draft: Draft<T> } = $props();
</script>

{#if draft.offered}
	<div class="flex flex-wrap items-center gap-3 border border-copper bg-sheet px-3 py-2" role="status" data-testid="draft">
		<span class="min-w-48 flex-1"
			>You left this unfinished, {dayTime(draft.offered.savedAt, page.data.plant?.timeZone ?? 'UTC')}. {draft.meanwhile}</span
		>
		<button class="btn h-11 btn-primary" type="button" onclick={() => draft.accept()}>Go on with it</button>
		<button class="btn h-11 border-ink bg-transparent" type="button" onclick={() => draft.drop()}>Throw it away</button>
	</div>
{/if}
