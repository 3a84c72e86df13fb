import { defineConfig } from 'vite';

/** The work that the server gives to threads of its own, as one file beside the server's entry. */
export default defineConfig({
	publicDir: false,
	// Only our own source is built in: packages are found beside it, as the server finds them.
	ssr: { noExternal: ['@keen-relay/core'] },
	resolve: { alias: { $lib: new URL('./src/lib', import.meta.url).pathname } },
	build: { ssr: 'src/lib/server/heavy/worker.ts', outDir: 'build/heavy', emptyOutDir: true, target: 'node20' }
});
