<script lang="ts">
	import { onMount } from 'svelte';
	import { z } from 'zod';
	import { goto } from '$app/navigation';
	import { badgeAndPin, bodies } from '$lib/api/bodies.ts';
	import { send } from '$lib/ui/api.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	let { data } = $props();
	/** Whoever signs in with a starting code chooses a PIN first. */
	let choosing = $state(false);
	/** Before the page has come alive a press would only load it anew, with empty fields. */
	let alive = $state(false);
	onMount(() => {
		alive = true;
	});
	const NOT_TOGETHER = 'This badge and PIN do not go together';
	const signIn = (badge: string, pin: string) => send('POST', '/api/auth/sign-in/username', { username: badge, password: pin });

	const signing = entry({
		id: 'sign-in',
		schema: badgeAndPin,
		start: () => ({ badge: '', pin: '' }),
		stays: true,
		async sends({ badge, pin }, refuse) {
			const answer = await signIn(badge, pin);
			choosing = answer.message === 'choose a PIN';
			if (answer.ok) await goto(data.to, { invalidateAll: true });
			else if (!choosing) refuse([{ field: 'pin', message: /too many/i.test(answer.message) ? answer.message : NOT_TOGETHER }]);
			return answer.ok ? {} : null;
		}
	});
	const { form: typed, errors: wrong, submitting: busy } = signing;
	const first = entry({
		id: 'first-pin',
		schema: bodies.firstPin
			.pick({ newPin: true })
			.extend({ again: z.string() })
			.refine(({ newPin, again }) => newPin === again, { path: ['again'], message: 'The two PINs differ. Type the same one twice' }),
		start: () => ({ newPin: '', again: '' }),
		stays: true,
		async sends({ newPin }, refuse) {
			const { badge, pin: code } = $typed;
			const chosen = await send('POST', '/api/v1/first-pin', { badge: badge.trim(), code, newPin });
			if (chosen.ok && (await signIn(badge.trim(), newPin)).ok) {
				await goto(data.to, { invalidateAll: true });
				return {};
			}
			refuse([{ field: 'newPin', message: chosen.message || NOT_TOGETHER }]);
			return null;
		}
	});
	const { form: chosen, errors: refused, submitting: choosingNow } = first;
	const BIG = 'h-16 bg-paper text-xl';
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
				<dl class="facts">
					{#each data.demo as person (person.badge)}
						<div>
							<dt class="figure">{person.badge}</dt>
							<dd class="figure">{person.pin}</dd>
							<dd class="text-soft">{person.role}</dd>
						</div>
					{/each}
				</dl>
			</div>
		{/if}
	</div>
	{#if choosing}
		<EntryForm enhance={first.enhance} label="Choose your PIN" class="flex flex-col justify-center gap-4 bg-sheet px-12">
			<h1 class="text-[28px] font-bold">Choose your PIN</h1>
			<p>It signs for what you do, and only you know it. The starting code opens nothing after this.</p>
			<TextField
				label="PIN"
				type="password"
				bind:value={$chosen.newPin}
				errors={$refused.newPin}
				class={BIG}
				autocomplete="new-password"
				autofocus
			/>
			<TextField
				label="The same PIN again"
				type="password"
				bind:value={$chosen.again}
				errors={$refused.again}
				class={BIG}
				autocomplete="new-password"
			/>
			<button class="btn h-16 text-xl btn-primary" disabled={$choosingNow || !alive}>{$choosingNow ? 'One moment…' : 'Use this PIN'}</button
			>
		</EntryForm>
	{:else}
		<EntryForm enhance={signing.enhance} label="Sign in" class="flex flex-col justify-center gap-4 bg-sheet px-12">
			<h1 class="text-[28px] font-bold">Sign in</h1>
			<TextField label="Badge" bind:value={$typed.badge} errors={$wrong.badge} scan class={BIG} autocomplete="username" autofocus />
			<TextField
				label="PIN, or a starting code"
				spoken="PIN"
				type="password"
				bind:value={$typed.pin}
				errors={$wrong.pin}
				class={BIG}
				autocomplete="current-password"
			/>
			<button class="btn h-16 text-xl btn-primary" disabled={$busy || !alive}>{$busy ? 'Signing in…' : 'Sign in'}</button>
		</EntryForm>
	{/if}
</main>
