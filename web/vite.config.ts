import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	// The core is our own source, not a published package: it is built with the application.
	ssr: { noExternal: ['@keen-relay/core'] },
	server: { fs: { allow: ['..'] } },
	build: { chunkSizeWarningLimit: 900 }
});
