<script lang="ts">
	import Tabs from './Tabs.svelte';

	const TABS = [
		{ path: '', name: 'Panels' },
		{ path: '/causes', name: 'Causes' },
		{ path: '/classes', name: 'Classes and wipe' },
		{ path: '/limits', name: 'Limits' },
		{ path: '/consequences', name: 'Consequences' },
		{ path: '/unit', name: 'Unit' },
		{ path: '/thresholds', name: 'Thresholds' },
		{ path: '/import', name: 'File' }
	];
</script>

<Tabs station="paste-check" tabs={TABS} label="Paste check" />
