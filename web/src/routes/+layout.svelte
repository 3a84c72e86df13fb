<script lang="ts">
	import '../app.css';
	import { goto, invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import LogOut from '@lucide/svelte/icons/log-out';
	import Moon from '@lucide/svelte/icons/moon';
	import Ruler from '@lucide/svelte/icons/ruler';
	import Sun from '@lucide/svelte/icons/sun';
	import { untrack } from 'svelte';
	import { Toaster } from 'svelte-sonner';
	import type { Found } from '$lib/model/types.ts';
	import { send } from '$lib/ui/api.ts';
	import ApprovalDialog from '$lib/ui/ApprovalDialog.svelte';
	import BadgeBar from '$lib/ui/BadgeBar.svelte';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import { doEarly } from '$lib/ui/early.ts';
	import { clockTime } from '$lib/ui/format.ts';
	import FiguresDialog from '$lib/ui/FiguresDialog.svelte';
	import KeyList from '$lib/ui/KeyList.svelte';
	import { listenLive } from '$lib/ui/live.ts';
	import { keepPageWhileAway } from '$lib/ui/patient-fetch.ts';
	import NextUp from '$lib/ui/NextUp.svelte';
	import { PLACES } from '$lib/ui/places.ts';
	import { readCommas } from '$lib/ui/decimal-comma.ts';
	import { listenForScans, sound } from '$lib/ui/scanner.ts';
	import ScanReply from '$lib/ui/ScanReply.svelte';
	import Strip from '$lib/ui/Strip.svelte';
	import { forgetSaid, sayNot } from '$lib/ui/said.ts';
	import { speakTo, theirs } from '$lib/ui/theirs.svelte.ts';
	import { theme } from '$lib/ui/theme.svelte.ts';
	import { working } from '$lib/ui/working.svelte.ts';
	import type { Term } from '$lib/ui/glossary.ts';
	import Words from '$lib/ui/Words.svelte';
	import WorkBar from '$lib/ui/WorkBar.svelte';
	import WorkingDialog from '$lib/ui/WorkingDialog.svelte';

	let { data, children } = $props();
	// Before anything below is drawn, and again when somebody else is named or chooses otherwise.
	speakTo(untrack(() => data.theirs));
	$effect.pre(() => speakTo(data.theirs));
	let field: HTMLInputElement | undefined = $state();
	let typed = $state('');
	let reply = $state<Found | null>(null);
	/** What was scanned at the feeders and is not finished: whose it is, and when it is over. */
	const SEQUENCE_S = 60;
	let sequence: { context: NonNullable<Found['waits']>['context']; by: string | null; over: ReturnType<typeof setTimeout> } | null = null;
	let nextOpen = $state(false);
	let keysOpen = $state(false);
	let figuresOpen = $state(false);
	let main: HTMLElement | undefined = $state();
	let words = $state.raw<readonly Term[]>([]);
	let goPending = false;
	let away = $state(false);
	let late = $state(false);

	/** One after the other, however fast they come: each is answered with what the ones before it brought. */
	let scans = Promise.resolve();
	function scanned(code: string) {
		scans = scans.then(() => look(code));
	}
	async function look(code: string) {
		if (await scannedNext(code)) return;
		const answer = await send<Found>('GET', `/api/v1/find?code=${encodeURIComponent(code)}${data.line ? `&line=${data.line.id}` : ''}`);
		const found = answer.data ?? nothing('No answer', answer.message);
		replied(found);
		// At a station PC a badge names the person for what is done next.
		if (found.badge && data.stationPc) {
			const shown = await send<{ name: string }>('POST', '/api/v1/badge', { badge: found.badge });
			if (shown.ok) await invalidateAll();
		}
	}

	const nothing = (what: string, why: string): Found => ({ ok: false, what, why, href: null, badge: null, moves: [], waits: null });

	function replied(found: Found) {
		reply = found;
		sound(found.ok);
		clearTimeout(sequence?.over);
		sequence = found.waits && {
			context: found.waits.context,
			by: data.person?.id ?? null,
			over: setTimeout(() => {
				sequence = null;
				reply = nothing('Begin again', `Nothing was scanned for ${SEQUENCE_S} s: what was scanned before does not count any more.`);
			}, SEQUENCE_S * 1000)
		};
	}

	/** A scan that goes on with the ones before it, of the same person. @returns whether it was one */
	async function scannedNext(scan: string): Promise<boolean> {
		if (!sequence || !data.line || sequence.by !== (data.person?.id ?? null)) return false;
		const { context } = sequence;
		const answer = await send<Found>('POST', '/api/v1/feeder-scans', { scan, lineId: data.line.id, ...context });
		// No code of a feeder, a reel or a slot: it means what it always means, and what was scanned before is over.
		if (!answer.ok && answer.issues.some((issue) => issue.field === 'scan')) {
			clearTimeout(sequence?.over);
			sequence = null;
			return false;
		}
		replied(answer.data ?? nothing('Not done', answer.message));
		if (answer.data?.waits === null) await invalidateAll();
		return true;
	}

	function pressed(key: string) {
		if (goPending) {
			goPending = false;
			const place = key === 'h' ? '/' : PLACES.find((p) => p.key === key)?.href;
			if (place) void goto(place);
			return;
		}
		if (key === '/') field?.focus();
		else if (key === 'n') nextOpen = !nextOpen;
		else if (key === 'w') working.toggleOffered();
		else if (key === '?') keysOpen = !keysOpen;
		else if (key === 'g') {
			goPending = true;
			setTimeout(() => (goPending = false), 1500);
		}
	}

	async function signOut() {
		await send('POST', '/api/auth/sign-out', {});
		forgetSaid();
		await invalidateAll();
		await goto('/sign-in');
	}

	$effect(doEarly);
	// Said to whoever drives the page from outside: from here on it hears keys and presses.
	$effect(() => {
		document.documentElement.dataset.alive = 'yes';
	});
	$effect(() => theme.read());
	$effect(() => {
		if (data.clock) plantTime.set(data.clock.nowMs, data.clock.rate);
	});
	$effect(() => {
		const timer = setInterval(() => plantTime.tick(), 1000);
		return () => clearInterval(timer);
	});
	const signedIn = $derived(data.person !== null || data.stationPc !== null);
	$effect(() => {
		if (!signedIn) return;
		const stops = [
			listenLive(
				(now) => (away = now),
				(now) => (late = now)
			),
			keepPageWhileAway((now) => (away = now)),
			listenForScans(scanned, pressed),
			readCommas(
				() => theirs().sign,
				(message) => sayNot(message)
			)
		];
		return () => stops.forEach((stop) => stop());
	});
</script>

<svelte:head><title>Keen Relay</title></svelte:head>
<Toaster
	position="bottom-left"
	offset={{ bottom: 56, left: 20 }}
	duration={6000}
	closeButton
	theme={theme.now === 'night' ? 'dark' : 'light'}
/>

{#if !signedIn || !data.plant}
	{@render children()}
{:else if page.route.id?.endsWith('/wall')}
	<!-- Read from across the hall: on a larger screen everything is larger, not more. -->
	<main class="h-dvh overflow-hidden min-[1900px]:h-[calc(100dvh/1.4)] min-[1900px]:[zoom:1.4]">{@render children()}</main>
{:else}
	{@const zone = data.plant.timeZone}
	<div class="flex h-dvh min-w-[640px] flex-col overflow-hidden">
		<header class="flex h-[52px] items-center gap-5 border-b border-line px-5 whitespace-nowrap max-[1179px]:gap-3 max-[1179px]:px-3">
			<a href="/" class="flex items-center gap-2 text-lg font-bold">
				<svg width="26" height="16" viewBox="0 0 24 16" aria-hidden="true">
					<path d="M1 12h7l4-8h11" fill="none" stroke="var(--copper)" stroke-width="2.4" /><rect
						x="8.5"
						y="8"
						width="6"
						height="6"
						fill="var(--ink)"
					/>
				</svg>
				Keen Relay
			</a>
			{#if data.line}
				<span class="flex min-w-0 items-center">
					<a class="font-semibold underline decoration-line underline-offset-4" href="/line/{data.line.id}" data-testid="line-home"
						>{data.line.name}</a
					>
					{#if data.lines.length > 1}
						<select
							class="select ml-1 h-9 w-9 border-transparent bg-transparent pl-0 text-[0px]"
							value={data.line.id}
							onchange={(event) => goto(`/line/${event.currentTarget.value}`)}
							aria-label="Line"
						>
							{#each data.lines as line (line.id)}<option class="text-base" value={line.id}>{line.name}</option>{/each}
						</select>
					{/if}
					{#if data.line.run}
						<span class="ml-2 truncate text-soft max-[999px]:hidden"
							>{data.line.run.number} {data.line.run.board}, {data.line.run.side}</span
						>
						<span class="figure ml-1">{data.line.run.finished}<span class="text-soft">/{data.line.run.panels}</span></span>
					{:else}
						<span class="ml-2 text-soft">no run</span>
					{/if}
				</span>
			{/if}
			<form
				class="flex min-w-[110px] flex-1 justify-end"
				onsubmit={(event) => {
					event.preventDefault();
					if (typed.trim()) void scanned(typed.trim());
					typed = '';
				}}
			>
				<label class="input h-9 w-full max-w-[330px] border-line bg-sheet">
					<kbd class="kbd kbd-sm">/</kbd>
					<input bind:this={field} bind:value={typed} placeholder="scan or type any code" aria-label="Scan or type any code" />
				</label>
			</form>
			<span
				><span class="text-soft max-[999px]:hidden">{data.shift?.name ?? 'No'} shift</span>
				<span class="figure" data-testid="plant-clock">{clockTime(plantTime.now, zone)}</span></span
			>
			{#if data.stationPc}<BadgeBar stationPc={data.stationPc.name} person={data.person} />
			{:else if data.person}<span
					><strong>{data.person.name}</strong> <span class="text-soft max-[999px]:hidden">{data.person.role}</span></span
				>{/if}
			<span class="flex">
				<button class="btn btn-square btn-ghost btn-sm" onclick={() => theme.toggle()} aria-label="Day or night" title="Day or night">
					{#if theme.now === 'day'}<Moon size={18} />{:else}<Sun size={18} />{/if}
				</button>
				{#if data.person}<button
						class="btn btn-square btn-ghost btn-sm"
						onclick={() => (figuresOpen = true)}
						aria-label="Numbers and units"
						title="Numbers and units"><Ruler size={18} /></button
					>{/if}
				{#if !data.stationPc}
					<button class="btn btn-square btn-ghost btn-sm" onclick={signOut} aria-label="Sign out" title="Sign out"
						><LogOut size={18} /></button
					>
				{/if}
			</span>
		</header>
		<Strip tiles={data.line?.tiles ?? []} timeZone={zone} stale={late} />
		{#if data.start && !page.url.pathname.startsWith('/plant/set-up')}
			<p class="flex items-center gap-3 border-b border-line bg-sheet px-5 py-1.5" role="status" data-testid="start-next">
				<span class="font-semibold">To the first panel: {data.start.title}.</span>
				<span class="min-w-0 flex-1 truncate" title={data.start.next}>{data.start.next}</span>
				{#if !page.url.pathname.startsWith(data.start.href)}<a class="btn min-h-11 btn-primary" href={data.start.href}>Go there</a>{/if}
				<a class="underline" href="/plant/set-up">All steps</a>
			</p>
		{/if}
		{#if late && !away}
			<p class="border-b border-line bg-sheet px-5 py-2 font-semibold" role="status" data-testid="stale">
				No word from the server for 5 s: what you see may be old. It comes right by itself.
			</p>
		{/if}
		{#if away}
			<p class="border-b border-line bg-sheet px-5 py-2 font-semibold" role="status" data-testid="away">
				Read only: the database cannot be reached. What you see is the last that was known; nothing can be saved until it is back.
			</p>
		{/if}
		<main class="min-h-0 flex-1 overflow-hidden" bind:this={main}>
			<!-- A page starts afresh for another board or shift; news from the line never touches what somebody is editing. -->
			{#key `${page.url.pathname} ${page.url.searchParams.get('side')} ${page.url.searchParams.get('of')}`}{@render children()}{/key}
		</main>
		<WorkBar />
		<NextUp due={data.line?.next ?? []} timeZone={zone} budget={data.actsPerHour} bind:open={nextOpen} />
	</div>
	<ScanReply {reply} line={data.line?.name ?? null} onclose={() => (reply = null)} />
	<WorkingDialog />
	<ApprovalDialog />
	<KeyList bind:open={keysOpen} {words} />
	<Words within={main} bind:here={words} />
	{#if data.person}<FiguresDialog own={data.own} plant={data.plant} name={data.person.name} bind:open={figuresOpen} />{/if}
{/if}
