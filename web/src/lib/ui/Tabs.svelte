<script lang="ts">
	import { page } from '$app/state';

	interface Props {
		/** Path of the station on its line. */
		station: string;
		tabs: readonly { path: string; name: string }[];
		label: string;
	}
	let { station, tabs, label }: Props = $props();
	const base = $derived(`/line/${page.params.line}/${station}`);
	/** The board side that is looked at goes along; everything else belongs to its tab. */
	const search = $derived(page.url.searchParams.has('side') ? `?side=${page.url.searchParams.get('side')}` : '');
</script>

<div class="flex gap-4 border-b border-hair" role="navigation" aria-label={label}>
	{#each tabs as tab (tab.path)}
		{@const chosen = page.url.pathname === `${base}${tab.path}`}
		<a
			href="{base}{tab.path}{search}"
			class="border-b-[3px] px-1 py-2 whitespace-nowrap {chosen ? 'border-copper font-semibold' : 'border-transparent'}"
			aria-current={chosen ? 'page' : undefined}>{tab.name}</a
		>
	{/each}
</div>
