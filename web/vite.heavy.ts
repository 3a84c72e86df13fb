import { defineConfig } from 'vite';

/** The work that the server gives to threads of its own, as one file beside the server's entry. */
export default defineConfig({
	publicDir: false,
	ssr: { noExternal: true },
	build: { ssr: 'src/lib/server/heavy/worker.ts', outDir: 'build/heavy', emptyOutDir: true, target: 'node20' }
});
