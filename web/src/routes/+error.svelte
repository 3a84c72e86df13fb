<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { page } from '$app/state';

	// The database may be back at any moment: the page tries again by itself and nobody has to sign in anew.
	$effect(() => {
		if (!page.error?.away) return;
		const timer = setInterval(() => void invalidateAll(), 3000);
		return () => clearInterval(timer);
	});
</script>

<section class="p-8" role="alert">
	{#if page.error?.away}
		<h1 class="text-[28px] font-bold">Wait. <span class="font-semibold">{page.error.message}</span></h1>
		<p class="mt-2 text-soft">You are still signed in. This page tries again every three seconds; the machines keep their messages.</p>
	{:else}
		<h1 class="text-[28px] font-bold">
			{page.error?.go ? 'Not there yet.' : page.status === 404 ? 'Not found.' : 'This did not work.'}
			<span class="font-semibold">{page.error?.message}</span>
		</h1>
		{#if page.error?.go}<p class="mt-4"><a class="btn min-h-16 text-lg btn-primary" href={page.error.go.href}>{page.error.go.words}</a></p>
		{:else}<p class="mt-2 text-soft">Nothing was changed. Choose a station above, or go back and try again.</p>{/if}
	{/if}
</section>
