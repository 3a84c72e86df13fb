<script lang="ts">
	import { page } from '$app/state';
	import type { Tab } from '$lib/stations/kind.ts';

	interface Props {
		/** What the tabs' paths follow. */
		base: string;
		tabs: readonly Tab[];
		label: string;
		/** Search parameters that go along; everything else belongs to its tab. */
		keep?: readonly string[];
	}
	let { base, tabs, label, keep = ['side'] }: Props = $props();
	const search = $derived.by(() => {
		const kept = new URLSearchParams([...page.url.searchParams].filter(([key]) => keep.includes(key)));
		return kept.size ? `?${kept}` : '';
	});
	const under = (path: string) => page.url.pathname === `${base}${path}` || page.url.pathname.startsWith(`${base}${path}/`);
	/** The longest path that the page lies under. */
	const open = $derived([...tabs].sort((a, b) => b.path.length - a.path.length).find((tab) => under(tab.path)));
</script>

<div class="flex items-center gap-4 border-b border-hair max-[1179px]:flex-wrap max-[1179px]:gap-x-3" role="navigation" aria-label={label}>
	{#each tabs as tab (tab.path)}
		{@const chosen = tab === open}
		<a
			href="{base}{tab.path}{search}"
			class="border-b-[3px] px-1 py-2 whitespace-nowrap {chosen ? 'border-copper font-semibold' : 'border-transparent'}"
			aria-current={chosen ? 'page' : undefined}>{tab.name}</a
		>
	{/each}
	{#if open?.views}
		<span class="ml-auto flex overflow-hidden rounded border border-line" role="group" aria-label={open.name}>
			{#each open.views as view, i (view.path)}
				{@const href = `${base}${open.path}${view.path}`}
				{@const chosen = page.url.pathname === href}
				<a
					href="{href}{search}"
					class="px-3 py-1.5 text-sm whitespace-nowrap {i ? 'border-l border-line' : ''} {chosen ? 'bg-ink font-semibold text-paper' : ''}"
					aria-current={chosen ? 'true' : undefined}>{view.name}</a
				>
			{/each}
		</span>
	{/if}
</div>
