<script lang="ts" generics="T">
	import type { Snippet } from 'svelte';
	import type { Action } from 'svelte/action';
	import type { Draft } from './drafts.svelte.ts';
	import DraftOffer from './DraftOffer.svelte';

	interface Props {
		/** Of `entry`. */
		enhance: Action<HTMLFormElement>;
		draft?: Draft<T> | undefined;
		/** By which fields and buttons elsewhere on the page belong to it. */
		id?: string;
		/** Read to who cannot see it. */
		label?: string;
		class?: string;
		children: Snippet;
	}
	let { enhance, draft, id, label, class: looks = '', children }: Props = $props();
</script>

<!-- What is missing or wrong is said at its field, in our words; never in the address. -->
<form {id} class="entry {looks}" method="post" novalidate autocomplete="off" aria-label={label} use:enhance>
	{#if draft?.offered}<div class="col-span-full"><DraftOffer {draft} /></div>{/if}
	{@render children()}
</form>
