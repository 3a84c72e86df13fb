<script lang="ts">
	import Tabs from './Tabs.svelte';

	const TABS = [
		{ path: '', name: 'Jars' },
		{ path: '/plan', name: 'Fridge plan' },
		{ path: '/types', name: 'Pastes and sensors' }
	];
</script>

<Tabs station="paste" tabs={TABS} label="Paste" />
