<script lang="ts">
	import { page } from '$app/state';
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const TABS = [
		{ path: '', name: 'Now' },
		{ path: '/hours', name: 'Hours' },
		{ path: '/stops', name: 'Stops' }
	];
</script>

<section class="flex h-full flex-col px-5 pt-1">
	<Tabs base="/line/{page.params.line}" tabs={TABS} label="Line" />
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
