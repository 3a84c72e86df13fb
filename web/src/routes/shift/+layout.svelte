<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const TABS = [
		{ path: '', name: 'Now' },
		{ path: '/lost-time', name: 'Lost time' },
		{ path: '/changes', name: 'Changes' },
		{ path: '/hand-over', name: 'Hand-over' }
	];
</script>

<section class="flex h-full flex-col pt-1">
	<div class="px-5"><Tabs base="/shift" tabs={TABS} label="Shift" keep={['of']} /></div>
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
