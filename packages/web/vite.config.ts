import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { outDir: '../../dist/web', emptyOutDir: true, manifest: true, chunkSizeWarningLimit: 900 },
  server: { port: 4781, proxy: { '/api': 'http://127.0.0.1:4780' } },
  worker: { format: 'es' },
})
