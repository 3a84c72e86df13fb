<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { z } from 'zod';
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { send } from '$lib/ui/api.ts';

	const { form, errors, enhance, submitting } = entry({
		id: 'first-lead',
		schema: bodies.firstLead.extend({ again: z.string() }).refine(({ pin, again }) => pin === again, {
			path: ['again'],
			message: 'The two PINs differ. Type the same one twice'
		}),
		start: () => ({ code: '', name: '', badge: '', pin: '', again: '' }),
		path: '/api/v1/first',
		body: ({ again: _, ...lead }) => lead,
		done: ({ name }) => `${name} is the first lead`,
		then: async (_, { badge, pin }) => {
			await send('POST', '/api/auth/sign-in/username', { username: badge, password: pin });
			await goto('/plant/set-up', { invalidateAll: true });
		}
	});
	let alive = $state(false);
	onMount(() => {
		alive = true;
	});
	const BIG = 'h-14 text-xl';
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
	<EntryForm {enhance} label="First lead" class="flex flex-col justify-center gap-3 overflow-y-auto bg-sheet px-12">
		<TextField label="Code from the terminal" bind:value={$form.code} errors={$errors.code} figure class={BIG} autofocus />
		<TextField label="Your name" bind:value={$form.name} errors={$errors.name} class={BIG} autocomplete="name" />
		<TextField
			label="Badge: scan it, or choose letters and digits"
			bind:value={$form.badge}
			errors={$errors.badge}
			figure
			scan
			class={BIG}
			autocomplete="username"
		/>
		<TextField
			label="PIN, six digits or more"
			type="password"
			bind:value={$form.pin}
			errors={$errors.pin}
			class={BIG}
			autocomplete="new-password"
		/>
		<TextField
			label="The same PIN again"
			type="password"
			bind:value={$form.again}
			errors={$errors.again}
			class={BIG}
			autocomplete="new-password"
		/>
		<button class="btn h-16 text-xl btn-primary" disabled={$submitting || !alive}>{$submitting ? 'One moment…' : 'Begin this plant'}</button
		>
	</EntryForm>
</main>
