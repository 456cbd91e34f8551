import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

/**
 * How the page is cut into files: one with what every page needs first, and one for each set of pages that share
 * something, smaller ones put to their nearest neighbour. Left alone, each shared module is a file of its own, and
 * opening a stage takes eighty requests.
 */
const groups = [
  { name: 'initial', tags: ['$initial' as const] },
  { name: 'shared', minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 10_000 },
]

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: '../../dist/web',
    emptyOutDir: true,
    manifest: true,
    chunkSizeWarningLimit: 900,
    rolldownOptions: { output: { codeSplitting: { groups } } },
  },
  server: { port: 4781, proxy: { '/api': 'http://127.0.0.1:4780' } },
  worker: { format: 'es' },
})
