<script lang="ts">
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { send } from '$lib/ui/api.ts';

	let code = $state('');
	let name = $state('');
	let badge = $state('');
	let pin = $state('');
	let again = $state('');
	let problem = $state('');
	let busy = $state(false);
	let alive = $state(false);
	onMount(() => {
		alive = true;
	});

	async function begin(event: SubmitEvent) {
		event.preventDefault();
		if (pin !== again) return void (problem = 'The two PINs differ. Type the same one twice.');
		busy = true;
		const made = await send('POST', '/api/v1/first', { code, name, badge: badge.trim(), pin });
		if (made.ok) await send('POST', '/api/auth/sign-in/username', { username: badge.trim(), password: pin });
		busy = false;
		if (!made.ok) return void (problem = made.message);
		await goto('/plant/set-up', { invalidateAll: true });
	}
</script>

<main class="grid h-dvh grid-cols-[1fr_500px]">
	<div class="flex flex-col justify-center gap-6 border-r border-line px-16">
		<p class="text-3xl font-bold">Keen Relay</p>
		<h1 class="max-w-md text-[28px] leading-9 font-bold">This plant knows nobody yet.</h1>
		<ol class="max-w-md list-decimal pl-5 text-lg leading-8">
			<li>Type the code that the start printed in its terminal: it shows that you may begin this plant.</li>
			<li>Make yourself known: you are its first lead, and enter everybody else.</li>
			<li>Then set the plant up: its lines, machines, boards and people.</li>
		</ol>
	</div>
	<form class="flex flex-col justify-center gap-3 overflow-y-auto bg-sheet px-12" onsubmit={begin}>
		<label class="flex flex-col gap-1"
			><span>Code from the terminal</span>
			<!-- svelte-ignore a11y_autofocus -->
			<input class="figure input h-14 w-full border-line bg-paper text-xl" bind:value={code} autocomplete="off" autofocus required /></label
		>
		<label class="flex flex-col gap-1"
			><span>Your name</span><input
				class="input h-14 w-full border-line bg-paper text-xl"
				bind:value={name}
				autocomplete="name"
				required
			/></label
		>
		<label class="flex flex-col gap-1"
			><span>Badge: scan it, or choose letters and digits</span><input
				class="figure input h-14 w-full border-line bg-paper text-xl"
				bind:value={badge}
				data-scan
				autocomplete="username"
				required
			/></label
		>
		<label class="flex flex-col gap-1"
			><span>PIN, six digits or more</span><input
				class="input h-14 w-full border-line bg-paper text-xl"
				type="password"
				bind:value={pin}
				autocomplete="new-password"
				required
			/></label
		>
		<label class="flex flex-col gap-1"
			><span>The same PIN again</span><input
				class="input h-14 w-full border-line bg-paper text-xl"
				type="password"
				bind:value={again}
				autocomplete="new-password"
				required
			/></label
		>
		<p class="min-h-6 text-stop" role="alert">{problem}</p>
		<button class="btn h-16 text-xl btn-primary" disabled={busy || !alive}>{busy ? 'One moment…' : 'Begin this plant'}</button>
	</form>
</main>
