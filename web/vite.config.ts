import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { chunkSizeWarningLimit: 1400 },
  test: { setupFiles: ['src/ui/noNetwork.ts'] },
  server: { proxy: { '/api': 'http://127.0.0.1:7411' } },
})
