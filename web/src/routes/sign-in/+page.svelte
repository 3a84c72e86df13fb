<script lang="ts">
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { send } from '$lib/ui/api.ts';

	let { data } = $props();
	let badge = $state('');
	let pin = $state('');
	let problem = $state('');
	/** Whoever signs in with a starting code chooses a PIN first. */
	let choosing = $state(false);
	let newPin = $state('');
	let again = $state('');
	let busy = $state(false);
	/** Before the page has come alive a press would only load it anew, with empty fields. */
	let alive = $state(false);
	onMount(() => {
		alive = true;
	});

	async function signIn(event: SubmitEvent) {
		event.preventDefault();
		if (!badge.trim() || !pin) return void (problem = 'Scan or type the badge, and type the PIN.');
		busy = true;
		const answer = await send('POST', '/api/auth/sign-in/username', { username: badge.trim(), password: pin });
		busy = false;
		if (answer.message === 'choose a PIN') {
			[choosing, problem] = [true, ''];
			return;
		}
		if (!answer.ok) {
			problem = /too many/i.test(answer.message) ? answer.message : 'This badge and PIN do not go together.';
			pin = '';
			return;
		}
		await goto(data.to, { invalidateAll: true });
	}
	async function choose(event: SubmitEvent) {
		event.preventDefault();
		if (!newPin) return void (problem = 'Choose a PIN.');
		if (newPin !== again) return void (problem = 'The two PINs differ. Type the same one twice.');
		busy = true;
		const chosen = await send('POST', '/api/v1/first-pin', { badge: badge.trim(), code: pin, newPin });
		if (!chosen.ok) {
			busy = false;
			return void (problem = chosen.message);
		}
		pin = newPin;
		await signIn(event);
	}
</script>

<main class="grid h-dvh grid-cols-[1fr_460px]">
	<div class="flex flex-col justify-center gap-6 border-r border-line px-16">
		<p class="flex items-center gap-3 text-3xl font-bold">
			<svg width="52" height="34" viewBox="0 0 24 16" aria-hidden="true">
				<path d="M1 12h7l4-8h11" fill="none" stroke="var(--copper)" stroke-width="2" /><rect
					x="8.5"
					y="8"
					width="6"
					height="6"
					fill="var(--ink)"
				/>
			</svg>
			Keen Relay
		</p>
		<p class="max-w-md text-xl">{data.plantName}: paste, print, place, reflow, inspect and test, in the order boards travel.</p>
		{#if data.demo.length}
			<div class="max-w-md border-t border-line pt-4 text-sm" data-testid="demo-people">
				<p class="mb-2 text-soft">This is a demonstration plant with invented people. Badge and PIN:</p>
				<table class="rows">
					<tbody>
						{#each data.demo as person (person.badge)}
							<tr><td class="figure">{person.badge}</td><td class="figure">{person.pin}</td><td class="text-soft">{person.role}</td></tr>
						{/each}
					</tbody>
				</table>
			</div>
		{/if}
	</div>
	{#if choosing}
		<form class="flex flex-col justify-center gap-4 bg-sheet px-12" onsubmit={choose} method="post" novalidate>
			<h1 class="text-[28px] font-bold">Choose your PIN</h1>
			<p>It signs for what you do, and only you know it. The starting code opens nothing after this.</p>
			<label class="flex flex-col gap-1"
				><span>PIN</span>
				<!-- svelte-ignore a11y_autofocus -->
				<input
					class="input h-16 w-full border-line bg-paper text-xl"
					type="password"
					bind:value={newPin}
					autocomplete="new-password"
					autofocus
				/></label
			>
			<label class="flex flex-col gap-1"
				><span>The same PIN again</span><input
					class="input h-16 w-full border-line bg-paper text-xl"
					type="password"
					bind:value={again}
					autocomplete="new-password"
				/></label
			>
			<p class="min-h-6 text-stop" role="alert">{problem}</p>
			<button class="btn h-16 text-xl btn-primary" disabled={busy || !alive}>{busy ? 'One moment…' : 'Use this PIN'}</button>
		</form>
	{:else}
		<form class="flex flex-col justify-center gap-4 bg-sheet px-12" onsubmit={signIn} method="post" novalidate>
			<h1 class="text-[28px] font-bold">Sign in</h1>
			<label class="flex flex-col gap-1">
				<span>Badge</span>
				<!-- svelte-ignore a11y_autofocus -->
				<input class="input h-16 w-full border-line bg-paper text-xl" bind:value={badge} data-scan autocomplete="username" autofocus />
			</label>
			<label class="flex flex-col gap-1">
				<span>PIN, or a starting code</span>
				<input
					class="input h-16 w-full border-line bg-paper text-xl"
					type="password"
					bind:value={pin}
					aria-label="PIN"
					autocomplete="current-password"
				/>
			</label>
			<p class="min-h-6 text-stop" role="alert">{problem}</p>
			<button class="btn h-16 text-xl btn-primary" disabled={busy || !alive}>{busy ? 'Signing in…' : 'Sign in'}</button>
		</form>
	{/if}
</main>
